<script setup lang="ts">
/** The tune as it is written, line by line. A line is drawn anew only where something of its own changed. */
import { computed, nextTick, ref, shallowRef, watch } from 'vue';
import type { Trouble } from '@nokta/core/edit';
import { barNumbers, barLength, type Tune } from '@nokta/core/music';
import type { EngravedLine } from '@nokta/engrave';
import { engraver } from '../../../workers/index.ts';
import NoteKeypad from './NoteKeypad.vue';
import WrittenLine from './WrittenLine.vue';
import { clefFor, lineTune, linesOf, sameLine, type WritingLine as Line } from './lines.ts';
import { useWriter } from './writer.ts';

defineProps<{ playingId: string | null }>();
const writer = useWriter();

interface Drawn {
  readonly tune: Tune;
  readonly picture: EngravedLine | null;
}
const drawn = shallowRef<readonly Drawn[]>([]);
const page = ref<HTMLElement | null>(null);
let turn = 0;

const lines = computed(() => linesOf(writer.tune?.bars ?? []));
const numbers = computed(() => barNumbers(writer.tune?.bars ?? []));

/** Lines that no edit touched keep their picture; the one at the caret is drawn first. */
watch(
  () => writer.tune,
  async (tune) => {
    if (!tune) return;
    const own = (turn += 1);
    const before = drawn.value;
    const wanted = lines.value.map((line) => lineTune(tune, line));
    drawn.value = wanted.map((small, index) => {
      const same = before.find((other) => sameLine(other.tune, small));
      return { tune: small, picture: same?.picture ?? before[index]?.picture ?? null };
    });
    const todo = wanted
      .map((small, index) => ({ small, index }))
      .filter(({ small }) => !before.some((other) => other.picture && sameLine(other.tune, small)));
    const here = lines.value.findIndex(({ from, to }) => writer.barIndex >= from && writer.barIndex <= to);
    todo.sort((a, b) => Math.abs(a.index - here) - Math.abs(b.index - here));
    const clef = clefFor(tune);
    for (const { small, index } of todo) {
      const picture = await engraver.engraveBars(
        small,
        clef,
        index > 0 && sameMetre(tune, lines.value[index]?.from ?? 0),
      );
      if (own !== turn) return;
      drawn.value = drawn.value.map((other, at) => (at === index ? { tune: small, picture } : other));
    }
  },
  { immediate: true },
);

function sameMetre({ bars }: Tune, from: number): boolean {
  const [now, before] = [bars[from]?.metre, bars[from - 1]?.metre];
  return now?.beats === before?.beats && now?.unit === before?.unit;
}

watch(
  () => [writer.at, drawn.value.length] as const,
  () => void nextTick(() => page.value?.querySelector('.caret-line')?.scrollIntoView({ block: 'nearest' })),
);

/** Nothing, as the same thing each time: a line that it is told to is not drawn anew. */
const NO_TROUBLES: readonly Trouble[] = [];
const NONE: ReadonlySet<string> = new Set();
let troublesBefore: readonly (readonly Trouble[])[] = [];
const troubles = computed(() => {
  const found = lines.value.map(({ from, to }, index) => {
    const own = writer.troubles.filter(({ bar }) => bar >= from && bar <= to);
    const before = troublesBefore[index];
    const same = before?.length === own.length && own.every((one, at) => sameTrouble(one, before[at]!));
    return same ? before : own.length === 0 ? NO_TROUBLES : own;
  });
  troublesBefore = found;
  return found;
});
const sameTrouble = (one: Trouble, other: Trouble) =>
  one.kind === other.kind && one.bar === other.bar && one.message === other.message;

const hasCaret = ({ from, to }: Line) => writer.barIndex >= from && writer.barIndex <= to;
const caretIn = (line: Line) => (writer.mode === 'caret' && hasCaret(line) ? writer.at : null);

/** By line: its events. */
const idsOf = computed(() =>
  lines.value.map(
    ({ from, to }) =>
      new Set(writer.tune?.bars.slice(from, to + 1).flatMap(({ events }) => events.map(({ id }) => id)) ?? []),
  ),
);
function pickedIn(index: number): ReadonlySet<string> {
  if (writer.mode !== 'box') return NONE;
  const own = idsOf.value[index]!;
  for (const id of writer.chosen) if (own.has(id)) return writer.chosen;
  return NONE;
}
const playingIn = (index: number, id: string | null) => (id !== null && idsOf.value[index]!.has(id) ? id : null);

/** The last bar of a line is still being written. */
function isOpen({ to }: Line): boolean {
  const bar = writer.tune?.bars[to];
  return bar !== undefined && bar.length < barLength(bar.metre);
}
</script>

<template>
  <div ref="page" class="page" role="group" aria-label="Writing" data-music tabindex="-1">
    <WrittenLine
      v-for="(line, index) in lines"
      :key="index"
      :picture="drawn[index]?.picture ?? null"
      :first="numbers[line.from] ?? 0"
      :last="numbers[line.to] ?? 0"
      :from="line.from"
      :open="isOpen(line)"
      :troubles="troubles[index] ?? NO_TROUBLES"
      :has-caret="hasCaret(line)"
      :caret="caretIn(line)"
      :picked="pickedIn(index)"
      :playing-id="playingIn(index, playingId)"
      :text-at="writer.entry && hasCaret(line) ? (writer.at ?? '') : null"
      @go="(event, more) => writer.goTo(event, more)"
    />
    <NoteKeypad v-if="writer.keypad" />
  </div>
</template>

<style scoped>
.page {
  display: grid;
  align-content: start;
  gap: 6px;
}
/* It takes the focus so that keys write; the caret shows where. */
.page:focus {
  outline: none;
}
</style>

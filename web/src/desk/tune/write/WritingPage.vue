<script setup lang="ts">
/** The tune as it is written, line by line: caret, box, bars that want mending, words and chords being typed. */
import { computed, nextTick, ref, shallowRef, watch } from 'vue';
import { barNumbers, barLength, type Tune } from '@nokta/core/music';
import type { EngravedLine } from '@nokta/engrave';
import { engraver } from '../../../workers/index.ts';
import TextLine from './TextLine.vue';
import { clefFor, lineTune, linesOf, sameLine } from './lines.ts';
import { useWriter } from './writer.ts';

defineProps<{ playingId: string | null }>();
const writer = useWriter();

/** Pixels to a staff space. */
const SPACE = 7.6;
const WIDTH = 10;

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

/** Bars of a line that something is wrong with, as a band from bar line to bar line. */
function bandsOf(index: number) {
  const line = lines.value[index];
  const picture = drawn.value[index]?.picture;
  if (!line || !picture) return [];
  return writer.troubles
    .filter(({ bar }) => bar >= line.from && bar <= line.to)
    .map((trouble) => {
      const at = trouble.bar - line.from;
      const left = at > 0 ? (picture.barlines[at - 1] ?? 0) : 0;
      const right = picture.barlines[at] ?? picture.width;
      return { trouble, x: left * SPACE, width: Math.max(0, right - left) * SPACE };
    });
}

const isPicked = (id: string) => writer.mode === 'box' && writer.chosen.has(id);

/** Behind the note that was written last; at the very start before the first. */
function caretX(picture: EngravedLine): number | null {
  if (writer.mode !== 'caret' || writer.at === null) return null;
  const head = picture.heads[writer.at];
  return head ? (head.x + 1.5) * SPACE : null;
}

const hasCaret = (index: number) => {
  const line = lines.value[index];
  return line !== undefined && writer.barIndex >= line.from && writer.barIndex <= line.to;
};

function fullness(index: number): string {
  const bar = writer.tune?.bars[index];
  return bar && bar.length < barLength(bar.metre) ? 'not full' : '';
}
</script>

<template>
  <div ref="page" class="page" role="group" aria-label="Writing" data-music tabindex="-1">
    <section
      v-for="(line, index) in lines"
      :key="index"
      class="line"
      :class="{ 'caret-line': hasCaret(index) }"
      :aria-label="`Bars ${numbers[line.from]} to ${numbers[line.to]}`"
    >
      <span class="number" aria-hidden="true">{{ numbers[line.from] }}</span>
      <svg
        v-if="drawn[index]?.picture"
        class="music"
        role="group"
        :aria-label="`Notes of bars ${numbers[line.from]} to ${numbers[line.to]} ${fullness(line.to)}`"
        :width="drawn[index].picture!.width * SPACE"
        :height="drawn[index].picture!.height * SPACE"
        :viewBox="`0 0 ${drawn[index].picture!.width * SPACE} ${drawn[index].picture!.height * SPACE}`"
      >
        <g v-for="{ trouble, x, width } in bandsOf(index)" :key="`${trouble.kind}-${trouble.bar}`" class="trouble">
          <title>{{ trouble.message }}</title>
          <rect
            :x="x + 2"
            y="1"
            :width="Math.max(0, width - 4)"
            :height="drawn[index].picture!.height * SPACE - 2"
            rx="6"
          />
          <text :x="x + width - 15" y="15">!</text>
        </g>
        <template v-for="({ x }, id) in drawn[index].picture!.heads" :key="id">
          <rect
            v-if="isPicked(String(id)) || playingId === String(id)"
            class="box"
            :class="{ sounding: playingId === String(id) }"
            :x="x * SPACE - WIDTH"
            y="2"
            :width="2 * WIDTH"
            :height="drawn[index].picture!.height * SPACE - 4"
            rx="5"
          />
        </template>
        <svg
          class="staff engraved"
          :width="drawn[index].picture!.width * SPACE"
          :height="drawn[index].picture!.height * SPACE"
          :viewBox="drawn[index].picture!.viewBox"
          v-html="drawn[index].picture!.markup"
        />
        <line
          v-if="caretX(drawn[index].picture!) !== null"
          class="caret"
          :x1="caretX(drawn[index].picture!)!"
          :x2="caretX(drawn[index].picture!)!"
          y1="4"
          :y2="drawn[index].picture!.height * SPACE - 4"
        />
        <rect
          v-for="({ x }, id) in drawn[index].picture!.heads"
          :key="`hit-${id}`"
          class="hit"
          :data-event="id"
          :x="x * SPACE - WIDTH"
          y="0"
          :width="2 * WIDTH"
          :height="drawn[index].picture!.height * SPACE"
          @click="writer.goTo(String(id).replace(/-\d+$/, ''), $event.shiftKey)"
        />
      </svg>
      <p v-else class="wait">Engraving…</p>
      <!-- Open at once, whether or not the line is engraved yet: what is typed next is its text. -->
      <TextLine
        v-if="writer.entry && hasCaret(index)"
        :x="(drawn[index]?.picture?.heads[writer.at ?? '']?.x ?? 0) * SPACE"
      />
    </section>
  </div>
</template>

<style scoped src="./writingPage.css" />

<script setup lang="ts">
/** The form at a glance: a row for each phrase, a bead for each bar; the same music, the same bead. */
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import type { Facts } from '@nokta/core/arrange';
import { phrasesOf, type Phrase } from '@nokta/core/form';
import { barNumbers, barStarts, isNote } from '@nokta/core/music';

const props = defineProps<{
  facts: Pick<Facts, 'tune' | 'form'>;
  selectedId: string | null;
  playingId: string | null;
  hinted: ReadonlySet<string>;
  /** Beads can be dragged to the row above or below. */
  movable: boolean;
}>();
const emit = defineEmits<{
  select: [noteId: string];
  /** This phrase shall begin with this note; with none it is joined with the one before. */
  move: [phrase: Phrase, noteId: string | null];
}>();

/** Shape and filling together tell twenty-four kinds apart without colour. */
const SHAPES = ['circle', 'diamond', 'square', 'hexagon', 'up', 'down', 'oval', 'bar'] as const;
const FILLS = ['full', 'ring', 'half'] as const;

interface Bead {
  readonly bar: number;
  readonly shape: string;
  readonly fill: string;
  readonly note: string;
  readonly notes: ReadonlySet<string>;
  readonly comesBack: boolean;
}

const rows = computed(() => {
  const { tune, form } = props.facts;
  const groups = form.bars.map(({ material }) => material);
  const numbers = barNumbers(tune.bars);
  const starts = barStarts(tune.bars);
  const kinds = [...new Set(groups.filter((_, index) => form.bars[index]!.counts))];
  const beadOf = (index: number, notes: ReadonlySet<string>): Bead => {
    const kind = Math.max(0, kinds.indexOf(groups[index]!));
    return {
      bar: numbers[index]!,
      shape: SHAPES[kind % SHAPES.length]!,
      fill: FILLS[Math.floor(kind / SHAPES.length) % FILLS.length]!,
      note: tune.bars[index]!.events.find((event) => isNote(event))!.id,
      notes,
      comesBack: groups.filter((group) => group === groups[index]).length > 1,
    };
  };
  return phrasesOf(form).map((phrase) => {
    const own = [...tune.bars.keys()].filter((index) => {
      const half = tune.bars[index]!.length / 2;
      const inside = starts[index]! >= phrase.from - half && starts[index]! < phrase.to - half;
      return inside && tune.bars[index]!.events.some((event) => isNote(event));
    });
    const counted = own.filter((index) => form.bars[index]!.counts);
    // A pickup hangs on the bead of the bar that it leads into; a phrase that is nothing else has its own.
    const strung = counted.length > 0 ? counted : own;
    const beads = strung.map((index, place) => {
      const last = place === strung.length - 1;
      const hanging = own.filter((bar) => (place === 0 || bar > strung[place - 1]!) && (last || bar <= index));
      return beadOf(index, new Set(hanging.flatMap((bar) => tune.bars[bar]!.events.map(({ id }) => id))));
    });
    return { phrase, beads };
  });
});
/** The bead that is being dragged, and the row that it is over. */
const dragged = ref<{ readonly row: number; readonly bead: number; readonly over: number } | null>(null);
/** A press that moved is a drag, not a choice. */
let moved = false;

function grab(row: number, bead: number, event: PointerEvent): void {
  moved = false;
  if (!props.movable) return;
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  dragged.value = { row, bead, over: row };
}

function follow(event: PointerEvent): void {
  const now = dragged.value;
  if (!now) return;
  const item = document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>('li[data-row]');
  const over = item ? Number(item.dataset['row']) : now.row;
  // Beads slide along one thread: to the next row, no further.
  if (Math.abs(over - now.row) > 1) return;
  if (over !== now.row) moved = true;
  dragged.value = { ...now, over };
}

function letGo(): void {
  const now = dragged.value;
  dragged.value = null;
  if (!now || now.over === now.row) return;
  const own = rows.value[now.row]!;
  if (now.over < now.row) {
    // This bead and all before it go up: the phrase begins with the next one.
    emit('move', own.phrase, own.beads[now.bead + 1]?.note ?? null);
  } else {
    const next = rows.value[now.over]!;
    emit('move', next.phrase, now.bead === 0 ? null : own.beads[now.bead]!.note);
  }
}

/** Whether a bead would go along with the one that is dragged. */
function goes(row: number, bead: number): boolean {
  const now = dragged.value;
  if (!now || now.over === now.row || row !== now.row) return false;
  return now.over < now.row ? bead <= now.bead : bead >= now.bead;
}

function choose(note: string): void {
  if (!moved) emit('select', note);
}

const beginsPart = ({ id }: Phrase) =>
  props.facts.form.parts.some(({ phrases }, index) => index > 0 && phrases[0]!.id === id);
const pointsAt = ({ notes }: Bead) => props.hinted.size > 0 && [...notes].some((id) => props.hinted.has(id));
const here = computed(() => props.playingId ?? props.selectedId ?? '');

/** The bead that Tab leads to: the one that is here, or where the arrows went. */
const walked = ref<string | null>(null);
const stop = computed(() => {
  const all = rows.value.flatMap(({ beads }) => beads);
  const own = all.find(({ note }) => note === walked.value) ?? all.find(({ notes }) => notes.has(here.value)) ?? all[0];
  return own?.note ?? null;
});
const rail = useTemplateRef<HTMLElement>('rail');

/** Arrows walk along the thread and from row to row; Tab leaves it. */
function walk(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const row = rows.value.findIndex(({ beads }) => beads.some(({ note }) => note === stop.value));
  const all = rows.value.flatMap(({ beads }) => beads);
  const at = all.findIndex(({ note }) => note === stop.value);
  const place = rows.value[row]?.beads.findIndex(({ note }) => note === stop.value) ?? 0;
  const inRow = (to: number) => rows.value[to]?.beads.at(place) ?? rows.value[to]?.beads.at(-1);
  const steps: Readonly<Record<string, () => Bead | undefined>> = {
    ArrowRight: () => all[at + 1],
    ArrowLeft: () => all[at - 1],
    ArrowDown: () => inRow(row + 1),
    ArrowUp: () => (row > 0 ? inRow(row - 1) : undefined),
    Home: () => all[0],
    End: () => all.at(-1),
  };
  const step = steps[event.key];
  if (!step) return;
  event.preventDefault();
  event.stopPropagation();
  const next = step();
  if (!next) return;
  walked.value = next.note;
  void nextTick(() => rail.value?.querySelector<HTMLElement>('[tabindex="0"]')?.focus());
}

function nameOf({ bar, comesBack, notes }: Bead): string {
  return `Bar ${bar}${comesBack ? ', comes more than once' : ''}${notes.has(here.value) ? ', here' : ''}`;
}
</script>

<template>
  <nav ref="rail" class="rail" aria-label="Form of the tune" @keydown="walk" @focusout="walked = null">
    <ol>
      <li
        v-for="({ phrase, beads }, row) in rows"
        :key="phrase.from"
        :data-row="row"
        :class="{ part: beginsPart(phrase), over: dragged?.over === row && dragged.row !== row }"
      >
        <span class="name" :class="{ long: phrase.label.length > 3 }">{{ phrase.label }}</span>
        <span class="beads">
          <button
            v-for="(bead, index) in beads"
            :key="bead.note"
            type="button"
            class="bead"
            :class="[
              bead.shape,
              bead.fill,
              { here: bead.notes.has(here), hinted: pointsAt(bead), goes: goes(row, index), movable },
            ]"
            :aria-label="nameOf(bead)"
            :tabindex="bead.note === stop ? 0 : -1"
            :title="`Bar ${bead.bar}`"
            @click="choose(bead.note)"
            @pointerdown="grab(row, index, $event)"
            @pointermove="follow"
            @pointerup="letGo"
            @pointercancel="dragged = null"
          >
            <svg viewBox="-8 -8 16 16" aria-hidden="true">
              <circle v-if="bead.shape === 'circle'" r="5.5" />
              <path v-else-if="bead.shape === 'diamond'" d="M0 -7 L7 0 L0 7 L-7 0 Z" />
              <rect v-else-if="bead.shape === 'square'" x="-5" y="-5" width="10" height="10" />
              <path v-else-if="bead.shape === 'hexagon'" d="M-3.5 -6 H3.5 L7 0 L3.5 6 H-3.5 L-7 0 Z" />
              <path v-else-if="bead.shape === 'up'" d="M0 -6.5 L6.5 5.5 H-6.5 Z" />
              <path v-else-if="bead.shape === 'down'" d="M0 6.5 L6.5 -5.5 H-6.5 Z" />
              <ellipse v-else-if="bead.shape === 'oval'" rx="7" ry="4" />
              <rect v-else x="-3" y="-6.5" width="6" height="13" rx="3" />
              <path v-if="bead.fill === 'half'" class="cut" d="M-8 0 H8" />
            </svg>
          </button>
        </span>
      </li>
    </ol>
  </nav>
</template>

<style scoped src="./beadRail.css" />

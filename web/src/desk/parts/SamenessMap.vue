<script setup lang="ts">
/**
 * How the tune is woven: bars from left to right, a line for each bar that has to be learned, in the order in
 * which they first come. New music steps down; what comes back jumps up to its line. The same phrase draws the same path.
 */
import { computed, ref } from 'vue';
import { phrasesOf, type BarMaterial } from '@nokta/core/form';
import { useDesk } from '../rooms/store.ts';

const desk = useDesk();

/** Pixels; lines come closer together in long tunes, so that all is seen at once. */
const HEIGHT = 132;
const LEAST_LINE = 1.2;
const MOST_LINE = 15;
const LEFT = 30;
const TOP = 22;
const WIDTH = 820;

interface Knot {
  readonly index: number;
  readonly bar: BarMaterial;
  readonly x: number;
  readonly y: number;
  readonly isNew: boolean;
  /** Line of an earlier bar that it resembles. */
  readonly likeY: number | null;
  readonly label: string;
}

const picture = computed(() => {
  const form = desk.arrangement?.form;
  if (!form) return null;
  const counted = form.bars.flatMap((bar, index) => (bar.counts ? [{ bar, index }] : []));
  const materials = [...new Set(counted.map(({ bar }) => bar.material))];
  const phrases = phrasesOf(form);
  const line = Math.max(LEAST_LINE, Math.min(MOST_LINE, HEIGHT / Math.max(1, materials.length)));
  const gaps = phrases.length - 1;
  const step = (WIDTH - LEFT - 14 - 7 * gaps) / Math.max(1, counted.length);
  const y = (material: number) => TOP + line * (materials.indexOf(material) + 0.5);
  const knots: Knot[] = [];
  const bands: { label: string; part: boolean; from: number; to: number; path: string; id: string }[] = [];
  let x = LEFT;
  for (const phrase of phrases) {
    const own = counted.filter(({ bar }) => bar.phrase === phrase.id);
    const from = x;
    for (const { bar, index } of own) {
      const first = form.bars[bar.material]!;
      const isNew = bar.material === index;
      const like = bar.like ? form.bars[bar.like.bar]! : null;
      const how =
        like &&
        { octave: 'at the octave', transposed: 'on other steps', 'same-rhythm': 'the rhythm of' }[bar.like!.how];
      knots.push({
        index,
        bar,
        x: x + step / 2,
        y: y(bar.material),
        isNew,
        likeY: like && bar.like!.how !== 'same-rhythm' ? y(like.material) : null,
        label: isNew
          ? `Bar ${bar.number}, new${like ? `; ${how === 'the rhythm of' ? `the rhythm of bar ${like.number}` : `bar ${like.number} ${how}`}` : ''}`
          : `Bar ${bar.number} is bar ${first.number}`,
      });
      x += step;
    }
    const points = knots.slice(knots.length - own.length).map((knot) => `${knot.x} ${knot.y}`);
    bands.push({
      id: phrase.id,
      label: phrase.label,
      part: form.parts.some((part) => part.phrases[0]!.id === phrase.id),
      from,
      to: x,
      path: points.length > 1 ? `M${points.join(' L')}` : '',
    });
    x += 7;
  }
  return {
    knots,
    bands,
    height: TOP + line * materials.length + 8,
    radius: Math.min(5, line * 0.42, step * 0.4),
    learn: form.learn,
  };
});

const hereBar = computed(() => {
  const at = desk.playingId ?? desk.selectedId ?? '';
  return desk.arrangement?.tune.bars.findIndex((bar) => bar.events.some(({ id }) => id === at)) ?? -1;
});
const material = (index: number) => desk.arrangement?.form.bars[index]?.material;

function notesOf(index: number): readonly string[] {
  return desk.arrangement?.tune.bars[index]?.events.map(({ id }) => id) ?? [];
}
/** All bars of one kind light up on strips and rail. */
function point(knot: Knot | null): void {
  const bars = desk.arrangement?.form.bars ?? [];
  desk.hinted = new Set(
    knot ? bars.flatMap((bar, index) => (bar.material === knot.bar.material ? notesOf(index) : [])) : [],
  );
}

/** Place in the row of beads of the one that the keyboard is at. */
const focused = ref<number | null>(null);
const tabStop = computed(() => {
  const knots = picture.value?.knots ?? [];
  const here = focused.value ?? knots.findIndex(({ index }) => index === hereBar.value);
  return here >= 0 && here < knots.length ? here : 0;
});
/** To the bars beside it, or along its line to the other places of the same bar. */
function step(at: number, event: KeyboardEvent): void {
  const { knots } = picture.value!;
  const same = ({ bar }: Knot) => bar.material === knots[at]!.bar.material;
  const places: Record<string, () => number> = {
    ArrowLeft: () => at - 1,
    ArrowRight: () => at + 1,
    ArrowUp: () => knots.findLastIndex((knot, index) => index < at && same(knot)),
    ArrowDown: () => knots.findIndex((knot, index) => index > at && same(knot)),
    Home: () => 0,
    End: () => knots.length - 1,
  };
  const to = places[event.key]?.();
  if (to === undefined) {
    if (event.key !== 'Enter' && event.key !== ' ') return;
    go(knots[at]!);
  } else if (knots[to]) {
    const beads = (event.currentTarget as Element).parentElement!.querySelectorAll<SVGGElement>('.knot');
    beads[to]!.focus();
  }
  // The desk's own keys do not walk as well.
  event.preventDefault();
  event.stopPropagation();
}
function arrive(at: number | null): void {
  focused.value = at;
  point(at === null ? null : picture.value!.knots[at]!);
}
function go(knot: Knot): void {
  const note = desk.arrangement?.tune.bars[knot.index]?.events.find(({ kind }) => kind === 'note');
  if (note) desk.select(note.id);
}
</script>

<template>
  <section v-if="picture" class="map" aria-label="How the tune is woven">
    <p>
      <strong>Learn {{ picture.learn.newBars }} bars, play {{ picture.learn.totalBars }}.</strong>
      A line for each bar to learn; hollow beads you know by then. The same path is the same music.
    </p>
    <svg :viewBox="`0 0 ${WIDTH} ${picture.height}`" role="group" aria-label="Bars and what they share">
      <g v-for="band in picture.bands" :key="band.id" :class="{ current: band.id === desk.selectedPhrase?.id }">
        <rect
          class="band"
          :x="band.from - 2"
          y="2"
          :width="band.to - band.from + 4"
          :height="picture.height - 4"
          rx="5"
        />
        <line
          v-if="band.part"
          class="part"
          :x1="band.from - 3.5"
          y1="2"
          :x2="band.from - 3.5"
          :y2="picture.height - 2"
        />
        <text class="name" :x="(band.from + band.to) / 2" y="15" text-anchor="middle">{{ band.label }}</text>
        <path class="thread" :d="band.path" />
      </g>
      <line
        v-for="knot in picture.knots.filter(({ likeY }) => likeY !== null)"
        :key="`like-${knot.index}`"
        class="like"
        :class="knot.bar.like!.how"
        :x1="knot.x"
        :x2="knot.x"
        :y1="knot.y"
        :y2="knot.likeY!"
      />
      <g
        v-for="(knot, at) in picture.knots"
        :key="knot.index"
        class="knot"
        role="button"
        :tabindex="at === tabStop ? 0 : -1"
        :aria-label="knot.label"
        @click="go(knot)"
        @keydown="step(at, $event)"
        @focus="arrive(at)"
        @blur="arrive(null)"
        @mouseenter="point(knot)"
        @mouseleave="point(null)"
      >
        <title>{{ knot.label }}</title>
        <rect class="hit" :x="knot.x - 9" :y="knot.y - 7" width="18" height="14" />
        <circle
          :cx="knot.x"
          :cy="knot.y"
          :r="picture.radius"
          :class="{ back: !knot.isNew, here: knot.index === hereBar, same: material(hereBar) === knot.bar.material }"
        />
      </g>
    </svg>
  </section>
</template>

<style scoped src="./samenessMap.css" />

<script setup lang="ts">
/** One phrase: bow, staff, finger tab and hand, lined up note by note. */
import { computed, ref, useTemplateRef } from 'vue';
import { mdiChevronDown, mdiChevronUp, mdiPinOutline, mdiPlay, mdiStop } from '@mdi/js';
import type { DrawnNote, LaneId } from '@nokta/core/sheet';
import { pitchesText, relationText, shortFlagText, flagText, stopsText } from '@nokta/core/words';
import type { EngravedLine } from '@nokta/engrave';
import { isExactCopy } from '@nokta/core/form';
import { useBoundaryDrag } from './boundaryDrag.ts';
import { SPACE, stripLayout } from './stripLayout.ts';
import type { StripView } from '../rooms/strips.ts';

// What belongs to other strips is not handed in, so that a strip is drawn anew only for its own sake.
const props = defineProps<{
  view: StripView;
  staff: EngravedLine | undefined;
  selectedId: string | null;
  playingId: string | null;
  sounding: boolean;
  /** Notes chosen together, and notes that something points at. */
  range: ReadonlySet<string>;
  hinted: ReadonlySet<string>;
  /** Notes that a version has otherwise than its tune. */
  changed: ReadonlySet<string>;
  /** Another fingering laid below this one, and the notes that differ. */
  beside: { readonly notes: readonly DrawnNote[]; readonly differing: ReadonlySet<string> } | null;
  /** What is shown beside the staff: the passes bring their own to the front. */
  lanes: readonly LaneId[];
  /** Whether its beginning and its end can be dragged to another note. */
  startMoves: boolean;
  endMoves: boolean;
}>();
const emit = defineEmits<{
  select: [noteId: string, more: boolean];
  play: [phraseId: string];
  point: [notes: readonly string[]];
  /** This phrase shall begin, or the next one, with this note. */
  move: [phraseId: string, edge: 'start' | 'end', noteId: string];
}>();

/** The line under a note that is not as in the tune. */
const CHANGED = 2;
/** A short phrase is not blown up beyond this, so that three strips stand on the desk together. */
const MOST_GROWTH = 1;

const phrase = computed(() => props.view.phrase);
const notes = computed(() => props.view.notes);
const exactCopy = computed(() => isExactCopy(phrase.value.relation));
const opened = ref(false);
// Where another fingering differs, the phrase is worth seeing.
const folded = computed(
  () => exactCopy.value && !opened.value && !phrase.value.notes.some((id) => props.beside?.differing.has(id)),
);
const layout = computed(() =>
  props.staff ? stripLayout(props.staff, props.view, props.lanes, props.beside?.notes ?? null) : null,
);
/** What a marked column says to those who do not see it. */
const SAYS = {
  sounding: 'sounds now',
  selected: 'selected',
  chosen: 'chosen',
  hinted: 'pointed at',
  differs: 'other finger below',
  changed: 'not as in the tune',
} as const;
const places = computed(() =>
  notes.value.flatMap((note) => {
    const x = props.staff?.heads[note.id]?.x;
    return x === undefined ? [] : [{ note, x: x * SPACE, half: note.grace ? 5 : 9 }];
  }),
);
const columns = computed(() =>
  places.value.flatMap(({ note, x, half }) => {
    const on = (ids: ReadonlySet<string>) => note.ids.some((id) => ids.has(id));
    const kind: keyof typeof SAYS | null =
      props.playingId === note.id
        ? 'sounding'
        : props.selectedId === note.id
          ? 'selected'
          : on(props.range)
            ? 'chosen'
            : on(props.hinted)
              ? 'hinted'
              : null;
    const differs = props.beside?.differing.has(note.id)
      ? [{ id: `${note.id}-other`, kind: 'differs' as const, x, half }]
      : [];
    const changed = on(props.changed) ? [{ id: `${note.id}-changed`, kind: 'changed' as const, x, half }] : [];
    const marks = [...differs, ...changed];
    return kind ? [{ id: note.id, kind, x, half }, ...marks] : marks;
  }),
);

const score = useTemplateRef<SVGSVGElement>('score');
const { dragging, drag, follow, letGo, letBe } = useBoundaryDrag(score, places, (edge, note) =>
  emit('move', phrase.value.id, edge, note),
);

const relation = computed(() => relationText(props.view.relation, props.view.likeLabel ?? ''));
/** Notes in which it differs from what it is like, here and there. */
const differing = computed(() => phrase.value.relation.differences.flatMap(({ own, other }) => [...own, ...other]));
function label(note: DrawnNote): string {
  const names = pitchesText(note.pitches, ' and ', props.view.names);
  const stroke = props.view.starts.get(note.id);
  return [
    note.grace ? `grace ${names}` : names,
    stopsText(note, props.view.instrument, props.view.names),
    stroke ? `${stroke.direction} bow` : '',
    note.locked ? 'kept' : '',
  ]
    .filter(Boolean)
    .join(', ');
}
</script>

<template>
  <section
    class="strip"
    :class="{ folded, current: notes.some(({ ids }) => ids.includes(selectedId ?? '')) }"
    :data-phrase="phrase.id"
    :aria-label="`Phrase ${phrase.label}`"
  >
    <header>
      <h2>{{ phrase.label }}</h2>
      <v-btn
        :icon="sounding ? mdiStop : mdiPlay"
        size="small"
        :aria-label="sounding ? `Stop phrase ${phrase.label}` : `Play phrase ${phrase.label}`"
        @click="emit('play', phrase.id)"
      />
      <span
        class="closing"
        :title="phrase.closing === 'closed' ? 'comes to rest on the home note' : 'leaves the question open'"
      >
        {{ phrase.closing === 'closed' ? 'answer' : 'question' }}
      </span>
      <span v-if="relation" class="relation" @mouseenter="emit('point', differing)" @mouseleave="emit('point', [])">{{
        relation
      }}</span>
      <span v-if="phrase.held" class="held" role="img" aria-label="kept as it is"
        ><v-icon :icon="mdiPinOutline" size="16"
      /></span>
      <span v-if="view.bows" class="bows"
        >starts {{ view.bows.startsWith }}, ends {{ view.bows.endsWith
        }}<strong v-for="flag in view.flags" :key="`${flag.kind} ${flag.note}`" class="turns" :title="flagText(flag)">
          · {{ shortFlagText(flag) }}</strong
        ></span
      >
      <v-btn
        v-if="exactCopy"
        size="small"
        :append-icon="folded ? mdiChevronDown : mdiChevronUp"
        @click="opened = !opened"
      >
        {{ folded ? 'Show' : 'Fold' }}
      </v-btn>
    </header>
    <div v-if="!folded" class="paper">
      <svg
        v-if="layout && staff"
        ref="score"
        class="score"
        role="group"
        :aria-label="`Notes of phrase ${phrase.label}`"
        :viewBox="`0 0 ${layout.width} ${layout.height}`"
        :style="{ maxWidth: `${layout.width * MOST_GROWTH}px`, minWidth: `${layout.width * 0.6}px` }"
      >
        <rect
          v-for="{ id, kind, x, half } in columns"
          :key="`column-${id}`"
          class="column"
          :class="kind"
          role="img"
          :aria-label="SAYS[kind]"
          :x="x - half"
          :y="kind === 'changed' ? layout.height - CHANGED : 0"
          :width="2 * half"
          :height="kind === 'changed' ? CHANGED : layout.height"
          :rx="kind === 'changed' ? 0 : 4"
        />
        <svg
          class="staff engraved"
          :y="layout.staffTop"
          :width="layout.width"
          :height="layout.staffHeight"
          :viewBox="staff.viewBox"
          v-html="staff.markup"
        />
        <g
          v-for="lane in layout.lanes"
          :key="lane.id"
          class="lane"
          :transform="`translate(0 ${lane.top})`"
          v-html="lane.markup"
        />
        <g v-if="layout.other" class="other" :transform="`translate(0 ${layout.otherTop})`">
          <line x1="0" y1="0" :x2="layout.width" y2="0" />
          <g class="lane" v-html="layout.other.markup" />
        </g>
        <g
          v-for="{ note, x, half } in places"
          :key="`hit-${note.id}`"
          class="hit"
          role="button"
          data-note-button
          :data-note-id="note.id"
          :tabindex="note.ids.includes(selectedId ?? '') ? 0 : -1"
          :aria-label="label(note)"
          :aria-pressed="note.ids.includes(selectedId ?? '')"
          @mousedown="$event.shiftKey && $event.preventDefault()"
          @click="emit('select', note.id, $event.shiftKey)"
          @focus="emit('select', note.id, false)"
        >
          <rect :x="x - half" y="0" :width="2 * half" :height="layout.height" rx="4" />
        </g>
        <line
          v-if="dragging"
          class="boundary"
          :x1="dragging.x"
          :x2="dragging.x"
          y1="0"
          :y2="layout.height"
          aria-hidden="true"
        />
        <template v-for="edge in ['start', 'end'] as const" :key="edge">
          <g
            v-if="edge === 'start' ? startMoves : endMoves"
            class="handle"
            :data-testid="`handle-${edge}`"
            aria-hidden="true"
            :transform="`translate(${edge === 'start' ? 7 : layout.width - 7} 0)`"
            @pointerdown="drag(edge, $event)"
            @pointermove="dragging && follow(edge, $event)"
            @pointerup="letGo"
            @pointercancel="letBe"
          >
            <rect x="-8" y="0" width="16" :height="layout.height" />
            <path :d="`M0 4 V${layout.height - 4}`" />
            <circle :cy="layout.height / 2" r="5.5" />
          </g>
        </template>
      </svg>
      <p v-else class="wait">Engraving…</p>
    </div>
  </section>
</template>

<style scoped src="./phraseStrip.css" />

<script setup lang="ts">
/** One phrase: bow, staff, finger tab and hand, lined up note by note. */
import { computed, ref } from 'vue';
import { mdiChevronDown, mdiChevronUp, mdiPlay, mdiStop } from '@mdi/js';
import type { Arrangement } from '@nokta/core/arrange';
import type { Phrase } from '@nokta/core/form';
import type { FingeredNote } from '@nokta/core/hand';
import { printedName } from '@nokta/core/music';
import { lanesOf } from '@nokta/core/sheet';
import type { EngravedLine } from '@nokta/engrave';
import LaneDrawing from './LaneDrawing.vue';

const props = defineProps<{
  phrase: Phrase;
  arrangement: Arrangement;
  staff: EngravedLine | undefined;
  selectedId: string | null;
  playingId: string | null;
  sounding: boolean;
  /** Label of the phrase that this one is like. */
  likeLabel: string | null;
}>();
const emit = defineEmits<{ select: [noteId: string]; play: [] }>();

/** Pixels to a staff space at the strip's natural size; lanes are drawn for it. */
const SPACE = 7;
/** A short phrase is not blown up beyond this, so that three strips stand on the desk together. */
const MOST_GROWTH = 1;

const exactCopy = computed(() => props.phrase.relation.kind === 'same' && props.phrase.relation.differs === '');
const opened = ref(false);
const folded = computed(() => exactCopy.value && !opened.value);

const notes = computed<readonly FingeredNote[]>(() => {
  const own = new Set(props.phrase.notes);
  return props.arrangement.fingering.notes.filter(({ id }) => own.has(id.replace(/g\d+$/, '')));
});
const layout = computed(() => {
  const staff = props.staff;
  if (!staff) return null;
  const width = staff.width * SPACE;
  const [bow, tab, hand] = lanesOf({
    instrument: props.arrangement.decisions.instrument,
    notes: notes.value,
    bowing: props.arrangement.bowing,
    x: (id) => (staff.heads[id] ? staff.heads[id].x * SPACE : undefined),
    width,
    barlines: staff.barlines.map((x) => x * SPACE),
  });
  const staffTop = bow!.height;
  const tabTop = staffTop + staff.height * SPACE;
  const handTop = tabTop + tab!.height;
  return {
    width,
    height: handTop + hand!.height + 2,
    staffTop,
    staffHeight: staff.height * SPACE,
    tabTop,
    handTop,
    bow: bow!,
    tab: tab!,
    hand: hand!,
  };
});
const places = computed(() =>
  notes.value.flatMap((note) => {
    const x = props.staff?.heads[note.id]?.x;
    return x === undefined ? [] : [{ note, x: x * SPACE, half: note.grace ? 5 : 9 }];
  }),
);
const marked = computed(() => new Set([props.selectedId, props.playingId].filter((id) => id !== null)));
/** "like A1 but for bar 4": how this phrase relates to an earlier one, as a teacher would say it. */
const relation = computed(() => {
  const { kind, differs } = props.phrase.relation;
  const like = props.likeLabel;
  if (kind === 'new' || !like) return '';
  const but = differs ? ` but for ${differs}` : '';
  const words = {
    same: `same as ${like}${but}`,
    'same-but-ending': `like ${like}${but}`,
    'same-start': `starts like ${like}, other ${differs}`,
    'same-rhythm': `rhythm of ${like}`,
    transposed: `like ${like}, ${differs}`,
    octave: `like ${like}, ${differs}`,
  };
  return words[kind];
});
const bows = computed(() => props.arrangement.bowing.phrases.find(({ id }) => id === props.phrase.id));
/** Warnings of the bow about this phrase: short on the strip, in full as its title. */
const bowFlags = computed(() => props.arrangement.bowing.flags.filter(({ note }) => note === props.phrase.notes[0]));
const FLAG_TEXT = {
  'turns-on-repeat': 'other bow on the repeat',
  'turns-from-before': 'other bow than before',
} as const;

function label(note: FingeredNote): string {
  const names = note.pitches.map((pitch) => `${printedName(pitch)}${pitch.octave}`).join(' and ');
  const stroke = props.arrangement.bowing.starts.get(note.id);
  return [names, note.text, stroke ? `${stroke.direction} bow` : '', note.locked ? 'kept' : '']
    .filter(Boolean)
    .join(', ');
}
</script>

<template>
  <section
    class="strip"
    :class="{ current: notes.some(({ ids }) => ids.includes(selectedId ?? '')) }"
    :data-phrase="phrase.id"
    :aria-label="`Phrase ${phrase.label}`"
  >
    <header>
      <h2>{{ phrase.label }}</h2>
      <v-btn
        :icon="sounding ? mdiStop : mdiPlay"
        size="small"
        :aria-label="sounding ? `Stop phrase ${phrase.label}` : `Play phrase ${phrase.label}`"
        @click="emit('play')"
      />
      <span
        class="closing"
        :title="phrase.closing === 'closed' ? 'comes to rest on the home note' : 'leaves the question open'"
      >
        {{ phrase.closing === 'closed' ? 'answer' : 'question' }}
      </span>
      <span v-if="relation" class="relation">{{ relation }}</span>
      <span v-if="bows" class="bows"
        >starts {{ bows.startsWith }}, ends {{ bows.endsWith
        }}<strong v-for="{ kind, message } in bowFlags" :key="kind" class="turns" :title="message">
          · {{ FLAG_TEXT[kind] }}</strong
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
        class="score"
        role="group"
        :aria-label="`Notes of phrase ${phrase.label}`"
        :viewBox="`0 0 ${layout.width} ${layout.height}`"
        :style="{ maxWidth: `${layout.width * MOST_GROWTH}px`, minWidth: `${layout.width * 0.6}px` }"
      >
        <template v-for="{ note, x, half } in places" :key="note.id">
          <rect
            v-if="marked.has(note.id)"
            class="column"
            :class="{ sounding: playingId === note.id }"
            :x="x - half"
            y="0"
            :width="2 * half"
            :height="layout.height"
            rx="4"
          />
        </template>
        <LaneDrawing :shapes="layout.bow.shapes" :marked="marked" />
        <svg
          class="staff"
          :y="layout.staffTop"
          :width="layout.width"
          :height="layout.staffHeight"
          :viewBox="staff.viewBox"
          v-html="staff.markup"
        />
        <g :transform="`translate(0 ${layout.tabTop})`"><LaneDrawing :shapes="layout.tab.shapes" :marked="marked" /></g>
        <g :transform="`translate(0 ${layout.handTop})`">
          <LaneDrawing :shapes="layout.hand.shapes" :marked="marked" />
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
          @click="emit('select', note.id)"
          @focus="emit('select', note.id)"
        >
          <rect :x="x - half" y="0" :width="2 * half" :height="layout.height" rx="4" />
        </g>
      </svg>
      <p v-else class="wait">Engraving…</p>
    </div>
  </section>
</template>

<style scoped>
.strip {
  border-radius: 10px;
  background: var(--paper);
  border: 1px solid var(--edge);
  border-left: 4px solid var(--edge);
}
.strip.current {
  border-left-color: var(--accent);
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 10px;
  padding: 1px 14px 0;
  color: var(--soft);
  font-size: 0.88rem;
}
h2 {
  margin: 0;
  color: var(--ink);
  font-size: 1.05rem;
}
.closing::before {
  content: '';
  display: inline-block;
  width: 8px;
  height: 8px;
  margin-right: 5px;
  border: 2px solid currentcolor;
  border-radius: 50%;
}
.bows {
  margin-left: auto;
}
.turns {
  color: var(--accent);
}
.paper {
  overflow-x: auto;
  padding: 0 12px 1px;
}
.score {
  display: block;
  width: 100%;
  height: auto;
}
.staff {
  color: var(--ink);
  fill: currentcolor;
  font-family: var(--text);
  overflow: visible;
}
.staff :deep(path),
.staff :deep(polygon),
.staff :deep(polyline),
.staff :deep(rect),
.staff :deep(ellipse) {
  stroke: currentcolor;
}
.column {
  fill: color-mix(in srgb, var(--accent) 16%, transparent);
}
.column.sounding {
  fill: color-mix(in srgb, var(--accent) 34%, transparent);
}
.hit {
  cursor: pointer;
  outline: none;
}
.hit rect {
  fill: transparent;
  stroke: transparent;
  stroke-width: 1.5px;
}
.hit:hover rect {
  stroke: var(--edge);
}
.hit:focus-visible rect {
  stroke: var(--accent);
}
.wait {
  margin: 0;
  padding: 34px 0;
  color: var(--soft);
}
</style>

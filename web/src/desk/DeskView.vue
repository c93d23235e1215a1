<script setup lang="ts">
/** The desk: one tune, many passes. Strips in the middle, form at the left, reasons at the right, player below. */
import { computed, nextTick, onBeforeUnmount, reactive, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { watchDebounced } from '@vueuse/core';
import type { Alternative } from '@nokta/core/hand';
import { soundingNotes } from '@nokta/core/music';
import BeadRail from './BeadRail.vue';
import DeskHeader from './DeskHeader.vue';
import HelpDialog from './HelpDialog.vue';
import PhraseStrip from './PhraseStrip.vue';
import TransportBar from './TransportBar.vue';
import GradesPanel from './panels/GradesPanel.vue';
import HandPanel from './panels/HandPanel.vue';
import KeyPanel from './panels/KeyPanel.vue';
import PartsPanel from './panels/PartsPanel.vue';
import SheetPanel from './panels/SheetPanel.vue';
import TunePanel from './panels/TunePanel.vue';
import { useHandActions } from './hand/actions.ts';
import { useHand } from './hand/store.ts';
import SamenessMap from './parts/SamenessMap.vue';
import { usePartActions } from './parts/actions.ts';
import { useDeskKeys } from './keys.ts';
import WritingPage from './write/WritingPage.vue';
import { useWriteKeys } from './write/keys.ts';
import { useWriter } from './write/writer.ts';
import { PASSES, type PassId } from './passes.ts';
import { staffKey, useDesk } from './store.ts';
import { notesByPhrase, within, type StripView } from './strips.ts';
import { useTransport } from './transport.ts';

const props = defineProps<{ id: string; pass: PassId }>();
const router = useRouter();
const route = useRoute();
const desk = useDesk();
const writer = useWriter();
const help = ref(false);
const transport = reactive(useTransport());

const parts = usePartActions();
const hand = useHand();
const hands = useHandActions();
const beside = computed(() => {
  if (props.pass !== 'hand' || !hand.beside) return null;
  const { fingering, comparison } = hand.beside;
  const differing: ReadonlySet<string> = new Set(comparison.differing);
  return notesByPhrase(desk.phrases, fingering).map((notes) => ({ notes, differing }));
});
/** A note as the strip that it stands in is told of it. */
const ownOf = (view: StripView, id: string | null) => (id !== null && view.ids.has(id) ? id : null);
const chosen = computed<ReadonlySet<string>>(() => new Set(desk.range.flatMap(({ ids }) => ids)));
watch(
  () => desk.wanted,
  (wanted) => wanted && select(wanted.note, true),
);

watch(
  () => desk.hearing,
  () => desk.selectedPhrase && transport.playPhrase(desk.selectedPhrase.id),
);

const PANELS = {
  tune: TunePanel,
  parts: PartsPanel,
  key: KeyPanel,
  hand: HandPanel,
  grades: GradesPanel,
  sheet: SheetPanel,
} as const;
/** Parting a tune, neither bow nor hand is wanted; more strips are. */
const LANES: Partial<Record<PassId, { bow: boolean; hand: boolean }>> = { parts: { bow: false, hand: false } };
const ALL_LANES = { bow: true, hand: true };
const panel = computed(() => PANELS[props.pass]);
const passName = computed(() => PASSES.find(({ id }) => id === props.pass)!);

watch(() => props.id, arrive, { immediate: true });
// Another pass is another work: writing is over.
watch(
  () => props.pass,
  (pass) => {
    if (pass !== 'tune' && writer.active) writer.stop();
    // What was pointed at is gone with its panel.
    desk.hinted = new Set();
    desk.refused = null;
    if (pass !== 'hand') hand.putAway();
  },
);
writer.onSound = transport.sound;

/** Opens the tune, and goes where the library sent: to a note that was found, or straight to writing. */
async function arrive(id: string): Promise<void> {
  writer.active = false;
  await desk.open(id);
  if (route.query['write'] !== undefined) {
    writer.start();
    // Said once: a reload shows the desk as usual.
    void router.replace({ params: { id, pass: 'tune' } });
  }
  const sound = Number(route.query['sound']);
  const found = desk.tune && Number.isInteger(sound) ? soundingNotes(desk.tune.tune)[sound]?.note.id : undefined;
  if (route.query['sound'] !== undefined && found) select(found, true);
}

/** What is played is what is written, though strips are not worked out at every key. */
watchDebounced(
  () => writer.tune,
  () => void desk.refresh(),
  { debounce: 350 },
);
watch(
  () => desk.tune?.title,
  (title) => (document.title = `${title ?? 'Desk'} · Nokta`),
  { immediate: true },
);
onBeforeUnmount(() => (writer.active = false));

function goTo(pass: PassId): void {
  void router.replace({ name: 'desk', params: { id: props.id, pass } });
}

/** @param more goes on choosing from where the selection was */
function select(noteId: string, focus = false, more = false): void {
  if (more) desk.rangeFrom ??= desk.selectedId;
  // The focus that follows a step of choosing is no new choice.
  else if (!desk.selected?.ids.includes(noteId)) desk.rangeFrom = null;
  desk.refused = null;
  desk.selectedId = noteId;
  const note = desk.selected;
  if (note) desk.spoken = `${note.pitches.map(({ letter }) => letter).join(' ')}: ${note.text}`;
  if (focus) void nextTick(() => bringIntoView(desk.selected?.id ?? noteId));
}

/** A note takes the focus; in a folded phrase there is none to take it, so the phrase is shown. */
function bringIntoView(noteId: string): void {
  const note = document.querySelector<SVGGElement>(`[data-note-id="${CSS.escape(noteId)}"]`);
  if (note) return note.focus();
  document.querySelector(`[data-phrase="${desk.selectedPhrase?.id}"]`)?.scrollIntoView({ block: 'nearest' });
}

function togglePlay(): void {
  transport.toggle(writer.active ? writer.at : null);
}

/** What is looped is a phrase, unless something else was asked for. */
function toggleLoop(): void {
  transport.looping = !transport.looping;
  if (transport.looping && transport.scope === 'tune') transport.scope = 'phrase';
}

function moveNote(by: 1 | -1, more: boolean): void {
  const { notes, selected } = desk;
  const next = notes[(selected ? notes.indexOf(selected) : -1) + by];
  if (next) select(next.id, true, more);
}

/** The end of a phrase is where the next one begins. */
function moveEdge(phraseId: string, edge: 'start' | 'end', noteId: string): void {
  const at = desk.phrases.findIndex(({ id }) => id === phraseId);
  const moved = desk.phrases[edge === 'start' ? at : at + 1];
  if (moved) void parts.move(moved, noteId);
}

const playPhrase = (phraseId: string) => transport.playPhrase(phraseId);

function movePhrase(by: 1 | -1): void {
  const { phrases, selectedPhrase } = desk;
  const next = selectedPhrase && phrases[phrases.indexOf(selectedPhrase) + by];
  if (next?.notes[0]) select(next.notes[0], true);
}

/** Takes the cheapest other way that passes the test; says so if there is none. */
function takeFirst(test: (other: Alternative) => boolean, none: string): void {
  takeOther(desk.selected?.alternatives.find(test), none);
}

function takeOther(found: Alternative | undefined, none: string): void {
  const note = desk.selected;
  if (!note) return;
  desk.spoken = found ? `Now ${found.text}` : none;
  if (found) void hands.finger(note, found.stops, `finger ${found.text}`);
}

const top = ({ stops }: Pick<Alternative, 'stops'>) => stops.at(-1);

/** Of the ways beyond where the note lies now, the nearest; of those the cheapest. */
function takeNearest(by: 1 | -1, placeOf: (way: Pick<Alternative, 'stops' | 'base'>) => number, none: string): void {
  const note = desk.selected;
  if (!note || note.base === null) return;
  const now = placeOf({ stops: note.stops, base: note.base });
  const beyond = note.alternatives.filter((other) => Math.sign(placeOf(other) - now) === by);
  const nearest = Math.min(...beyond.map((other) => Math.abs(placeOf(other) - now)));
  takeOther(
    beyond.find((other) => Math.abs(placeOf(other) - now) === nearest),
    none,
  );
}

useWriteKeys(writer);
useDeskKeys({
  write() {
    if (writer.active) return writer.stop();
    if (props.pass !== 'tune') goTo('tune');
    writer.start(desk.selectedId);
  },
  writing: () => writer.active,
  moveNote,
  movePhrase,
  setFinger(finger) {
    const note = desk.selected;
    if (note?.stops.at(-1)?.finger === finger) void hands.finger(note, note.stops, `keep ${note.text}`);
    else takeFirst((other) => top(other)?.finger === finger, `Finger ${finger} cannot play this note here.`);
  },
  cycleString() {
    const now = desk.selected?.stops.at(-1)?.string;
    takeFirst((other) => top(other)?.string !== now, 'This note lies on one string only here.');
  },
  moveString(by) {
    const where = by > 0 ? 'higher' : 'lower';
    takeNearest(by, (way) => top(way)?.string ?? 0, `This note lies on no ${where} string here.`);
  },
  movePosition(by) {
    const where = by > 0 ? 'higher' : 'lower';
    takeNearest(by, ({ base }) => base, `The hand has no ${where} place for this note here.`);
  },
  toggleShift() {
    const note = desk.selected;
    if (!note) return;
    desk.spoken = desk.record?.decisions.locks[note.id]?.shift
      ? 'The hand need not move here.'
      : 'The hand moves here.';
    void hands.toggleShift(note);
  },
  toggleHold() {
    const note = desk.selected;
    if (!note) return;
    const held = desk.record?.decisions.locks[note.id]?.holdUntil;
    const until = desk.neededAgain(note);
    if (!held && !until) return void (desk.spoken = 'This finger is not needed again soon.');
    desk.spoken = held ? 'The finger may be lifted.' : `Finger ${note.stops[0]?.finger} stays down.`;
    void hands.holdUntil(note, held ? null : until);
  },
  nextAlternative: () => takeFirst(() => true, 'There is no other way here.'),
  parting: () => props.pass === 'parts',
  part(what) {
    const phrase = desk.selectedPhrase;
    if (!phrase) return;
    if (what === 'split') return void (desk.selected && parts.split(desk.selected.id));
    if (what === 'join') return void parts.join(phrase);
    if (what === 'earlier') return void parts.nudge(phrase, -1);
    if (what === 'later') return void parts.nudge(phrase, 1);
    if (what === 'name') return document.querySelector<HTMLInputElement>('#phrase-name')?.focus();
    const begins = desk.arrangement?.form.parts.some(({ phrases }) => phrases[0]!.id === phrase.id) ?? false;
    void parts.mark(phrase, !begins);
  },
  toggleLock() {
    if (props.pass === 'parts') return void (desk.selectedPhrase && parts.toggleHold(desk.selectedPhrase));
    const note = desk.selected;
    if (note && desk.record?.decisions.locks[note.id]?.stops.length) void hands.freeFinger(note);
    else if (note && note.stops.length > 0) void hands.finger(note, note.stops, `keep ${note.text}`);
  },
  togglePlay,
  playPhrase: () => desk.selectedPhrase && transport.playPhrase(desk.selectedPhrase.id),
  toggleLoop,
  undo: () => void desk.step('undo'),
  redo: () => void desk.step('redo'),
  toggleHelp: () => (help.value = !help.value),
  nextPass(by) {
    const next = PASSES[PASSES.findIndex(({ id }) => id === props.pass) + by];
    if (next) goTo(next.id);
  },
});
</script>

<template>
  <div class="desk">
    <DeskHeader class="top" :pass="pass" @go="goTo" @help="help = true" />
    <aside class="form">
      <BeadRail
        v-if="desk.arrangement"
        :arrangement="desk.arrangement"
        :selected-id="desk.selectedId"
        :playing-id="desk.playingId"
        :hinted="desk.hinted"
        :movable="pass === 'parts'"
        @select="select($event, true)"
        @move="(phrase, note) => (note ? parts.move(phrase, note) : parts.join(phrase))"
      />
    </aside>
    <main class="strips" aria-label="Phrases">
      <p v-if="desk.problem" class="problem" role="alert">
        {{ desk.problem }}
        <v-btn size="small" variant="outlined" @click="desk.tune ? desk.retry() : desk.open(id)">Try again</v-btn>
      </p>
      <WritingPage v-if="writer.active" :playing-id="desk.playingId" />
      <template v-else-if="desk.arrangement">
        <SamenessMap v-if="pass === 'parts'" />
        <PhraseStrip
          v-for="(view, index) in desk.strips"
          :key="view.phrase.from"
          :view="view"
          :staff="desk.staves.get(staffKey(view.phrase))"
          :selected-id="ownOf(view, desk.selected?.id ?? null)"
          :playing-id="ownOf(view, desk.playingId)"
          :sounding="transport.soundingPhrase === view.phrase.id"
          :range="within(chosen, view.ids)"
          :hinted="within(desk.hinted, view.ids)"
          :beside="beside?.[index] ?? null"
          :lanes="LANES[pass] ?? ALL_LANES"
          :start-moves="pass === 'parts' && index > 0"
          :end-moves="pass === 'parts' && index < desk.strips.length - 1"
          @select="(note, more) => select(note, false, more)"
          @point="(notes) => (desk.hinted = new Set(notes))"
          @move="moveEdge"
          @play="playPhrase"
        />
      </template>
      <p v-else-if="!desk.problem" class="opening">Opening…</p>
    </main>
    <aside class="side" :aria-label="passName.hint">
      <h2>{{ passName.hint }}</h2>
      <component :is="panel" v-if="desk.arrangement" />
    </aside>
    <TransportBar
      v-model:percent="transport.percent"
      v-model:scope="transport.scope"
      v-model:settings="transport.settings"
      class="player"
      :playing="transport.playing"
      :loading="transport.loading"
      :looping="transport.looping"
      :tempo="transport.tempoText"
      :part-label="transport.part?.label ?? 'Part'"
      :phrase-label="desk.selectedPhrase?.label ?? 'Phrase'"
      @toggle="togglePlay"
      @loop="toggleLoop"
    />
    <p class="visually-hidden" role="status" aria-live="polite">{{ desk.spoken }}</p>
    <HelpDialog v-model="help" :writing="writer.active" :parting="pass === 'parts'" />
  </div>
</template>

<style scoped>
.desk {
  display: grid;
  grid-template:
    'top top top' auto 'form strips side' minmax(0, 1fr) 'player player player' auto / 136px minmax(0, 1fr)
    308px;
  height: 100dvh;
}
.top {
  grid-area: top;
}
.form {
  grid-area: form;
  overflow: auto;
}
.strips {
  grid-area: strips;
  display: grid;
  align-content: start;
  gap: 6px;
  overflow: auto;
  padding: 8px 4px 20px;
}
.side {
  grid-area: side;
  isolation: isolate;
  contain: content;
  overflow: auto;
  margin: 10px;
  padding: 12px 16px 20px;
  border: 1px solid var(--edge);
  border-radius: 10px;
  background: var(--paper);
}
.side > h2 {
  margin: 0 0 12px;
  font-size: 1.1rem;
}
.player {
  grid-area: player;
}
.problem {
  margin: 0;
  padding: 10px 14px;
  border-left: 4px solid rgb(var(--v-theme-error));
  background: var(--paper);
}
.opening {
  color: var(--soft);
}
@media (width < 900px) {
  .desk {
    grid-template: 'top' auto 'strips' minmax(0, 1fr) 'side' minmax(0, 42%) 'player' auto / minmax(0, 1fr);
  }
  .form {
    display: none;
  }
}
@media print {
  .desk {
    display: none;
  }
}
</style>

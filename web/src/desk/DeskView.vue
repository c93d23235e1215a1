<script setup lang="ts">
/** The desk: one tune, many passes. Strips in the middle, form at the left, reasons at the right, player below. */
import { computed, nextTick, onBeforeUnmount, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { useStorage } from '@vueuse/core';
import { mdiArrowLeft, mdiKeyboardOutline, mdiRedo, mdiThemeLightDark, mdiUndo } from '@mdi/js';
import type { Finger } from '@nokta/core/hand';
import { beatTempoText } from '@nokta/core/music';
import { useAppTheme } from '../settings/theme.ts';
import { createPlayer } from '../sound/player.ts';
import { phraseScore, tuneScore } from '../sound/score.ts';
import BeadRail from './BeadRail.vue';
import HelpDialog from './HelpDialog.vue';
import PhraseStrip from './PhraseStrip.vue';
import TransportBar from './TransportBar.vue';
import GradesPanel from './panels/GradesPanel.vue';
import HandPanel from './panels/HandPanel.vue';
import KeyPanel from './panels/KeyPanel.vue';
import SheetPanel from './panels/SheetPanel.vue';
import TunePanel from './panels/TunePanel.vue';
import { useDeskKeys } from './keys.ts';
import { PASSES, type PassId } from './passes.ts';
import { useDesk } from './store.ts';

const props = defineProps<{ id: string; pass: PassId }>();
const router = useRouter();
const desk = useDesk();
const theme = useAppTheme();
const help = ref(false);
const looping = ref(false);
const percent = useStorage('nokta-tempo-percent', 100);
/** Phrase that is being played alone, if one is. */
const sounding = ref<string | null>(null);
const player = createPlayer((noteId) => {
  desk.playingId = noteId;
  if (noteId === null) sounding.value = null;
});

const PANELS = { tune: TunePanel, key: KeyPanel, hand: HandPanel, grades: GradesPanel, sheet: SheetPanel } as const;
const panel = computed(() => PANELS[props.pass]);
const passName = computed(() => PASSES.find(({ id }) => id === props.pass)!);
const saveText = computed(() => ({ saved: 'Saved', saving: 'Saving…', failed: 'Not saved' })[desk.saveState]);

watch(
  () => props.id,
  (id) => void desk.open(id),
  { immediate: true },
);
watch(
  () => desk.tune?.title,
  (title) => (document.title = `${title ?? 'Desk'} · Nokta`),
  { immediate: true },
);
watch(percent, (value) => player.setTempo(((desk.arrangement?.tempo ?? 96) * value) / 100));
onBeforeUnmount(() => player.stop());

function goTo(pass: PassId): void {
  void router.replace({ name: 'desk', params: { id: props.id, pass } });
}

function select(noteId: string, focus = false): void {
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
  if (player.playing.value) return player.stop();
  const arrangement = desk.arrangement;
  const phrase = desk.selectedPhrase;
  if (!arrangement) return;
  if (looping.value && phrase) return playPhrase(phrase.id);
  void player.play(arrangement.decisions.instrument, tuneScore(arrangement, desk.selectedId), {
    quarterBpm: quarterBpm(),
    loop: false,
  });
}

function playPhrase(id: string): void {
  const arrangement = desk.arrangement;
  const phrase = desk.phrases.find((other) => other.id === id);
  if (!arrangement || !phrase) return;
  if (sounding.value === id && player.playing.value) return player.stop();
  void player.play(arrangement.decisions.instrument, phraseScore(arrangement, phrase), {
    quarterBpm: quarterBpm(),
    loop: looping.value,
  });
  sounding.value = id;
}

const quarterBpm = () => ((desk.arrangement?.tempo ?? 96) * percent.value) / 100;
const tempoText = computed(() =>
  beatTempoText(desk.arrangement?.tune.bars[0]?.metre ?? { beats: 4, unit: 4 }, quarterBpm()),
);

function moveNote(by: 1 | -1): void {
  const { notes, selected } = desk;
  const next = notes[(selected ? notes.indexOf(selected) : -1) + by];
  if (next) select(next.id, true);
}

function movePhrase(by: 1 | -1): void {
  const { phrases, selectedPhrase } = desk;
  const next = selectedPhrase && phrases[phrases.indexOf(selectedPhrase) + by];
  if (next?.notes[0]) select(next.notes[0], true);
}

/** Takes the cheapest other way that passes the test; says so if there is none. */
function takeFirst(test: (finger: Finger | undefined, string: number | undefined) => boolean, none: string): void {
  const note = desk.selected;
  if (!note) return;
  const found = note.alternatives.find(({ stops }) => test(stops.at(-1)?.finger, stops.at(-1)?.string));
  if (!found) {
    desk.spoken = none;
    return;
  }
  desk.spoken = `Now ${found.text}`;
  void desk.lock(note, found.stops, `finger ${found.text}`);
}

useDeskKeys({
  moveNote,
  movePhrase,
  setFinger(finger) {
    const note = desk.selected;
    if (note?.stops.at(-1)?.finger === finger) void desk.lock(note, note.stops, `keep ${note.text}`);
    else takeFirst((other) => other === finger, `Finger ${finger} cannot play this note here.`);
  },
  cycleString() {
    const now = desk.selected?.stops.at(-1)?.string;
    takeFirst((_, string) => string !== now, 'This note lies on one string only here.');
  },
  nextAlternative: () => takeFirst(() => true, 'There is no other way here.'),
  toggleLock() {
    const note = desk.selected;
    if (note?.locked) void desk.unlock(note.id);
    else if (note && note.stops.length > 0) void desk.lock(note, note.stops, `keep ${note.text}`);
  },
  togglePlay,
  playPhrase: () => desk.selectedPhrase && playPhrase(desk.selectedPhrase.id),
  toggleLoop: () => (looping.value = !looping.value),
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
    <header class="top">
      <v-btn :to="{ name: 'library' }" :icon="mdiArrowLeft" size="small" aria-label="Back to the library" />
      <h1>{{ desk.tune?.title ?? 'Nokta' }}</h1>
      <span class="save" :class="desk.saveState" role="status">{{ saveText }}</span>
      <nav class="passes" aria-label="Passes">
        <button
          v-for="{ id: passId, label, hint } in PASSES"
          :key="passId"
          type="button"
          :aria-current="passId === pass ? 'step' : undefined"
          :title="hint"
          @click="goTo(passId)"
        >
          {{ label }}
        </button>
      </nav>
      <v-btn
        :icon="mdiUndo"
        size="small"
        :disabled="!desk.record?.undo"
        :aria-label="desk.record?.undo ? `Undo: ${desk.record.undo}` : 'Undo'"
        @click="desk.step('undo')"
      />
      <v-btn
        :icon="mdiRedo"
        size="small"
        :disabled="!desk.record?.redo"
        :aria-label="desk.record?.redo ? `Redo: ${desk.record.redo}` : 'Redo'"
        @click="desk.step('redo')"
      />
      <v-btn :icon="mdiThemeLightDark" size="small" aria-label="Light or dark" @click="theme.toggle()" />
      <v-btn :icon="mdiKeyboardOutline" size="small" aria-label="Keys" @click="help = true" />
    </header>
    <aside class="form">
      <BeadRail
        v-if="desk.arrangement"
        :arrangement="desk.arrangement"
        :selected-id="desk.selectedId"
        :playing-id="desk.playingId"
        @select="select($event, true)"
      />
    </aside>
    <main class="strips" aria-label="Phrases">
      <p v-if="desk.problem" class="problem" role="alert">
        {{ desk.problem }}
        <v-btn size="small" variant="outlined" @click="desk.tune ? desk.retry() : desk.open(id)">Try again</v-btn>
      </p>
      <template v-if="desk.arrangement">
        <PhraseStrip
          v-for="phrase in desk.phrases"
          :key="phrase.id"
          :phrase="phrase"
          :arrangement="desk.arrangement"
          :staff="desk.staves.get(phrase.id)"
          :selected-id="desk.selected?.id ?? null"
          :playing-id="desk.playingId"
          :sounding="sounding === phrase.id"
          :like-label="desk.phrases.find(({ id: other }) => other === phrase.relation.of)?.label ?? null"
          @select="select"
          @play="playPhrase(phrase.id)"
        />
      </template>
      <p v-else-if="!desk.problem" class="opening">Opening…</p>
    </main>
    <aside class="side" :aria-label="passName.hint">
      <h2>{{ passName.hint }}</h2>
      <component :is="panel" v-if="desk.arrangement" />
    </aside>
    <TransportBar
      v-model:percent="percent"
      class="player"
      :playing="player.playing.value"
      :loading="player.loading.value"
      :looping="looping"
      :tempo="tempoText"
      :phrase-label="desk.selectedPhrase?.label ?? 'phrase'"
      @toggle="togglePlay"
      @loop="looping = !looping"
    />
    <p class="visually-hidden" role="status" aria-live="polite">{{ desk.spoken }}</p>
    <HelpDialog v-model="help" />
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
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 4px 14px;
  background: var(--wood);
  color: var(--on-wood);
}
h1 {
  overflow: hidden;
  min-width: 0;
  margin: 0;
  font-size: 1.2rem;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.save {
  flex: none;
  color: #d8c9ae;
  font-size: 0.85rem;
}
.save.failed {
  color: #ffb4a8;
  font-weight: 700;
}
.passes {
  display: flex;
  flex: none;
  margin: 0 auto;
}
.passes button {
  position: relative;
  padding: 9px 15px 13px;
  border: 0;
  background: none;
  color: #d8c9ae;
  font: inherit;
  cursor: pointer;
}
.passes button::before {
  content: '';
  position: absolute;
  right: 0;
  bottom: 8px;
  left: 0;
  border-top: 1.5px solid #7a6752;
}
.passes button:first-child::before {
  left: 50%;
}
.passes button:last-child::before {
  right: 50%;
}
.passes button::after {
  content: '';
  position: absolute;
  bottom: 5px;
  left: calc(50% - 3.5px);
  width: 7px;
  height: 7px;
  border-radius: 50%;
  background: #a08c72;
}
.passes button[aria-current='step'] {
  color: #fff;
  font-weight: 700;
}
.passes button[aria-current='step']::after {
  bottom: 3px;
  left: calc(50% - 6px);
  width: 12px;
  height: 12px;
  background: #eda566;
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
  .top {
    flex-wrap: wrap;
  }
}
@media print {
  .desk {
    display: none;
  }
}
</style>

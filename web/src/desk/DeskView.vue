<script setup lang="ts">
/** The desk: one tune, many passes. Strips in the middle, form at the left, reasons at the right, player below. */
import { computed, nextTick, onBeforeUnmount, reactive, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { watchDebounced } from '@vueuse/core';
import { soundingNotes } from '@nokta/core/music';
import { roundText, spokenNote } from '@nokta/core/words';
import PillChoice from '../theme/parts/PillChoice.vue';
import { useDeskCommands } from './commands.ts';
import BowPanel from './bow/BowPanel.vue';
import GradesPanel from './grades/GradesPanel.vue';
import HandPanel from './hand/HandPanel.vue';
import { useHand } from './hand/store.ts';
import KeyPanel from './key/KeyPanel.vue';
import KeyBand from './key/KeyBand.vue';
import PartsPanel from './parts/PartsPanel.vue';
import SamenessMap from './parts/SamenessMap.vue';
import { usePartActions } from './parts/actions.ts';
import BothSides from './shared/BothSides.vue';
import BeadRail from './shared/BeadRail.vue';
import DeskHeader from './shared/DeskHeader.vue';
import VersionDialog from './shared/VersionDialog.vue';
import HelpDialog from './shared/HelpDialog.vue';
import PhraseStrip from './shared/PhraseStrip.vue';
import TransportBar from './shared/TransportBar.vue';
import { useDeskKeys } from './shared/keys.ts';
import { PASSES, lanesIn, type PassId } from './shared/passes.ts';
import { notesByPhrase, within, type StripView } from './shared/strips.ts';
import { useTransport } from './shared/transport.ts';
import SheetPage from './sheet/SheetPage.vue';
import SheetPanel from './sheet/SheetPanel.vue';
import { useSheet } from './sheet/store.ts';
import { useDesk } from './store.ts';
import TeachPanel from './teach/TeachPanel.vue';
import TunePanel from './tune/TunePanel.vue';
import WritingPage from './tune/write/WritingPage.vue';
import { useWriteKeys } from './tune/write/keys.ts';
import { useWriter } from './tune/write/writer.ts';
import { staffKey } from './working.ts';
import { useLook } from '../settings/look.ts';

const props = defineProps<{ id: string; pass: PassId }>();
const router = useRouter();
const route = useRoute();
const desk = useDesk();
const look = useLook();
const writer = useWriter();
const help = ref(false);
/** For which grade and instrument a version is wanted. */
const asking = ref(false);
const transport = reactive(useTransport());

const parts = usePartActions();
const hand = useHand();
const beside = computed(() => {
  if (props.pass !== 'hand' || !hand.beside) return null;
  const { fingering, comparison } = hand.beside;
  const differing: ReadonlySet<string> = new Set(comparison.differing);
  return notesByPhrase(desk.phrases, fingering).map((notes) => ({ notes, differing }));
});
/** Times round that differ, to be looked at one by one. */
const rounds = computed(() =>
  (desk.arrangement?.rounds ?? []).map(({ time }) => ({ id: String(time), name: roundText(time) })),
);
/** Notes that are not as in the tune, while grades are looked at. */
const changed = computed<ReadonlySet<string>>(() => {
  const changes = props.pass === 'grades' ? desk.arrangement?.graded?.changes : undefined;
  return new Set(
    (changes ?? []).filter(({ kind }) => kind !== 'transposed' && kind !== 'slur').flatMap(({ notes }) => notes),
  );
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
  () => desk.selectedPhrase && transport.playPhrase(desk.selectedPhrase.id, desk.heardWith),
);

watch(
  () => desk.drill,
  (drill) => drill && transport.playDrill(drill),
);

const PANELS = {
  tune: TunePanel,
  parts: PartsPanel,
  key: KeyPanel,
  hand: HandPanel,
  bow: BowPanel,
  grades: GradesPanel,
  sheet: SheetPanel,
  teach: TeachPanel,
} as const;
const panel = computed(() => PANELS[props.pass]);
const passName = computed(() => PASSES.find(({ id }) => id === props.pass)!);
/** Lanes that the teacher wants to see, on strips and sheet. */
// The sheet's store knows whose style holds.
useSheet();
const lanes = computed(() => lanesIn(props.pass, look.style.lanes));
const passBefore = ref<PassId>('hand');
watch(
  () => props.pass,
  (_, before) => before !== 'sheet' && (passBefore.value = before),
);
watch(
  () => lanes.value.includes('hair'),
  (wanted) => (desk.travelWanted = wanted),
  { immediate: true },
);

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
desk.sounder = transport.sound;

/** Opens the tune, and goes where the library sent: to a note that was found, or straight to writing. */
async function arrive(id: string): Promise<void> {
  writer.active = false;
  await desk.open(id);
  if (route.query['write'] !== undefined) {
    writer.start();
    // Said once: a reload shows the desk as usual.
    void router.replace({ params: { id, pass: 'tune' } });
  }
  if (route.query['version'] !== undefined) {
    asking.value = true;
    void router.replace({ params: { id, pass: props.pass } });
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

/** From the printed page back to the strip, in the pass that was shown before. */
async function leadBack(noteId: string): Promise<void> {
  await router.replace({ name: 'desk', params: { id: props.id, pass: passBefore.value } });
  select(noteId, true);
}

/** @param more goes on choosing from where the selection was */
function select(noteId: string, focus = false, more = false): void {
  desk.choose(noteId, more);
  const note = desk.selected;
  if (note && desk.arrangement) desk.spoken = spokenNote(note, desk.arrangement.instrument, look.names);
  if (focus) void nextTick(() => bringIntoView(desk.selected?.id ?? noteId));
}

/** Phrases of which something is seen, within the pane that scrolls. */
function phrasesInSight(): ReadonlySet<string> {
  // The one that is worked on comes first.
  const own = desk.selectedPhrase?.id;
  const seen = new Set<string>(own === undefined ? [] : [own]);
  for (const strip of document.querySelectorAll<HTMLElement>('[data-phrase]')) {
    const { top, bottom } = strip.getBoundingClientRect();
    if (bottom > 0 && top < window.innerHeight) seen.add(strip.dataset['phrase']!);
  }
  return seen;
}
desk.sightFrom(phrasesInSight);

/** A note takes the focus; in a folded phrase there is none to take it, so the phrase is shown. */
function bringIntoView(noteId: string): void {
  // Not that of a picture of what would be.
  const note = document.querySelector<SVGGElement>(`[data-note-id="${CSS.escape(noteId)}"]:not([inert] *)`);
  if (note) return note.focus();
  document.querySelector(`[data-phrase="${desk.selectedPhrase?.id}"]`)?.scrollIntoView({ block: 'nearest' });
}

/** The end of a phrase is where the next one begins. */
function moveEdge(phraseId: string, edge: 'start' | 'end', noteId: string): void {
  const at = desk.phrases.findIndex(({ id }) => id === phraseId);
  const moved = desk.phrases[edge === 'start' ? at : at + 1];
  if (moved) void parts.move(moved, noteId);
}

const commands = useDeskCommands(
  {
    pass: () => props.pass,
    goTo,
    select,
    toggleHelp: () => (help.value = !help.value),
    askVersion: () => (asking.value = true),
    askName: () => document.querySelector<HTMLInputElement>('#phrase-name')?.focus(),
  },
  transport,
  writer,
);
useWriteKeys(writer);
useDeskKeys(commands);
</script>

<template>
  <div class="desk">
    <DeskHeader class="top" :pass="pass" @go="goTo" @help="help = true" @ask="asking = true" />
    <aside class="form">
      <BeadRail
        v-if="desk.arrangement"
        :facts="desk.arrangement"
        :selected-id="desk.selectedId"
        :playing-id="desk.playingId"
        :hinted="desk.hinted"
        :movable="pass === 'parts'"
        @select="select($event, true)"
        @move="(phrase, note) => (note ? parts.move(phrase, note) : parts.join(phrase))"
      />
    </aside>
    <main class="strips" :class="{ page: pass === 'sheet' && !writer.active }" aria-label="Phrases">
      <p v-if="desk.problem" class="problem" role="alert">
        {{ desk.problem }}
        <template v-if="desk.saveState === 'waiting'"
          >What you change waits here and is saved when it answers.</template
        >
        <v-btn size="small" variant="outlined" @click="desk.tune ? desk.retry() : desk.open(id)">Try again</v-btn>
      </p>
      <BothSides />
      <p v-if="desk.tune?.aside" class="problem" role="status">
        {{ desk.tune.aside === 1 ? 'One arrangement' : `${desk.tune.aside} arrangements` }} of this tune cannot be read
        by this Nokta. Nothing is lost: bring Nokta up to date to see it.
      </p>
      <p v-if="desk.trouble" class="problem" role="alert">
        {{ desk.trouble }}
        <v-btn size="small" variant="outlined" @click="desk.restart()">Try again</v-btn>
      </p>
      <p v-if="desk.making !== null" class="making" role="status">
        Making the version… {{ Math.round(100 * desk.making) }} %
        <progress :value="desk.making" max="1"></progress>
        <v-btn v-if="desk.canCallOff()" size="small" variant="outlined" @click="desk.callOff()">Call it off</v-btn>
      </p>
      <div v-if="rounds.length > 0" class="rounds">
        Shown:
        <PillChoice
          label="Time round"
          :choices="rounds"
          :chosen="String(desk.round)"
          @choose="desk.showRound(Number($event))"
        />
      </div>
      <WritingPage v-if="writer.active" :playing-id="desk.playingId" />
      <SheetPage v-else-if="pass === 'sheet' && desk.arrangement" @note="leadBack" />
      <template v-else-if="desk.arrangement">
        <SamenessMap v-if="pass === 'parts'" />
        <KeyBand v-else-if="pass === 'key'" />
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
          :changed="within(changed, view.ids)"
          :beside="beside?.[index] ?? null"
          :lanes="lanes"
          :start-moves="pass === 'parts' && index > 0"
          :end-moves="pass === 'parts' && index < desk.strips.length - 1"
          @select="(note, more) => select(note, false, more)"
          @point="(notes) => (desk.hinted = new Set(notes))"
          @move="moveEdge"
          @play="(phrase) => transport.playPhrase(phrase)"
        />
      </template>
      <p v-else-if="!desk.problem && !desk.trouble" class="opening">Opening…</p>
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
      :count="transport.count"
      :tempo="transport.tempoText"
      :part-label="transport.part?.label ?? 'Part'"
      :phrase-label="desk.selectedPhrase?.label ?? 'Phrase'"
      @toggle="commands.togglePlay"
      @loop="commands.toggleLoop"
    />
    <p class="visually-hidden" role="status" aria-live="polite">{{ desk.spoken }}</p>
    <VersionDialog v-model="asking" />
    <HelpDialog v-model="help" :writing="writer.active" :pass="pass" />
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
.strips.page {
  align-content: stretch;
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
.making,
.rounds {
  display: flex;
  align-items: center;
  gap: 10px;
  margin: 0;
  padding: 4px 14px;
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

<script setup lang="ts">
/** The desk: one tune, many passes. Strips in the middle, form at the left, reasons at the right, player below. */
import { computed, nextTick, onBeforeUnmount, reactive, ref, useTemplateRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { mdiChevronDown, mdiChevronUp } from '@mdi/js';
import { useMediaQuery, watchDebounced } from '@vueuse/core';
import { soundingNotes } from '@nokta/core/music';
import { spokenNote } from '@nokta/core/words';
import { useDeskCommands } from './commands.ts';
import { useHand } from './hand/store.ts';
import { usePartActions } from './parts/actions.ts';
import BeadRail from './shared/BeadRail.vue';
import DeskHeader from './shared/DeskHeader.vue';
import VersionDialog from './VersionDialog.vue';
import HelpDialog from './HelpDialog.vue';
import TransportBar from './shared/TransportBar.vue';
import { useDeskKeys } from './shared/keys.ts';
import { PASS, PASSES } from './passes.ts';
import { keepInView } from './shared/keepInView.ts';
import { lanesIn, type PassId } from './shared/passes.ts';
import DeskNotices from './DeskNotices.vue';
import PhraseStrips from './PhraseStrips.vue';
import { useTransport } from './shared/transport.ts';
import { useSheet } from './sheet/store.ts';
import { useDesk } from './rooms/store.ts';
import WritingPage from './tune/write/WritingPage.vue';
import { useWriteKeys } from './tune/write/keys.ts';
import { useWriter } from './tune/write/writer.ts';
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
watch(
  () => desk.wanted,
  (wanted) => wanted && select(wanted.note, true),
);
const shown = computed(() => PASS[props.pass]);
/** Lanes that the teacher wants to see, on strips and sheet. */
// The sheet's store knows whose style holds.
useSheet();
const lanes = computed(() => lanesIn(shown.value, look.style.lanes));
/** Where there is no room beside the music, the panel comes up from below, and can be put away. */
const isNarrow = useMediaQuery('(width < 900px)');
const isOut = ref(window.innerHeight >= 700);
const side = useTemplateRef<HTMLElement>('side');
// Another panel is read from its top.
watch(
  () => props.pass,
  () => side.value?.scrollTo({ top: 0 }),
);
const passBefore = ref<PassId>('hand');
watch(
  () => props.pass,
  (_, before) => !PASS[before].main && (passBefore.value = before),
);
watch(
  () => lanes.value.includes('hair'),
  (wanted) => (desk.travelWanted = wanted),
  { immediate: true },
);

/** The address of a pass of this tune, with the arrangement that is on the desk. */
const addressOf = (pass: PassId) => {
  const own = desk.record?.id;
  const isFirst = own === undefined || own === desk.records[0]?.id;
  return { name: 'desk', params: { id: props.id, pass }, query: isFirst ? {} : { arrangement: own } };
};
/** The arrangement that the address asks for. */
const wanted = computed(() => route.query['arrangement'] ?? null);

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

// What is on the desk stands in the address: it comes back after a reload, and Back leads to what was there before.
watch(
  () => [desk.tune?.id, desk.record?.id] as const,
  ([tune, own], [tuneBefore, before]) => {
    if (tune !== props.id || !own || (wanted.value ?? desk.records[0]?.id) === own) return;
    const go = tuneBefore === tune && before ? router.push : router.replace;
    void go({ ...addressOf(props.pass), query: { ...route.query, ...addressOf(props.pass).query } });
  },
);
watch(wanted, (id) => {
  const known = desk.records.find((record) => record.id === id) ?? (id === null ? desk.records[0] : undefined);
  if (known && desk.tune?.id === props.id) void desk.switchTo(known.id);
});

/** Opens the tune, and goes where the library sent: to a note that was found, or straight to writing. */
async function arrive(id: string): Promise<void> {
  writer.active = false;
  await desk.open(id, typeof wanted.value === 'string' ? wanted.value : null);
  if (route.query['write'] !== undefined) {
    writer.start();
    // Said once: a reload shows the desk as usual.
    void router.replace(addressOf('tune'));
  }
  if (route.query['version'] !== undefined) {
    asking.value = true;
    void router.replace(addressOf(props.pass));
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
  void router.push(addressOf(pass));
}

/** From the printed page back to the strip, in the pass that was shown before. */
async function leadBack(noteId: string): Promise<void> {
  await router.push(addressOf(passBefore.value));
  select(noteId, true);
}

/** @param more goes on choosing from where the selection was */
function select(noteId: string, focus = false, more = false): void {
  desk.choose(noteId, more);
  const note = desk.selected;
  if (note && desk.arrangement) desk.spoken = spokenNote(note, desk.arrangement.instrument, look.names, desk.graces);
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
  note?.focus();
  keepInView(note ?? document.querySelector(`[data-phrase="${desk.selectedPhrase?.id}"]`));
}

/** Past head and form, to the note that is worked on, or to where it is written. */
function toMusic(): void {
  const page = writer.active ? document.querySelector<HTMLElement>('[data-music]') : null;
  if (page) page.focus();
  else bringIntoView(desk.selected?.id ?? '');
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
    <a class="skip" href="#music" @click.prevent="toMusic">To the music</a>
    <DeskHeader class="top" :pass="pass" :passes="PASSES" @go="goTo" @help="help = true" @ask="asking = true" />
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
    <main id="music" class="strips" :class="{ page: shown.main && !writer.active }" aria-label="Phrases">
      <DeskNotices :id="id" />
      <WritingPage v-if="writer.active" :playing-id="desk.playingId" />
      <component :is="shown.main" v-else-if="shown.main && desk.arrangement" @note="leadBack" />
      <template v-else-if="desk.arrangement">
        <component :is="shown.band" v-if="shown.band" />
        <PhraseStrips
          :lanes="lanes"
          :pass="pass"
          :sounding="transport.soundingPhrase"
          @select="(note, more) => select(note, false, more)"
          @play="(phrase) => transport.playPhrase(phrase)"
        />
      </template>
      <p v-else-if="!desk.problem && !desk.trouble" class="opening">Opening…</p>
    </main>
    <aside ref="side" class="side" :class="{ away: isNarrow && !isOut }" :aria-label="shown.hint">
      <h2>
        <button v-if="isNarrow" type="button" :aria-expanded="isOut" @click="isOut = !isOut">
          {{ shown.hint }} <v-icon :icon="isOut ? mdiChevronDown : mdiChevronUp" size="20" />
        </button>
        <template v-else>{{ shown.hint }}</template>
      </h2>
      <div v-show="!isNarrow || isOut" class="panel-body"><component :is="shown.panel" v-if="desk.arrangement" /></div>
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
    <HelpDialog v-model="help" :writing="writer.active" :pass="shown" />
  </div>
</template>

<style scoped src="./deskView.css" />

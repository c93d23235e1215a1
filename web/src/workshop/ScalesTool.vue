<script setup lang="ts">
/** Scale and arpeggio of any key and mode, fingered for the instrument as it is tuned; with its drone, and to print. */
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { useStorage } from '@vueuse/core';
import { mdiMusicNoteOutline, mdiPlay, mdiPrinterOutline, mdiStop } from '@mdi/js';
import { goesOn, phraseLine } from '@nokta/core/arrange';
import { droneStrings } from '@nokta/core/instrument';
import { MODES, keyName, keyOf, midi, printedName, type Mode, type PitchClass } from '@nokta/core/music';
import { tuneScore } from '@nokta/core/practice';
import { SCALE_OCTAVES, scaleTune } from '@nokta/core/warmup';
import type { EngravedLine } from '@nokta/engrave';
import { api, messageOf } from '../api/client.ts';
import StripPicture from '../desk/shared/StripPicture.vue';
import { stripViews, type StripView } from '../desk/rooms/strips.ts';
import { useLook } from '../settings/look.ts';
import { createPlayer } from '../sound/player.ts';
import type { DeskFacts } from '../workers/facts.ts';
import { engraver } from '../workers/index.ts';
import { STALE } from '../workers/protocol.ts';
import { benchDesk } from './bench.ts';
import { useWorkshop } from './store.ts';

const workshop = useWorkshop();
const look = useLook();
const router = useRouter();

const TONICS: readonly PitchClass[] = (
  ['C', 'C#', 'Db', 'D', 'Eb', 'E', 'F', 'F#', 'Gb', 'G', 'Ab', 'A', 'Bb', 'B'] as const
).map((name) => ({
  letter: name[0] as PitchClass['letter'],
  alter: name.endsWith('#') ? 1 : name.endsWith('b') ? -1 : 0,
}));
const tonicName = useStorage('nokta-scale-tonic', 'G');
const mode = useStorage<Mode>('nokta-scale-mode', 'major');
const octaves = useStorage<(typeof SCALE_OCTAVES)[number]>('nokta-scale-octaves', 1);
const tempo = useStorage('nokta-scale-tempo', 80);
const withDrone = useStorage('nokta-scale-drone', true);
const tonic = computed(() => TONICS.find((one) => printedName(one) === tonicName.value) ?? TONICS[9]!);
const tonics = TONICS.map((one) => ({ value: printedName(one), title: printedName(one) }));
const modes = MODES.map((value) => ({ value, title: value }));

const scale = computed(() =>
  scaleTune({ tonic: tonic.value, mode: mode.value, octaves: octaves.value }, workshop.decisions),
);
const roomText = computed(() => {
  if (scale.value.ok) return '';
  const { octaves: room } = scale.value;
  return room === 0
    ? 'This scale does not fit on the instrument. Choose another key.'
    : `There is room for ${room === 1 ? 'one octave' : `${room} octaves`} of it on this instrument. Choose fewer octaves, or another key.`;
});

const playingId = ref<string | null>(null);
const player = createPlayer((id) => (playingId.value = id));
onBeforeUnmount(() => player.stop());

const problem = ref('');
const desk = benchDesk((error) => (problem.value = messageOf(error)));
const facts = shallowRef<DeskFacts | null>(null);
const strips = shallowRef<readonly { readonly view: StripView; readonly staff: EngravedLine }[]>([]);
let turn = 0;
const wanted = computed(() => {
  const { letter, alter } = tonic.value;
  return JSON.stringify([letter, alter, mode.value, octaves.value, workshop.key, tempo.value]);
});
watch(
  wanted,
  async () => {
    const own = (turn += 1);
    player.stop();
    if (!scale.value.ok) {
      [facts.value, strips.value] = [null, []];
      return;
    }
    const { tune } = scale.value;
    const decisions = { ...workshop.decisions, pace: { tempo: tempo.value } };
    try {
      const found = await desk.work({ tune: tune, decisions: decisions });
      if (found === STALE || own !== turn) return;
      const drawn: { readonly view: StripView; readonly staff: EngravedLine }[] = [];
      for (const view of stripViews(found))
        drawn.push({
          view,
          staff: await engraver.engrave(
            phraseLine(found.staff, view.phrase),
            found.instrument,
            goesOn(found.staff, view.phrase.from),
          ),
        });
      if (own !== turn) return;
      [facts.value, strips.value] = [found, drawn];
      problem.value = '';
    } catch (error) {
      if (own === turn) problem.value = messageOf(error);
    }
  },
  { immediate: true },
);

/** Open strings that sound home note or fifth; else the home note below. */
const drone = computed(() => {
  const { pitches } = workshop.tuning;
  const open = droneStrings(tonic.value, pitches).map((string) => pitches[string]!);
  return open.length > 0 ? open : [{ ...tonic.value, octave: pitches[0]!.octave }];
});
const droneText = computed(() => drone.value.map(printedName).join(' '));
watch(
  [withDrone, drone],
  () =>
    player.setMix({
      chords: false,
      metronome: false,
      aloud: false,
      drone: withDrone.value ? drone.value.map(midi) : [],
    }),
  { immediate: true },
);
watch(tempo, (now) => player.setTempo(now));
function play(): void {
  if (player.playing.value) return player.stop();
  if (!facts.value) return;
  void player.play(workshop.instrument.hand, tuneScore(facts.value, null), {
    quarterBpm: tempo.value,
    loop: false,
    countIn: 'none',
  });
}

const printing = ref(false);
async function print(): Promise<void> {
  if (!scale.value.ok) return;
  printing.value = true;
  try {
    const { tune } = scale.value;
    const blob = await api.printSheet({
      tune,
      decisions: { ...workshop.decisions, pace: { tempo: tempo.value } },
      style: look.style,
    });
    const link = document.createElement('a');
    link.href = URL.createObjectURL(blob);
    link.download = `${tune.title}.pdf`;
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
    problem.value = '';
  } catch (error) {
    problem.value = messageOf(error);
  }
  printing.value = false;
}
/** Kept as a tune, with everything that a desk can do. */
async function toDesk(): Promise<void> {
  if (!scale.value.ok) return;
  try {
    const made = await api.add({
      tune: scale.value.tune,
      source: 'workshop',
      instrument: workshop.key.instrument,
      arrangements: [{ ...workshop.decisions, pace: { tempo: tempo.value } }],
      tags: ['scale'],
      versions: [],
    });
    await router.push({ name: 'desk', params: { id: made.id, pass: 'hand' } });
  } catch (error) {
    problem.value = messageOf(error);
  }
}
</script>

<template>
  <section aria-label="Scales">
    <div class="choices">
      <v-select v-model="tonicName" label="Home note" :items="tonics" />
      <v-select v-model="mode" label="Mode" :items="modes" />
      <v-select
        v-model="octaves"
        label="Octaves"
        :items="SCALE_OCTAVES.map((value) => ({ value, title: ['one', 'two', 'three'][value - 1]! }))"
      />
      <label>♩ = <input v-model.number="tempo" type="number" min="30" max="240" step="4" aria-label="Tempo" /></label>
      <v-switch v-model="withDrone" :label="`Drone ${droneText}`" />
      <v-btn
        variant="flat"
        color="primary"
        :prepend-icon="player.playing.value ? mdiStop : mdiPlay"
        :disabled="!facts"
        :loading="player.loading.value"
        @click="play"
        >{{ player.playing.value ? 'Stop' : 'Play' }}</v-btn
      >
      <v-btn variant="outlined" :prepend-icon="mdiPrinterOutline" :disabled="!facts" :loading="printing" @click="print"
        >PDF</v-btn
      >
      <v-btn variant="outlined" :prepend-icon="mdiMusicNoteOutline" :disabled="!facts" @click="toDesk"
        >To the desk</v-btn
      >
    </div>
    <p v-if="roomText" class="problem" role="alert">{{ roomText }}</p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <h2 v-if="facts">{{ keyName(keyOf(tonic, mode)) }}</h2>
    <StripPicture
      v-for="{ view, staff } in strips"
      :key="view.phrase.id"
      class="line"
      :view="view"
      :staff="staff"
      :lanes="['tab', 'hand', 'names']"
      :playing-id="playingId !== null && view.ids.has(playingId) ? playingId : null"
    />
  </section>
</template>

<style scoped>
.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
}
.choices > :deep(.v-select) {
  max-width: 150px;
}
input[type='number'] {
  width: 4.4em;
  padding: 5px 7px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--paper);
  color: inherit;
  font: inherit;
}
h2 {
  margin: 14px 0 4px;
}
/* What is said of a phrase of a tune says nothing of a scale. */
.line :deep(header) > :not(h2) {
  display: none;
}
/* Its line keeps the height that the button gave it. */
.line :deep(header) {
  min-height: 36px;
}
.line {
  margin-top: 10px;
}
.problem {
  margin: 12px 0;
  padding: 8px 12px;
  border-left: 4px solid rgb(var(--v-theme-warning));
  background: color-mix(in srgb, rgb(var(--v-theme-warning)) 12%, transparent);
}
</style>

<script setup lang="ts">
/** Strings in tune: one at a time by the needle, two together by their beats. Readable across a room. */
import { computed, reactive, ref, watch } from 'vue';
import { useStorage } from '@vueuse/core';
import { mdiMicrophone, mdiPlay, mdiStop } from '@mdi/js';
import { midi, pitchName, printedName } from '@nokta/core/music';
import {
  CONCERT_A,
  IN_TUNE,
  frequencyOf,
  nearestString,
  pureInterval,
  soundOf,
  type SimulatedString,
} from '@nokta/core/practice';
import { beatsText, tunedText } from '@nokta/core/words';
import { createPlayer } from '../sound/player.ts';
import { useEar } from './ear.ts';
import { useWorkshop } from './store.ts';

const workshop = useWorkshop();
const ear = useEar();
const player = createPlayer(() => undefined);
const pitches = computed(() => workshop.tuning.pitches);
const names = computed(() => workshop.instrument.strings.map(({ name }) => name));

const source = ref<'microphone' | 'simulated'>('microphone');
const concertA = useStorage('nokta-concert-a', CONCERT_A);
/** The string that is meant; null takes the nearest. */
const meant = ref<number | null>(null);
/** Tune two strings against each other: the lower one's number; null tunes one by itself. */
const pair = ref<number | null>(null);
const pairs = computed(() =>
  pitches.value.slice(0, -1).flatMap((low, string) => {
    const interval = pureInterval(low, pitches.value[string + 1]!);
    return interval ? [{ string, interval, name: `${names.value[string]} ${names.value[string + 1]}` }] : [];
  }),
);
const chosenPair = computed(() => pairs.value.find(({ string }) => string === pair.value) ?? null);

/** Simulated strings begin a little flat, each its own way, so that there is something to turn. */
const simulated = reactive<{ peg: number; fine: number }[]>([]);
watch(
  pitches,
  (now) => {
    simulated.splice(0, simulated.length, ...now.map((_, string) => ({ peg: -0.1 - 0.04 * string, fine: 0 })));
    [meant.value, pair.value] = [null, null];
    ear.stop();
  },
  { immediate: true },
);
const own = computed(() => meant.value ?? 0);
const strings = computed<readonly SimulatedString[]>(() =>
  pitches.value.map((pitch, string) => ({ pitch, ...(simulated[string] ?? { peg: 0, fine: 0 }) })),
);
const soundingNow = computed(() =>
  (chosenPair.value ? [chosenPair.value.string, chosenPair.value.string + 1] : [own.value]).map((string) =>
    soundOf(strings.value[string] ?? strings.value[0]!, concertA.value),
  ),
);
const turned = computed(() =>
  chosenPair.value ? [chosenPair.value.string, chosenPair.value.string + 1] : [own.value],
);

const listen = () => ear.start(source.value === 'simulated' ? soundingNow.value : null);
watch(soundingNow, (now) => {
  if (ear.listening.value && source.value === 'simulated') ear.retune(now);
});
// Another string, or a second one, is another sound to make; the microphone hears whatever is played.
watch([own, pair], () => {
  if (ear.listening.value && source.value === 'simulated') void listen();
});
watch(source, () => {
  if (ear.listening.value) void listen();
});
watch(
  [chosenPair, concertA, ear.listening],
  () => {
    const now = chosenPair.value;
    ear.watch(now ? now.interval.partials[0] * frequencyOf(pitches.value[now.string]!, concertA.value) : null);
  },
  { immediate: true },
);

const reading = computed(() => {
  const heard = ear.pitch.value;
  if (heard === null || chosenPair.value) return null;
  const at = meant.value;
  if (at === null) return nearestString(heard, pitches.value, concertA.value);
  const found = nearestString(heard, [pitches.value[at]!], concertA.value);
  return found && { ...found, string: at };
});
/** Cents that the needle shows to each side. */
const WIDE = 50;
const needle = computed(() => {
  const cents = reading.value?.cents ?? 0;
  return 50 + (50 * Math.max(-WIDE, Math.min(WIDE, cents))) / WIDE;
});
const inTune = computed(() => reading.value !== null && Math.abs(reading.value.cents) <= IN_TUNE);
const said = computed(() => {
  if (chosenPair.value) return beatsText(ear.beats.value, chosenPair.value.interval.name);
  return reading.value ? tunedText(reading.value.cents) : ear.listening.value ? 'Play a string' : '';
});
/** Strings that were in tune once since the tool was opened. */
const done = ref<ReadonlySet<number>>(new Set());
watch(inTune, (now) => {
  if (now && reading.value) done.value = new Set([...done.value, reading.value.string]);
});
watch(pitches, () => (done.value = new Set()));

const sound = (string: number) => void player.sound(workshop.instrument.hand, [midi(pitches.value[string]!)]);
function mean(string: number): void {
  pair.value = null;
  meant.value = meant.value === string ? null : string;
}
</script>

<template>
  <section class="tuner" aria-label="Tuner">
    <div class="face" :class="{ right: inTune }">
      <strong class="letter">{{
        chosenPair ? chosenPair.name : reading ? printedName(pitches[reading.string]!) : '–'
      }}</strong>
      <template v-if="!chosenPair">
        <div class="scale" aria-hidden="true">
          <i v-for="mark in 11" :key="mark" :style="{ left: `${(mark - 1) * 10}%` }" :class="{ middle: mark === 6 }" />
          <b v-if="reading" :style="{ left: `${needle}%` }" />
          <span class="flat">−50</span><span class="sharp">+50</span>
        </div>
        <p class="cents">
          {{ reading ? `${reading.cents > 0 ? '+' : ''}${reading.cents.toFixed(0).replace('-', '−')}` : '' }}
          <small v-if="reading">cents</small>
        </p>
      </template>
      <p v-else class="cents">
        {{ ear.beats.value === null ? '…' : ear.beats.value.toFixed(1) }} <small>beats a second</small>
      </p>
      <p class="said" role="status">{{ said }}</p>
    </div>
    <p v-if="ear.problem.value" class="problem" role="alert">{{ ear.problem.value }}</p>
    <div class="controls">
      <div class="strings" role="group" aria-label="Strings">
        <div v-for="(pitch, string) in pitches" :key="string">
          <button
            type="button"
            :aria-pressed="meant === string"
            :class="{ done: done.has(string), now: reading?.string === string }"
            @click="mean(string)"
          >
            {{ names[string] }} <small>{{ pitchName(pitch) }}<template v-if="done.has(string)"> ✓</template></small>
          </button>
          <v-btn size="small" :prepend-icon="mdiPlay" :aria-label="`Sound ${pitchName(pitch)}`" @click="sound(string)"
            >Sound</v-btn
          >
        </div>
      </div>
      <div v-if="pairs.length > 0" class="pairs" role="group" aria-label="Two strings by their beats">
        <span>Two together:</span>
        <v-btn
          v-for="{ string, name, interval } in pairs"
          :key="string"
          size="small"
          :variant="pair === string ? 'flat' : 'outlined'"
          :color="pair === string ? 'primary' : undefined"
          :aria-pressed="pair === string"
          @click="pair = pair === string ? null : string"
          >{{ name }}, {{ interval.name }}</v-btn
        >
      </div>
      <div class="sources">
        <v-select
          v-model="source"
          class="source"
          label="Listen to"
          :items="[
            { value: 'microphone', title: 'The microphone' },
            { value: 'simulated', title: 'Simulated strings' },
          ]"
        />
        <label
          >A is
          <input v-model.number="concertA" type="number" min="415" max="466" step="1" aria-label="Concert A in hertz" />
          Hz</label
        >
        <v-btn
          v-if="!ear.listening.value"
          variant="flat"
          color="primary"
          size="large"
          :prepend-icon="mdiMicrophone"
          @click="listen"
          >Listen</v-btn
        >
        <v-btn v-else variant="flat" color="primary" size="large" :prepend-icon="mdiStop" @click="ear.stop()"
          >Stop</v-btn
        >
      </div>
      <div v-if="source === 'simulated'" class="pegs">
        <fieldset v-for="string in turned" :key="string">
          <legend>{{ names[string] }} string</legend>
          <label
            >Peg
            <input
              v-model.number="simulated[string]!.peg"
              type="range"
              min="-1"
              max="1"
              step="0.005"
              :aria-label="`Peg of the ${names[string]} string`"
          /></label>
          <label
            >Fine tuner
            <input
              v-model.number="simulated[string]!.fine"
              type="range"
              min="-1"
              max="1"
              step="0.01"
              :aria-label="`Fine tuner of the ${names[string]} string`"
          /></label>
        </fieldset>
      </div>
    </div>
  </section>
</template>

<style scoped>
.face {
  padding: 16px 30px 18px;
  border: 2px solid var(--edge);
  border-radius: 16px;
  background: var(--paper);
  text-align: center;
}
.face.right {
  border-color: rgb(var(--v-theme-success));
  box-shadow: inset 0 0 0 4px rgb(var(--v-theme-success));
}
.letter {
  display: block;
  font: 600 6.5rem/1 var(--display);
}
.scale {
  position: relative;
  height: 84px;
  margin: 14px 0 4px;
  border-bottom: 3px solid var(--ink);
}
.scale i {
  position: absolute;
  bottom: 0;
  width: 2px;
  height: 22px;
  margin-left: -1px;
  background: var(--soft);
}
.scale i.middle {
  width: 4px;
  height: 60px;
  margin-left: -2px;
  background: var(--ink);
}
.scale b {
  position: absolute;
  bottom: 4px;
  width: 26px;
  height: 26px;
  margin-left: -13px;
  border-radius: 50%;
  background: var(--accent);
  transition: left 90ms linear;
}
.right .scale b {
  background: rgb(var(--v-theme-success));
}
.scale span {
  position: absolute;
  top: 0;
  color: var(--soft);
}
.flat {
  left: 0;
}
.sharp {
  right: 0;
}
.cents {
  min-height: 4rem;
  margin: 6px 0 0;
  font-size: 3.2rem;
  font-variant-numeric: tabular-nums;
  line-height: 1.2;
}
.cents small {
  font-size: 1.2rem;
}
.said {
  min-height: 1.6em;
  margin: 0;
  font-size: 1.4rem;
}
.problem {
  margin: 10px 0 0;
  padding: 8px 12px;
  border-left: 4px solid rgb(var(--v-theme-warning));
  background: color-mix(in srgb, rgb(var(--v-theme-warning)) 12%, transparent);
}
.controls {
  display: grid;
  gap: 12px;
  margin-top: 14px;
}
.strings {
  display: flex;
  gap: 10px;
}
.strings > div {
  display: grid;
  flex: 1;
  gap: 4px;
}
.strings button[aria-pressed] {
  padding: 8px;
  border: 2px solid var(--edge);
  border-radius: 10px;
  background: var(--paper);
  color: inherit;
  font: 600 1.5rem var(--display);
  cursor: pointer;
}
.strings button[aria-pressed='true'] {
  border-color: var(--accent);
}
.strings button.now {
  box-shadow: inset 0 -5px 0 var(--accent);
}
.strings button.done {
  border-style: double;
  border-width: 4px;
}
.strings small {
  color: var(--soft);
  font: 400 0.9rem var(--text);
}
.pairs,
.sources,
.pegs {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
.source {
  max-width: 220px;
}
.sources label {
  flex: 1;
}
input[type='number'] {
  width: 4.6em;
  padding: 4px 6px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--paper);
  color: inherit;
  font: inherit;
}
fieldset {
  display: grid;
  flex: 1;
  gap: 6px;
  padding: 8px 12px;
  border: 1px solid var(--edge);
  border-radius: 10px;
}
input[type='range'] {
  accent-color: var(--accent);
}
fieldset label {
  display: grid;
  grid-template-columns: 90px 1fr;
  align-items: center;
}
</style>

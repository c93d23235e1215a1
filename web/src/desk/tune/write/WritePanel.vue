<script setup lang="ts">
/** While writing: what the next note will be, what is wrong here, and what belongs to bars. */
import { computed, nextTick, reactive, ref } from 'vue';
import { mdiGestureTap, mdiPiano } from '@mdi/js';
import {
  rebarred,
  setBarTempo,
  setBarline,
  setKey,
  setLabel,
  setMetre,
  setPickup,
  toggleEnding,
  transposeNotes,
} from '@nokta/core/edit';
import {
  LETTERS,
  TICKS_PER_QUARTER,
  barLength,
  barNumbers,
  beatLength,
  keyName,
  keyOf,
  type Alter,
  type Key,
  type Mode,
} from '@nokta/core/music';
import WrittenField from '../../../theme/parts/WrittenField.vue';
import { useMidiKeys } from './midiKeys.ts';
import { useWriter } from './writer.ts';

const writer = useWriter();
const midi = reactive(useMidiKeys((key) => writer.active && writer.strike(key)));

const bar = computed(() => writer.tune?.bars[writer.barIndex] ?? null);
const barsText = computed(() => {
  const { from, to } = writer.chosenBars;
  const numbers = barNumbers(writer.tune?.bars ?? []);
  return from === to ? `Bar ${numbers[from]}` : `Bars ${numbers[from]} to ${numbers[to]}`;
});
const lengthText = computed(() => {
  const dots = writer.dotted ? 'dotted ' : '';
  const triplet = writer.tripletLeft > 0 ? `, triplet (${writer.tripletLeft} to go)` : '';
  return `${dots}${{ '16th': 'sixteenth', '32nd': 'thirty-second' }[writer.length as string] ?? writer.length}${triplet}`;
});

const METRES = ['2/4', '3/4', '4/4', '2/2', '3/2', '5/4', '6/4', '3/8', '6/8', '7/8', '9/8', '12/8'];
const MODE_CHOICES: readonly Mode[] = ['major', 'minor', 'dorian', 'mixolydian'];
const KEYS: readonly Key[] = MODE_CHOICES.flatMap((mode) =>
  LETTERS.flatMap((letter) => ([0, -1, 1] as const).map((alter: Alter) => keyOf({ letter, alter }, mode))),
).filter(({ signature }) => Object.keys(signature).length <= 5);
const keyNames = KEYS.map(keyName);
const rebar = ref(true);
const follow = ref(false);

function metre(text: string): void {
  const [beats, unit] = text.split('/').map(Number) as [number, number];
  if (writer.tune) writer.edit(setMetre(writer.tune, writer.barIndex, { beats, unit }, rebar.value), `metre ${text}`);
}

function key(name: string): void {
  const found = KEYS.find((one) => keyName(one) === name);
  if (writer.tune && found) {
    writer.edit(
      setKey(writer.tune, writer.barIndex, found, follow.value ? 'with-signature' : 'stay'),
      `key of ${name}`,
    );
  }
}

const PICKUPS = ['None', 'Eighth', 'Quarter', '3 eighths', 'Half'];
const pickups = computed(() => {
  const first = writer.tune?.bars[0];
  if (!first) return [];
  const eighth = TICKS_PER_QUARTER / 2;
  const count = Math.max(0, Math.floor(barLength(first.metre) / eighth) - 1);
  return Array.from({ length: Math.min(count, 7) + 1 }, (_, index) => ({
    value: index * eighth,
    title: PICKUPS[index] ?? `${index} eighths`,
  }));
});
const pickup = computed(() => {
  const first = writer.tune?.bars[0];
  return first && first.offset > 0 ? first.length : 0;
});

/** A list that closes gives the focus back: what is typed next is music again. */
function backToMusic(open: boolean): void {
  if (!open) void nextTick(() => document.querySelector<HTMLElement>('[data-music]')?.focus());
}

function ending(which: number): void {
  if (writer.tune) writer.edit(toggleEnding(writer.tune, writer.chosenBars, which), `ending ${which}`);
}

function double(): void {
  const now = bar.value;
  if (writer.tune && now) {
    writer.edit(setBarline(writer.tune, writer.barIndex, now.barline === 'double' ? 'single' : 'double'), 'double bar');
  }
}

function label(text: string): void {
  if (writer.tune) writer.edit(setLabel(writer.tune, writer.barIndex, text), text ? `part ${text}` : 'no part label');
}

const tempo = computed(() => {
  const own = writer.barIndex === 0 ? writer.tune?.tempo : bar.value?.tempo;
  return own ? Math.round((own.bpm * own.beat) / (bar.value ? beatLength(bar.value.metre) : own.beat)) : '';
});
function setTempo(text: string): void {
  const bpm = Number(text);
  const now = bar.value;
  if (!writer.tune || !now) return;
  const made = bpm >= 20 && bpm <= 400 ? { beat: beatLength(now.metre), bpm } : null;
  if (made || text === '')
    writer.edit(setBarTempo(writer.tune, writer.barIndex, made), made ? `tempo ${bpm}` : 'no tempo');
}

function transpose(semitones: number): void {
  if (writer.tune) writer.edit(transposeNotes(writer.tune, writer.chosen, semitones), 'transpose what is chosen');
}

function linesAnew(): void {
  const now = writer.tune;
  if (now)
    writer.edit(rebarred(now, { from: 0, to: now.bars.length - 1 }, pickup.value || undefined), 'draw bar lines anew');
}
</script>

<template>
  <div class="panel">
    <p class="next">
      <strong>{{ writer.mode === 'caret' ? 'Writing' : 'Changing' }}</strong>
      {{ writer.mode === 'caret' ? `next note: ${lengthText}` : writer.describe() }}
      <span v-if="writer.newBar">, after a bar line</span>
    </p>
    <p v-if="writer.mode === 'caret'" class="soft">
      Letters write, digits set the length (8 an eighth, 4 a quarter), Backspace takes back, ? shows all keys.
    </p>
    <div class="buttons">
      <v-btn
        size="small"
        variant="outlined"
        :prepend-icon="mdiGestureTap"
        :aria-pressed="writer.keypad"
        @click="writer.keypad = !writer.keypad"
        >Keypad</v-btn
      >
      <v-btn v-if="midi.canHear" size="small" variant="outlined" :prepend-icon="mdiPiano" @click="midi.start()"
        >MIDI keyboard</v-btn
      >
    </div>
    <p v-if="midi.heard" class="soft" role="status">{{ midi.heard }}</p>
    <section v-if="writer.troubleHere" class="trouble" role="group" aria-label="What is wrong here">
      <p>{{ writer.troubleHere.message }}</p>
      <v-btn
        v-for="(repair, index) in writer.troubleHere.repairs"
        :key="repair.label"
        size="small"
        :variant="index === 0 ? 'flat' : 'outlined'"
        :color="index === 0 ? 'primary' : undefined"
        @click="writer.mend(repair)"
        >{{ repair.label }}<kbd v-if="index === 0">R</kbd></v-btn
      >
    </section>
    <p v-else-if="writer.troubles.length > 0" class="soft">
      {{ writer.troubles.length }} {{ writer.troubles.length === 1 ? 'place wants' : 'places want' }} mending.
      <v-btn size="small" variant="outlined" @click="writer.nextTrouble()">Go there<kbd>M</kbd></v-btn>
    </p>
    <p v-else class="soft">Every bar adds up.</p>
    <section class="bars">
      <h3>{{ barsText }}</h3>
      <div class="buttons">
        <v-btn size="small" variant="outlined" @click="writer.repeat()">Repeat<kbd>:</kbd></v-btn>
        <v-btn size="small" variant="outlined" :aria-pressed="bar?.endings?.includes(1) ?? false" @click="ending(1)"
          >1st ending</v-btn
        >
        <v-btn size="small" variant="outlined" :aria-pressed="bar?.endings?.includes(2) ?? false" @click="ending(2)"
          >2nd ending</v-btn
        >
        <v-btn size="small" variant="outlined" :aria-pressed="bar?.barline === 'double'" @click="double"
          >Double bar</v-btn
        >
        <v-btn size="small" variant="outlined" @click="transpose(12)">Octave up</v-btn>
        <v-btn size="small" variant="outlined" @click="transpose(-12)">Octave down</v-btn>
        <v-btn size="small" variant="outlined" @click="transpose(1)">Semitone up</v-btn>
        <v-btn size="small" variant="outlined" @click="transpose(-1)">Semitone down</v-btn>
      </div>
      <p class="soft">From here on:</p>
      <div class="fields">
        <WrittenField label="Part label" :value="bar?.label ?? ''" @written="label" />
        <WrittenField label="Tempo" type="number" min="20" max="400" :value="String(tempo)" @written="setTempo" />
        <v-select
          label="Metre"
          :items="METRES"
          :model-value="bar ? `${bar.metre.beats}/${bar.metre.unit}` : ''"
          @update:model-value="metre"
          @update:menu="backToMusic"
        />
        <v-select
          label="Key"
          :items="keyNames"
          :model-value="bar ? keyName(bar.key) : ''"
          @update:model-value="key"
          @update:menu="backToMusic"
        />
        <v-select
          v-if="writer.tune"
          label="Pickup"
          :items="pickups"
          :model-value="pickup"
          @update:model-value="writer.edit(setPickup(writer.tune, $event), 'pickup')"
          @update:menu="backToMusic"
        />
        <v-btn variant="outlined" @click="linesAnew">Bar lines anew</v-btn>
      </div>
      <label><input v-model="rebar" type="checkbox" /> A new metre moves the bar lines</label>
      <label><input v-model="follow" type="checkbox" /> Notes follow a new key signature</label>
    </section>
  </div>
</template>

<style scoped src="./writePanel.css" />

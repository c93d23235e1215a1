<script setup lang="ts">
/** Instrument, key, octave and tuning; what a retuning does to the strings. */
import { computed, ref, watch } from 'vue';
import { mdiAlertOutline } from '@mdi/js';
import { askedTuning, instrumentOf, retuningSteps, tuningText, tuningsFor } from '@nokta/core/instrument';
import { keyName, pitchName, transposeKey } from '@nokta/core/music';
import { octaveOf, withinOctave } from '@nokta/core/compare';
import { octaveText, retuningText, stringCautions } from '@nokta/core/words';
import { useKept } from '../../kept/store.ts';
import { useDesk } from '../rooms/store.ts';
import InstrumentCard from './InstrumentCard.vue';

const desk = useDesk();
const decided = computed(() => desk.record?.decisions.key);
const instrument = computed(() => instrumentOf(decided.value ?? { instrument: 'violin', make: null }));
const sourceKey = computed(() => desk.tune?.tune.bars[0]?.key);
const octave = computed(() => octaveOf(decided.value?.transpose ?? 0));
const within = computed(() => withinOctave(decided.value?.transpose ?? 0));

/** From six semitones down to five up, so that each key is a short way off. */
const keys = computed(() =>
  sourceKey.value
    ? Array.from({ length: 12 }, (_, index) => index - 6).map((semitones) => ({
        value: semitones,
        title: keyName(transposeKey(sourceKey.value!, semitones).key) + (semitones === 0 ? ' (as brought in)' : ''),
      }))
    : [],
);
const kept = useKept();
const keptTunings = computed(() => (decided.value ? kept.tuningsOf(decided.value) : []));
const tunings = computed(() =>
  [...tuningsFor(instrument.value), ...keptTunings.value].map(({ id, name, pitches }) => ({
    value: id,
    title: `${tuningText(pitches)} · ${name.toLowerCase()}`,
  })),
);
/** The tuning under a name of the teacher's. */
const tuningName = ref('');
const own = computed(() => keptTunings.value.find(({ id }) => id === decided.value?.tuning));
async function keepTuning(): Promise<void> {
  const { instrument: like } = decided.value!;
  const pitches = desk.arrangement!.tuning.pitches.map(pitchName);
  if (await kept.keep('tuning', tuningName.value, { instrument: like, pitches })) tuningName.value = '';
}
/** Presets are known already. */
const canKeep = computed(() => retuned.value && !own.value && decided.value?.tuning.includes(','));
const STAFF = [
  { value: 'sounding', title: 'what sounds' },
  { value: 'fingered', title: 'where the fingers go, as if tuned as usual' },
] as const;
const byHand = ref('');
const byHandError = ref('');
watch(
  () => decided.value?.tuning,
  (tuning) => {
    byHand.value = tuning?.includes(',') ? tuning : '';
    byHandError.value = '';
  },
  { immediate: true },
);
const tension = computed(() => desk.arrangement?.tension);
const cautions = computed(() => stringCautions(tension.value?.strings ?? []));
const steps = computed(() => retuningSteps(tension.value?.strings ?? [], back.value).map(retuningText));
/** The steps are those back to the usual tuning. */
const back = ref(false);
const retuned = computed(() => tension.value?.strings.some(({ semitones }) => semitones !== 0) ?? false);
const outOfReach = computed(() => desk.notes.filter(({ stops }) => stops.length === 0).length);
const resting = computed(() => desk.arrangement?.fingering.resting.length ?? 0);

function setTuning(text: string): void {
  const now = decided.value;
  if (!now || text.trim() === '') return;
  const parsed = askedTuning(instrument.value, text);
  if ('error' in parsed) {
    byHandError.value = parsed.error;
    return;
  }
  byHandError.value = '';
  if (parsed.id !== now.tuning) void desk.decide({ key: { tuning: parsed.id } }, 'change the tuning');
}

const percent = (change: number) => `${change >= 0 ? '+' : '−'}${Math.abs(change * 100).toFixed(1)} %`;
</script>

<template>
  <div v-if="decided" class="panel">
    <InstrumentCard />
    <v-select
      label="Key"
      :items="keys"
      :model-value="within"
      @update:model-value="desk.decide({ key: { transpose: $event + 12 * octave } }, 'change the key')"
    />
    <div class="octave">
      <span>Octave: {{ octaveText(octave) }}</span>
      <v-btn
        variant="outlined"
        size="small"
        :disabled="octave <= -3"
        @click="desk.decide({ key: { transpose: decided.transpose - 12 } }, 'an octave down')"
        >Down</v-btn
      >
      <v-btn
        variant="outlined"
        size="small"
        :disabled="octave >= 3"
        @click="desk.decide({ key: { transpose: decided.transpose + 12 } }, 'an octave up')"
        >Up</v-btn
      >
    </div>
    <p v-if="outOfReach > 0" class="warn" role="status">
      {{ outOfReach }} {{ outOfReach === 1 ? 'note is' : 'notes are' }} out of reach here, marked ◇ on the tab. Try
      another octave or key.
    </p>
    <p v-if="resting > 0" role="status">
      {{ resting }} kept {{ resting === 1 ? 'finger rests' : 'fingers rest' }}: made for other notes. They come back
      with the key or tuning they were made in.
    </p>
    <v-select
      label="Tuning"
      :items="tunings"
      :model-value="tunings.some(({ value }) => value === decided!.tuning) ? decided.tuning : null"
      :placeholder="byHand"
      @update:model-value="setTuning(String($event))"
    />
    <v-text-field
      v-model="byHand"
      label="Or by hand, low to high"
      placeholder="A3,E4,A4,E5"
      :error-messages="byHandError ? [byHandError] : []"
      @change="setTuning(byHand)"
      @keydown.enter="setTuning(byHand)"
    />
    <div v-if="canKeep" class="keep">
      <v-text-field v-model="tuningName" label="Keep this tuning as" maxlength="60" @keydown.enter="keepTuning" />
      <v-btn variant="outlined" size="small" :disabled="!tuningName.trim()" @click="keepTuning">Keep</v-btn>
    </div>
    <v-btn v-if="own" size="small" variant="text" @click="kept.drop(own.kept)">Keep {{ own.name }} no longer</v-btn>
    <p v-if="kept.problem" role="alert" class="warn">{{ kept.problem }}</p>
    <v-select
      v-if="retuned"
      label="The staff shows"
      :items="STAFF"
      :model-value="desk.record!.decisions.staff.pitch"
      @update:model-value="desk.decide({ staff: { pitch: $event } }, 'what the staff shows')"
    />
    <section v-if="retuned && tension" aria-label="String tension">
      <p class="gauge">
        Strings: {{ instrument.gauge ?? 'typical, medium gauge' }}. “Measure or change” has their pull.
      </p>
      <table>
        <thead>
          <tr>
            <th scope="col">String</th>
            <th scope="col">Tuned</th>
            <th scope="col">Newton</th>
            <th scope="col">Change</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="string in tension.strings" :key="string.name">
            <th scope="row">{{ string.name }}</th>
            <td>{{ string.to }}</td>
            <td>{{ string.beforeN }} → {{ string.afterN }}</td>
            <td>{{ percent(string.change) }}</td>
          </tr>
          <tr>
            <th scope="row">All</th>
            <td></td>
            <td>{{ tension.total.beforeN }} → {{ tension.total.afterN }}</td>
            <td>{{ percent(tension.total.change) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-for="caution in cautions" :key="caution" class="caution" role="note">
        <v-icon :icon="mdiAlertOutline" size="18" aria-hidden="true" />
        {{ caution }}
      </p>
      <div class="steps">
        <h3>{{ back ? 'The way back' : 'The way there' }}</h3>
        <v-btn size="small" variant="text" :aria-pressed="back" @click="back = !back">{{
          back ? 'There' : 'And back'
        }}</v-btn>
        <ol>
          <li v-for="step in steps" :key="step">{{ step }}</li>
        </ol>
      </div>
      <v-btn
        v-if="tension.lowerTuning"
        variant="outlined"
        size="small"
        @click="setTuning(tension.lowerTuning.join(','))"
      >
        Tune down instead: {{ tension.lowerTuning.join(' ') }}
      </v-btn>
    </section>
  </div>
</template>

<style scoped src="./keyPanel.css" />

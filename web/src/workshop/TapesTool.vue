<script setup lang="ts">
/** Where tapes go on the fingerboard: which fingers they mark, in millimetres from the nut, and a strip to print. */
import { computed, onMounted, ref } from 'vue';
import { mdiPrinterOutline } from '@mdi/js';
import { HANDS, framesFor } from '@nokta/core/hand';
import { MAKE_BOUNDS, stopDistance } from '@nokta/core/instrument';
import { TAPE_COLOURS, type Paper, type Tape } from '@nokta/core/paper';
import { tapesOf } from '@nokta/core/sheet';
import { tapeName } from '@nokta/core/words';
import { fileUrl } from '../api/client.ts';
import { useKept } from '../kept/store.ts';
import { useLook } from '../settings/look.ts';
import { useWorkshop } from './store.ts';

const workshop = useWorkshop();
const look = useLook();
const kept = useKept();
onMounted(() => void kept.load());

const instrument = computed(() => workshop.instrument);
/** The teacher's own, for every instrument alike: the same that the fingerboards and sheets show. */
const tapes = computed<readonly Tape[]>(() => tapesOf(look.style, instrument.value));
const set = (next: readonly Tape[]) => look.change({ tapes: [...next].sort((a, b) => a.semitones - b.semitones) });

/** Up to the octave; further with what is there already. */
const LAST = 14;
const rows = computed(() =>
  Array.from({ length: Math.max(LAST, ...tapes.value.map(({ semitones }) => semitones)) }, (_, index) => {
    const semitones = index + 1;
    return {
      semitones,
      finger: fingerOf(semitones),
      at: stopDistance(instrument.value.length, semitones),
      tape: tapes.value.find((tape) => tape.semitones === semitones) ?? null,
    };
  }),
);
const fingerOf = (semitones: number) => tapeName(framesFor(HANDS[instrument.value.hand]), semitones);

function toggle(semitones: number, on: boolean): void {
  const others = tapes.value.filter((tape) => tape.semitones !== semitones);
  const colour = TAPE_COLOURS[tapes.value.length % TAPE_COLOURS.length]!;
  set(on ? [...others, { semitones, colour }] : others);
}
const change = (semitones: number, some: Partial<Tape>) =>
  set(tapes.value.map((tape) => (tape.semitones === semitones ? { ...tape, ...some } : tape)));

const length = ref('');
const lengthProblem = ref('');
function measure(): void {
  const [least, most] = MAKE_BOUNDS.length;
  const value = Number(length.value.replace(',', '.'));
  lengthProblem.value =
    value >= least && value <= most
      ? ''
      : `A string is ${least} to ${most} mm long. Measure it from the nut to the bridge.`;
  if (lengthProblem.value) return;
  workshop.measure(value);
  length.value = '';
}

const paper = ref<Paper>('a4');
const strip = computed(() =>
  fileUrl.tapes({
    name: instrument.value.name,
    hand: instrument.value.hand,
    length: instrument.value.length,
    tapes: tapes.value,
    paper: paper.value,
  }),
);
const name = ref('');
async function keep(): Promise<void> {
  if (await kept.keep('tapes', name.value, { tapes: [...tapes.value] })) name.value = '';
}

/** The board as it lies before the player: nut on top. */
const HEIGHT = 560;
const shown = computed(() => stopDistance(1, LAST + 1));
const y = (semitones: number) => 26 + (HEIGHT - 40) * (stopDistance(1, semitones) / shown.value);
const strings = computed(() => instrument.value.strings);
const x = (string: number) => 40 + (110 * string) / Math.max(1, strings.value.length - 1);
</script>

<template>
  <section class="tapes" aria-label="Tapes">
    <figure>
      <svg :viewBox="`0 0 300 ${HEIGHT}`" role="img" aria-label="The fingerboard with its tapes">
        <rect class="board" x="26" y="22" width="138" :height="HEIGHT - 26" rx="4" />
        <line class="nut" x1="22" x2="168" y1="26" y2="26" />
        <g v-for="row in rows.filter(({ semitones }) => semitones <= LAST)" :key="row.semitones">
          <line v-if="!row.tape" class="place" x1="26" x2="164" :y1="y(row.semitones)" :y2="y(row.semitones)" />
          <template v-else>
            <rect x="26" :y="y(row.semitones) - 3.5" width="138" height="7" :fill="row.tape.colour" />
            <text x="176" :y="y(row.semitones) + 4">{{ row.at.toFixed(1) }} mm</text>
            <text v-if="row.tape.label" class="label" x="246" :y="y(row.semitones) + 4">{{ row.tape.label }}</text>
          </template>
        </g>
        <g v-for="(string, index) in strings" :key="index">
          <line
            class="string"
            :x1="x(index)"
            :x2="x(index)"
            y1="26"
            :y2="HEIGHT - 6"
            :style="{ strokeWidth: `${2.6 - (1.6 * index) / Math.max(1, strings.length - 1)}px` }"
          />
          <text class="letter" :x="x(index)" y="14">{{ string.name }}</text>
        </g>
      </svg>
    </figure>
    <div>
      <table>
        <thead>
          <tr>
            <th scope="col">Tape</th>
            <th scope="col">From the nut</th>
            <th scope="col">Colour</th>
            <th scope="col">Written on it</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.semitones" :class="{ on: row.tape }">
            <td>
              <label>
                <input
                  type="checkbox"
                  :checked="row.tape !== null"
                  :aria-label="`Tape for the ${row.finger}`"
                  @change="toggle(row.semitones, ($event.target as HTMLInputElement).checked)"
                />
                {{ row.finger }}
              </label>
            </td>
            <td class="number">{{ row.at.toFixed(1) }} mm</td>
            <td>
              <input
                v-if="row.tape"
                type="color"
                :value="row.tape.colour"
                :aria-label="`Colour of the tape for the ${row.finger}`"
                @change="change(row.semitones, { colour: ($event.target as HTMLInputElement).value })"
              />
            </td>
            <td>
              <input
                v-if="row.tape"
                class="text"
                maxlength="12"
                :value="row.tape.label ?? ''"
                :aria-label="`What is written on the tape for the ${row.finger}`"
                @change="change(row.semitones, { label: ($event.target as HTMLInputElement).value || undefined })"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <aside>
      <h2>{{ instrument.name }}, {{ instrument.length }} mm</h2>
      <p>Makers differ by a centimetre and more. Measure nut to bridge on yours.</p>
      <v-text-field
        v-model="length"
        label="String length on yours"
        suffix="mm"
        inputmode="decimal"
        :error-messages="lengthProblem ? [lengthProblem] : []"
        @change="length && measure()"
        @keydown.enter="length && measure()"
      />
      <div class="row">
        <v-btn size="small" variant="outlined" @click="look.change({ tapes: null })">The usual ones</v-btn>
        <v-btn size="small" variant="outlined" @click="set([])">None</v-btn>
      </div>
      <h3>Print the strip</h3>
      <div class="row">
        <v-btn
          variant="flat"
          color="primary"
          :prepend-icon="mdiPrinterOutline"
          :href="strip"
          download
          :disabled="tapes.length === 0"
          >PDF at true scale</v-btn
        >
        <select v-model="paper" aria-label="Paper">
          <option value="a4">A4</option>
          <option value="letter">Letter</option>
        </select>
      </div>
      <p>Print at 100 %. A line of 100 mm on it shows whether the printer did.</p>
      <h3>Keep these tapes</h3>
      <div class="row">
        <input v-model="name" class="text" maxlength="60" placeholder="Name" aria-label="Name of these tapes" />
        <v-btn size="small" variant="outlined" :disabled="!name.trim()" @click="keep">Keep</v-btn>
      </div>
      <p v-if="kept.problem" role="alert">{{ kept.problem }}</p>
      <ul>
        <li v-for="one in kept.of('tapes')" :key="one.id">
          <v-btn size="small" @click="set(one.value.tapes)">{{ one.name }}</v-btn>
          <v-btn size="small" :aria-label="`Keep ${one.name} no longer`" @click="kept.drop(one.id)">Remove</v-btn>
        </li>
      </ul>
    </aside>
  </section>
</template>

<style scoped>
.tapes {
  display: grid;
  grid-template-columns: 300px minmax(0, 1fr) 270px;
  gap: 26px;
}
figure {
  margin: 0;
}
.board {
  fill: color-mix(in srgb, var(--wood) 16%, var(--paper));
}
.nut {
  stroke: var(--ink);
  stroke-width: 5px;
}
.place {
  stroke: var(--edge);
  stroke-width: 1px;
}
.string {
  stroke: var(--ink);
}
text {
  fill: var(--ink);
  font: 13px var(--text);
}
.letter {
  font-weight: 700;
  text-anchor: middle;
}
.label {
  font-weight: 700;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  padding: 4px 6px;
  color: var(--soft);
  font-weight: 400;
  text-align: left;
}
td {
  height: 36px;
  padding: 2px 6px;
  border-top: 1px solid var(--edge);
}
tr.on {
  font-weight: 700;
}
.number {
  font-variant-numeric: tabular-nums;
}
h2 {
  margin: 0;
  font-size: 1.2rem;
}
h3 {
  margin: 16px 0 6px;
  font-size: 1.05rem;
}
aside p {
  margin: 6px 0 10px;
  color: var(--soft);
}
.row {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-top: 8px;
}
input[type='color'] {
  width: 46px;
  height: 26px;
  padding: 2px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--paper);
}
input[type='checkbox'] {
  accent-color: var(--accent);
}
.text,
select {
  width: 7.5em;
  padding: 4px 7px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--paper);
  color: inherit;
  font: inherit;
}
ul {
  padding: 0;
  list-style: none;
}
</style>

<script setup lang="ts">
/** "Make it a grade 2 for the cello": from any pass, by one choice. What is there already comes on the desk. */
import { computed } from 'vue';
import { GRADE_NUMBERS, contractFor, type GradeId } from '@nokta/core/grade';
import { INSTRUMENTS, type InstrumentId } from '@nokta/core/instrument';
import { inText } from '@nokta/core/words';
import { useLearners } from '../learners/store.ts';
import { useDesk } from './rooms/store.ts';
import { returnsFocus } from '../theme/focus.ts';

const open = defineModel<boolean>({ required: true });
returnsFocus(open);
const desk = useDesk();
const GRADES: readonly GradeId[] = ['bare', ...GRADE_NUMBERS, 'tune'];
const learners = useLearners();
/** For whom a column is: on the instrument of the desk it is who is on the desk. */
const columns = computed(() =>
  INSTRUMENTS.map((id) => {
    const { key, hand } = desk.record?.decisions ?? {};
    if (key?.instrument !== id) return { id, text: `for the ${id}` };
    const what = inText(key.make?.name ?? id);
    return { id, text: hand?.learner ? `for ${learners.nameOf(hand.learner)}, ${what}` : `for the ${what}` };
  }),
);
const stateOf = (grade: GradeId, instrument: InstrumentId) => desk.versionState(grade, instrument);
const nameOf = (grade: GradeId) => (grade === 'tune' ? 'The tune' : grade === 'bare' ? 'Bare' : `Grade ${grade}`);
const aboutOf = (grade: GradeId) => (typeof grade === 'number' ? contractFor('violin', grade).name : '');
const WORDS = { here: 'on the desk', made: 'show', new: 'make' } as const;
const wordFor = (grade: GradeId, instrument: InstrumentId) => WORDS[stateOf(grade, instrument) ?? 'new'];

function make(grade: GradeId, instrument: InstrumentId, forWhom: string): void {
  open.value = false;
  desk.spoken = `${nameOf(grade)} ${forWhom}`;
  void desk.showVersion(grade, instrument);
}
</script>

<template>
  <v-dialog v-model="open" max-width="760" aria-labelledby="version-dialog-title">
    <v-card class="pa-5">
      <h2 id="version-dialog-title">Make it …</h2>
      <table>
        <thead>
          <tr>
            <td></td>
            <th v-for="{ id, text } in columns" :key="id" scope="col">{{ text }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(grade, step) in GRADES" :key="grade">
            <th scope="row" :style="{ paddingLeft: `${step * 5}px` }">
              {{ nameOf(grade) }} <small>{{ aboutOf(grade) }}</small>
            </th>
            <td v-for="{ id, text } in columns" :key="id">
              <button
                type="button"
                :class="stateOf(grade, id)"
                :aria-label="`${nameOf(grade)} ${text}: ${wordFor(grade, id)}`"
                @click="make(grade, id, text)"
              >
                {{ wordFor(grade, id) }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <p>Each is an arrangement of its own; the key stays, the octave is the one that lies best.</p>
    </v-card>
  </v-dialog>
</template>

<style scoped>
h2 {
  margin: 0 0 10px;
  font-size: 1.2rem;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  padding: 4px 8px;
  font-weight: 600;
  text-align: left;
}
th small {
  color: var(--soft);
  font-weight: 400;
}
thead th {
  font-weight: 400;
}
tbody tr {
  border-top: 1px solid var(--edge);
}
td {
  padding: 2px 4px;
}
button {
  width: 100%;
  padding: 7px 4px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: none;
  color: inherit;
  font: inherit;
  cursor: pointer;
}
button:hover,
button:focus-visible {
  border-color: var(--accent);
}
button.made {
  border-style: double;
  border-width: 3px;
  font-weight: 600;
}
button.here {
  border-color: var(--accent);
  background: color-mix(in srgb, var(--accent) 14%, transparent);
  font-weight: 600;
}
p {
  margin: 10px 0 0;
  color: var(--soft);
}
</style>

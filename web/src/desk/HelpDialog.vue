<script setup lang="ts">
/** The desk's keys. */
import { computed } from 'vue';
import { KEY_ROWS, passRows } from './shared/keys.ts';
import type { Pass } from './shared/passes.ts';
import { CLIP_ROW, WRITE_ROWS } from './tune/write/keys.ts';
import { returnsFocus } from '../theme/focus.ts';

const shown = defineModel<boolean>({ required: true });
returnsFocus(shown);
const props = defineProps<{ writing: boolean; pass: Pass }>();

const rows = computed(() => {
  if (props.writing) return [...WRITE_ROWS, CLIP_ROW, UNDO];
  return [...passRows(props.pass), ...KEY_ROWS, UNDO];
});
const UNDO = { shown: ['Ctrl', 'Z'], does: 'undo; with Shift, redo' };
</script>

<template>
  <v-dialog v-model="shown" :max-width="writing ? 620 : 520" scrollable aria-labelledby="keys-title">
    <v-card class="pa-5">
      <h2 id="keys-title">{{ writing ? 'Keys for writing' : 'Keys at the desk' }}</h2>
      <table>
        <tbody>
          <tr v-for="row in rows" :key="row.does">
            <th scope="row">
              <kbd v-for="key in row.shown" :key="key">{{ key }}</kbd>
            </th>
            <td>{{ row.does }}</td>
          </tr>
        </tbody>
      </table>
      <v-btn class="mt-3" variant="tonal" @click="shown = false">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
h2 {
  margin: 0 0 10px;
  font-size: 1.25rem;
}
th {
  padding: 3px 18px 3px 0;
  text-align: left;
  white-space: nowrap;
}
kbd {
  margin-right: 4px;
}
</style>

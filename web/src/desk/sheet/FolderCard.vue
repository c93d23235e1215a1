<script setup lang="ts">
/** Each player's sheet and score in one zip: for everybody, or for who is ticked. */
import { computed, onBeforeUnmount, ref } from 'vue';
import { mdiFolderZipOutline } from '@mdi/js';
import { messageOf } from '../../api/client.ts';
import TickList from '../../theme/parts/TickList.vue';
import { useDesk } from '../rooms/store.ts';
import { download } from './download.ts';
import { packFolder } from './folder.ts';
import { useSheet } from './store.ts';

const desk = useDesk();
const sheet = useSheet();
const without = ref<ReadonlySet<string>>(new Set());
const chosen = computed(() => desk.names.filter(({ id }) => !without.value.has(id)));
const ticks = computed(() => desk.names.map(({ id, name }) => ({ id, name, on: !without.value.has(id) })));
function toggle(id: string): void {
  const left = new Set(without.value);
  if (!left.delete(id)) left.add(id);
  without.value = left;
}
const label = computed(() => {
  const count = chosen.value.length;
  if (count === desk.names.length) return `All ${count} arrangements, one zip`;
  return count === 1 ? 'One arrangement, one zip' : `${count} arrangements, one zip`;
});

/** How far it is, 0 to 1, and what went wrong. */
const packing = ref<number | null>(null);
const packed = ref('');
let control: AbortController | null = null;
onBeforeUnmount(() => control?.abort());

async function pack(): Promise<void> {
  const { tune } = desk;
  if (!tune) return;
  const own = (control = new AbortController());
  packing.value = 0;
  packed.value = '';
  try {
    const input = { title: tune.title, arrangements: chosen.value, style: sheet.style };
    const zip = await packFolder(input, { signal: own.signal, progress: (share) => (packing.value = share) });
    download(zip, 'application/zip', `${tune.title}.zip`);
  } catch (error) {
    if (!own.signal.aborted) packed.value = messageOf(error);
  } finally {
    packing.value = null;
  }
}
</script>

<template>
  <section aria-label="A folder for the group">
    <div v-if="packing === null" class="actions">
      <v-btn variant="outlined" :prepend-icon="mdiFolderZipOutline" :disabled="chosen.length === 0" @click="pack">{{
        label
      }}</v-btn>
    </div>
    <div v-else class="actions">
      <span role="status">Making the sheets… {{ Math.round(100 * packing) }} %</span>
      <v-btn size="small" @click="control?.abort()">Call it off</v-btn>
    </div>
    <p v-if="packed" role="alert">{{ packed }}</p>
    <details>
      <summary>For whom</summary>
      <TickList label="Whose sheets go in" :items="ticks" @toggle="toggle" />
    </details>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
}
.actions {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
p {
  margin: 0;
}
</style>

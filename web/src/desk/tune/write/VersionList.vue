<script setup lang="ts">
/** Named versions: give this state a name, look at what differs from now, go back to it. */
import { dequal } from 'dequal';
import { computed, ref, shallowRef, watch } from 'vue';
import { format } from 'date-fns';
import { mdiDeleteOutline } from '@mdi/js';
import type { VersionRecord, VersionSummary } from '@nokta/api';
import { changeBetween } from '@nokta/core/edit';
import { barNumbers } from '@nokta/core/music';
import { api, messageOf } from '../../../api/client.ts';
import { useDesk } from '../../rooms/store.ts';
import { useWriter } from './writer.ts';

const desk = useDesk();
const writer = useWriter();
const versions = ref<readonly VersionSummary[]>([]);
const opened = shallowRef<VersionRecord | null>(null);
const name = ref('');
const failure = ref('');

const id = computed(() => desk.tune?.id ?? '');
watch(id, load, { immediate: true });

async function attempt(work: () => Promise<unknown>): Promise<void> {
  try {
    failure.value = '';
    await work();
  } catch (error) {
    failure.value = messageOf(error);
  }
}

async function load(): Promise<void> {
  opened.value = null;
  if (id.value) await attempt(async () => (versions.value = await api.versions(id.value)));
}

async function keep(): Promise<void> {
  const wanted = name.value.trim() || format(new Date(), 'd MMM, HH:mm');
  await attempt(async () => {
    await api.nameVersion(id.value, wanted);
    name.value = '';
    await load();
  });
}

async function compare(version: VersionSummary): Promise<void> {
  await attempt(
    async () => (opened.value = opened.value?.id === version.id ? null : await api.version(id.value, version.id)),
  );
}

/** What is different now, in words: bars by their number, fields by their name. */
const differences = computed(() => {
  const now = writer.tune;
  const then = opened.value?.tune;
  if (!now || !then) return [];
  const change = changeBetween(then, now);
  if (!change) return ['Nothing: it is just the same.'];
  const found: string[] = [];
  if (change.fields)
    found.push(`${Object.keys(change.fields.after).join(', ').replace('alsoKnownAs', 'other names')}: changed`);
  const numbers = barNumbers(now.bars);
  const before = barNumbers(then.bars);
  const list = (from: number, count: number, of: readonly number[]) =>
    count === 1 ? `bar ${of[from]}` : `bars ${of[from]} to ${of[from + count - 1]}`;
  if (change.bars) {
    const { at, before: old, after } = change.bars;
    if (old.length === 0) found.push(`${list(at, after.length, numbers)}: not there then`);
    else if (after.length === 0) found.push(`${list(at, old.length, before)}: gone now`);
    else {
      const changed = after.flatMap((bar, index) => (dequal(bar, old[index]) ? [] : [numbers[at + index]!]));
      found.push(`${changed.length === 1 ? 'bar' : 'bars'} ${changed.slice(0, 14).join(', ')}: changed`);
    }
  } else if (change.slurs) found.push('slurs: changed');
  return found;
});

function goBack(): void {
  const version = opened.value;
  if (version && writer.edit(version.tune, `go back to ${version.name}`)) opened.value = null;
  void desk.compute();
}

async function remove(version: VersionSummary): Promise<void> {
  await attempt(async () => {
    await api.deleteVersion(id.value, version.id);
    await load();
  });
}
</script>

<template>
  <div class="versions">
    <form class="name" @submit.prevent="keep">
      <v-text-field v-model="name" label="Name for how it is now" />
      <v-btn type="submit" variant="outlined">Keep</v-btn>
    </form>
    <p v-if="failure" role="alert">{{ failure }}</p>
    <p v-if="versions.length === 0" class="soft">No versions yet. Keep one before you change something large.</p>
    <ul>
      <li v-for="version in versions" :key="version.id">
        <div class="row">
          <strong>{{ version.name }}</strong>
          <span class="soft">{{ format(new Date(version.madeAt), 'd MMM yyyy, HH:mm') }}</span>
          <v-btn size="small" variant="outlined" :aria-expanded="opened?.id === version.id" @click="compare(version)"
            >Compare</v-btn
          >
          <v-btn
            :icon="mdiDeleteOutline"
            size="x-small"
            :aria-label="`Delete the version ${version.name}`"
            @click="remove(version)"
          />
        </div>
        <div v-if="opened?.id === version.id" class="opened">
          <p>Different now:</p>
          <ul>
            <li v-for="text in differences" :key="text">{{ text }}</li>
          </ul>
          <v-btn size="small" variant="flat" color="primary" @click="goBack">Go back to it</v-btn>
        </div>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.versions,
.name,
.row {
  display: flex;
  gap: 8px;
}
.versions {
  flex-direction: column;
}
.row {
  flex-wrap: wrap;
  align-items: center;
}
.row .soft {
  margin-right: auto;
}
.soft {
  color: var(--soft);
  font-size: 0.88rem;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li + li {
  margin-top: 8px;
}
.opened {
  margin: 6px 0;
  padding: 8px 12px;
  border-left: 3px solid var(--accent);
}
p {
  margin: 0;
}
</style>

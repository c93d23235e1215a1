<script setup lang="ts">
/** A backup put back: first what would change, then the change. What stood there before is kept as a version. */
import { computed, ref, shallowRef, watch } from 'vue';
import { format } from 'date-fns';
import { mdiFolderOpenOutline } from '@mdi/js';
import { BATCH, type Compared, type RestoredTune } from '@nokta/api';
import type { BackupEntry, BackupList } from '@nokta/core/files';
import type { Problem } from '@nokta/core/formats';
import { api, messageOf } from '../api/client.ts';
import { openInWorker, type ReadingFile } from '../workers/files.ts';

const shown = defineModel<boolean>({ required: true });
const props = defineProps<{ files: readonly File[] }>();
const emit = defineEmits<{ restored: [] }>();

const list = shallowRef<BackupList | null>(null);
const compared = shallowRef<Compared>([]);
const takeChanged = ref(false);
const problem = ref('');
/** Learners' hands that are not here yet. */
const newHands = shallowRef<BackupList['hands']>([]);
const done = ref(0);
const state = ref<'choose' | 'reading' | 'preview' | 'restoring' | 'done'>('choose');
const fileInput = ref<HTMLInputElement | null>(null);
let file: ReadingFile | null = null;
let stop: AbortController | null = null;

watch(
  () => [shown.value, props.files] as const,
  ([visible, files]) => {
    if (!visible) return close();
    state.value = 'choose';
    problem.value = '';
    if (files[0]) void open(files[0]);
  },
  { immediate: true },
);

function close(): void {
  stop?.abort();
  file?.close();
  file = null;
  list.value = null;
}

const wordsOf = (problems: readonly Problem[]) =>
  problems.map(({ message, remedy }) => `${message} ${remedy ?? ''}`).join(' ');

async function open(chosen: File): Promise<void> {
  state.value = 'reading';
  problem.value = '';
  const control = new AbortController();
  stop = control;
  try {
    const opened = await openInWorker(chosen, control.signal);
    if (control.signal.aborted) return opened.ok ? opened.file.close() : undefined;
    if (!opened.ok) throw new Error(wordsOf(opened.problems));
    ({ file } = opened);
    const found = await file.service.backup();
    if (!found) throw new Error('This file is no backup of Nokta. Choose one that “Back everything up” made.');
    if (!found.ok) throw new Error(wordsOf(found.problems));
    compared.value = await api.compareBackup(found.value.tunes.map(({ id, updatedAt }) => ({ id, updatedAt })));
    const here = new Set((await api.hands()).map(({ id }) => id));
    newHands.value = found.value.hands.filter(({ id }) => !here.has(id));
    list.value = found.value;
    state.value = 'preview';
  } catch (error) {
    problem.value = messageOf(error);
    state.value = 'choose';
  }
}

function choose(event: Event): void {
  const input = event.target as HTMLInputElement;
  const chosen = input.files?.[0];
  input.value = '';
  if (chosen) void open(chosen);
}

const count = (kind: Compared[number]) => compared.value.filter((one) => one === kind).length;
const changed = computed(() => list.value?.tunes.filter((_, index) => compared.value[index] === 'differs') ?? []);
const wanted = computed<readonly BackupEntry[]>(
  () =>
    list.value?.tunes.filter(
      (_, index) => compared.value[index] === 'new' || (takeChanged.value && compared.value[index] === 'differs'),
    ) ?? [],
);

async function restore(): Promise<void> {
  if (!file) return;
  state.value = 'restoring';
  done.value = 0;
  const control = new AbortController();
  stop = control;
  try {
    let batch: RestoredTune[] = [];
    const send = async () => {
      if (batch.length === 0) return;
      await api.restoreBackup(batch, control.signal);
      done.value += batch.length;
      batch = [];
    };
    for (const { id, updatedAt, file: name } of wanted.value) {
      const read = await file.service.backupTune(name);
      if (!read.ok) throw new Error(`${name}: ${wordsOf(read.problems)}`);
      const { tune, arrangements, tags, versions } = read.value;
      const state_ = {
        tune,
        arrangements: [...arrangements],
        tags: [...tags],
        versions: versions.map((one) => ({ ...one })),
      };
      batch.push({ id, updatedAt, source: 'backup', ...state_ });
      if (batch.length === BATCH) await send();
    }
    await send();
    for (const hand of newHands.value) await api.keepHand(hand);
    state.value = 'done';
  } catch (error) {
    problem.value = control.signal.aborted ? '' : messageOf(error);
    state.value = 'preview';
  }
  emit('restored');
}
</script>

<template>
  <v-dialog v-model="shown" max-width="620" aria-labelledby="restore-title">
    <v-card class="restore">
      <h2 id="restore-title">Restore a backup</h2>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <template v-if="state === 'choose'">
        <p>Choose a backup. You see what would change before anything does.</p>
        <v-btn variant="outlined" :prepend-icon="mdiFolderOpenOutline" @click="fileInput?.click()">Open a backup</v-btn>
      </template>
      <p v-else-if="state === 'reading'" role="status">Reading…</p>
      <template v-else-if="state === 'preview' && list">
        <p>Made on {{ format(new Date(list.madeAt), 'd MMMM yyyy, HH:mm') }}, with {{ list.tunes.length }} tunes.</p>
        <dl>
          <dt>{{ count('new') }}</dt>
          <dd>not here: will be added</dd>
          <dt>{{ count('same') }}</dt>
          <dd>here just the same: nothing happens</dd>
          <dt>{{ count('differs') }}</dt>
          <dd>here, but changed since</dd>
          <template v-if="newHands.length > 0">
            <dt>{{ newHands.length }}</dt>
            <dd>learners’ hands that are not here: will be added</dd>
          </template>
        </dl>
        <fieldset v-if="changed.length > 0">
          <legend>The changed ones</legend>
          <label><input v-model="takeChanged" type="radio" :value="false" /> stay as they are here</label>
          <label
            ><input v-model="takeChanged" type="radio" :value="true" /> become as in the backup; what is here now is
            kept as a version of each</label
          >
          <ul>
            <li v-for="{ id, title } in changed.slice(0, 12)" :key="id">{{ title }}</li>
            <li v-if="changed.length > 12">and {{ changed.length - 12 }} more</li>
          </ul>
        </fieldset>
      </template>
      <p v-else-if="state === 'restoring'" role="status">
        {{ done }} of {{ wanted.length }} restored… <progress :value="done" :max="wanted.length" />
      </p>
      <p v-else-if="state === 'done'" role="status">
        {{ done }} {{ done === 1 ? 'tune was' : 'tunes were' }} restored.
      </p>
      <div class="row">
        <v-btn v-if="state === 'restoring'" @click="close()">Stop</v-btn>
        <v-btn v-else @click="shown = false">Close</v-btn>
        <v-btn
          v-if="state === 'preview'"
          variant="flat"
          color="primary"
          :disabled="wanted.length + newHands.length === 0"
          @click="restore"
          >Restore {{ wanted.length }} {{ wanted.length === 1 ? 'tune' : 'tunes' }}</v-btn
        >
      </div>
      <input
        ref="fileInput"
        type="file"
        accept=".zip"
        class="visually-hidden"
        tabindex="-1"
        aria-label="Backup file"
        @change="choose"
      />
    </v-card>
  </v-dialog>
</template>

<style scoped>
.restore {
  display: grid;
  gap: 12px;
  padding: 20px 24px;
}
h2,
p {
  margin: 0;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 14px;
  margin: 0;
}
dt {
  font: 600 1.2rem var(--display);
  text-align: right;
}
dd {
  margin: 0;
  align-self: center;
}
fieldset {
  padding: 0;
  border: 0;
}
legend {
  font-weight: 700;
}
label {
  display: flex;
  align-items: baseline;
  gap: 8px;
  padding: 3px 0;
  cursor: pointer;
}
ul {
  max-height: 24vh;
  margin: 6px 0 0;
  overflow: auto;
  color: var(--soft);
}
.row {
  display: flex;
  justify-content: flex-end;
  gap: 10px;
}
.problem {
  padding: 8px 12px;
  border-left: 4px solid rgb(var(--v-theme-error));
}
</style>

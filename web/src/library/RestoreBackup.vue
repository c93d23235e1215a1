<script setup lang="ts">
/** A backup put back: first what would change, then the change. What is here goes back only where that is chosen. */
import { computed, ref, shallowRef, watch } from 'vue';
import { format } from 'date-fns';
import { mdiFolderOpenOutline } from '@mdi/js';
import { BATCH, type Compared, type Restore, type RestoredTune } from '@nokta/api';
import type { BackupEntry, BackupList } from '@nokta/core/files';
import type { Problem } from '@nokta/core/formats';
import { api, messageOf } from '../api/client.ts';
import { openInWorker, resultInTime, type ReadingFile } from '../workers/files.ts';
import { returnsFocus } from '../theme/focus.ts';

const shown = defineModel<boolean>({ required: true });
returnsFocus(shown);
const props = defineProps<{ files: readonly File[] }>();
const emit = defineEmits<{ restored: [] }>();

const list = shallowRef<BackupList | null>(null);
const compared = shallowRef<Compared>([]);
/** What becomes of a tune that is here in another state. */
type Choice = 'here' | Restore;
const CHOICES: readonly { readonly value: Choice; readonly title: string; readonly all: string }[] = [
  { value: 'here', title: 'stays as it is here', all: 'Stay' },
  { value: 'backup', title: 'goes back to the backup’s', all: 'Go back' },
  { value: 'both', title: 'stays, and takes in what only the backup has', all: 'Take in' },
];
/** For each changed tune, by id. */
const choices = ref<Record<string, Choice>>({});
/** Tunes that did not come back, and why. */
const failed = shallowRef<readonly { readonly title: string; readonly reason: string }[]>([]);
const problem = ref('');
/** Learners that are not here yet. */
const newLearners = shallowRef<BackupList['learners']>([]);
/** Instruments, tunings, groups and tapes that are not here yet. */
const newKept = shallowRef<BackupList['kept']>([]);
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
    compared.value = await api.compareBackup(
      found.value.tunes.map(({ id, updatedAt, sha256 }) => ({ id, updatedAt, sha256 })),
    );
    choices.value = {};
    const here = new Set([...(await api.learners()), ...(await api.kept())].map(({ id }) => id));
    newLearners.value = found.value.learners.filter(({ id }) => !here.has(id));
    newKept.value = found.value.kept.filter(({ id }) => !here.has(id));
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
const choiceOf = (id: string): Choice => choices.value[id] ?? 'here';
function chooseAll(choice: Choice): void {
  choices.value = Object.fromEntries(changed.value.map(({ id }) => [id, choice]));
}
const wanted = computed<readonly BackupEntry[]>(
  () =>
    list.value?.tunes.filter(
      ({ id }, index) =>
        compared.value[index] === 'new' || (compared.value[index] === 'differs' && choiceOf(id) !== 'here'),
    ) ?? [],
);

function fail(title: string, reason: string): void {
  failed.value = [...failed.value, { title, reason }];
}

async function restore(): Promise<void> {
  if (!file) return;
  state.value = 'restoring';
  done.value = 0;
  const control = new AbortController();
  stop = control;
  failed.value = [];
  const { service } = file;
  const { madeAt } = list.value!;
  try {
    let batch: { readonly title: string; readonly tune: RestoredTune }[] = [];
    const send = async () => {
      if (batch.length === 0) return;
      const answer = await api.restoreBackup(
        madeAt,
        batch.map(({ tune }) => tune),
        control.signal,
      );
      done.value += answer.restored.length;
      for (const { index, error } of answer.refused) fail(batch[index]!.title, error);
      batch = [];
    };
    for (const { id, title, updatedAt, file: name, arrangements: ids = [] } of wanted.value) {
      const read = await resultInTime({ service, close }, (reader) => reader.backupTune(name));
      if (control.signal.aborted) return;
      // One that is damaged keeps the rest from nothing.
      if (!read.ok) {
        fail(title, wordsOf(read.problems));
        continue;
      }
      const { tune, arrangements, tags, versions } = read.value;
      const own = {
        tune,
        arrangements: [...arrangements],
        tags: [...tags],
        versions: versions.map((one) => ({ ...one })),
      };
      const how = choiceOf(id) === 'both' ? 'both' : 'backup';
      batch.push({ title, tune: { id, updatedAt, how, source: 'backup', arrangementIds: [...ids], ...own } });
      if (batch.length === BATCH) await send();
    }
    await send();
    for (const { id, value } of newLearners.value) await api.addLearner(id, value);
    for (const one of newKept.value) await api.keep(one);
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
          <template v-if="newLearners.length > 0">
            <dt>{{ newLearners.length }}</dt>
            <dd>learners that are not here: will be added</dd>
          </template>
          <template v-if="newKept.length > 0">
            <dt>{{ newKept.length }}</dt>
            <dd>instruments, tunings, groups, tapes and looks that are not here: will be added</dd>
          </template>
        </dl>
        <section v-if="changed.length > 0" aria-labelledby="changed-title">
          <h3 id="changed-title">The changed ones</h3>
          <p class="soft">Nothing is taken away: going back is a step that can be undone at the desk.</p>
          <div v-if="changed.length > 1" class="all">
            All of them:
            <v-btn
              v-for="{ value, all } in CHOICES"
              :key="value"
              size="small"
              variant="outlined"
              @click="chooseAll(value)"
              >{{ all }}</v-btn
            >
          </div>
          <ul>
            <li v-for="{ id, title } in changed" :key="id">
              <span :id="`changed-${id}`">{{ title }}</span>
              <select v-model="choices[id]" :aria-labelledby="`changed-${id}`">
                <option :value="undefined">{{ CHOICES[0]!.title }}</option>
                <option v-for="choice in CHOICES.slice(1)" :key="choice.value" :value="choice.value">
                  {{ choice.title }}
                </option>
              </select>
            </li>
          </ul>
        </section>
        <p v-if="list.aside && list.aside.length > 0" class="soft">
          {{ list.aside.length }} in this backup could not be read by the Nokta that made it:
          {{ list.aside.map(({ title }) => title).join(', ') }}. A newer one may.
        </p>
      </template>
      <p v-else-if="state === 'restoring'" role="status">
        {{ done }} of {{ wanted.length }} restored… <progress :value="done" :max="wanted.length" />
      </p>
      <p v-else-if="state === 'done'" role="status">
        {{ done }} {{ done === 1 ? 'tune was' : 'tunes were' }} restored.
      </p>
      <section v-if="failed.length > 0" aria-labelledby="failed-title">
        <h3 id="failed-title">Not restored</h3>
        <ul>
          <li v-for="{ title, reason } in failed" :key="title">
            <b>{{ title }}</b> <span class="soft">{{ reason }}</span>
          </li>
        </ul>
      </section>
      <div class="row">
        <v-btn v-if="state === 'restoring'" @click="close()">Stop</v-btn>
        <v-btn v-else @click="shown = false">Close</v-btn>
        <v-btn
          v-if="state === 'preview'"
          variant="flat"
          color="primary"
          :disabled="wanted.length + newLearners.length + newKept.length === 0"
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
h3 {
  margin: 0;
  font: 600 1.05rem var(--display);
}
.soft {
  color: var(--soft);
}
.all {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  margin-top: 6px;
}
ul {
  max-height: 30vh;
  margin: 6px 0 0;
  padding: 0;
  overflow: auto;
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  justify-content: space-between;
  padding: 4px 0;
}
select {
  padding: 4px 8px;
  border: 1px solid currentColor;
  border-radius: 4px;
  background: rgb(var(--v-theme-surface));
  color: inherit;
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

<script setup lang="ts">
/** Bringing a tune in: open, drop, paste or write; see what was understood, then keep it. Nothing is stored before. */
import { computed, ref, watch } from 'vue';
import { watchDebounced } from '@vueuse/core';
import { mdiFileMusicOutline, mdiPencilOutline } from '@mdi/js';
import { blankBars } from '@nokta/core/edit';
import type { Problem } from '@nokta/core/formats';
import { C_MAJOR, type Tune } from '@nokta/core/music';
import { tuneText } from '@nokta/core/words';
import { RefusedError, api, messageOf } from '../api/client.ts';
import { ACCEPTED, expectFile } from '../workers/files.ts';
import WorkingSign from '../theme/parts/WorkingSign.vue';
import MidiChoices from './MidiChoices.vue';
import { newTuneOf } from './imports.ts';
import { useIncoming } from './incoming.ts';
import { returnsFocus } from '../theme/focus.ts';

const shown = defineModel<boolean>({ required: true });
returnsFocus(shown);
const props = defineProps<{ files: readonly File[] }>();
const emit = defineEmits<{
  added: [id: string, write: boolean];
  backup: [files: readonly File[]];
  several: [sources: readonly (File | string)[]];
}>();

const { contents, choice, incoming, voices, notices, problems, pictures, alike, busy, open, read, clear } =
  useIncoming();
const text = ref('');
const source = ref('');
const file = ref<File | null>(null);
const title = ref('');
const refusal = ref('');
const keeping = ref(false);
/** Id of the tune here that this one becomes another name of; empty to keep it as its own. */
const nameOf = ref('');
const fileInput = ref<HTMLInputElement | null>(null);

watch(
  () => [shown.value, props.files] as const,
  ([visible, files]) => {
    // Whatever is still being read is given up.
    if (!visible) return clear();
    text.value = '';
    refusal.value = '';
    clear();
    file.value = null;
    expectFile();
    if (files[0]) void openFile(files[0]);
  },
  { immediate: true },
);
watchDebounced(
  text,
  (written) => {
    refusal.value = '';
    if (written.trim() === '') {
      if (!file.value) clear();
      return;
    }
    file.value = null;
    source.value = '';
    void open(written);
  },
  { debounce: 250 },
);
watch(incoming, (now) => {
  title.value = now?.tune.title ?? '';
  nameOf.value = '';
});

async function openFile(opened: File): Promise<void> {
  text.value = '';
  file.value = opened;
  source.value = opened.name;
  await open(opened);
}

function choose(event: Event): void {
  const input = event.target as HTMLInputElement;
  const files = [...(input.files ?? [])];
  input.value = '';
  if (files.length > 1) {
    shown.value = false;
    emit('several', files);
  } else if (files[0]) void openFile(files[0]);
}

function take(change: Partial<typeof choice.value>): void {
  choice.value = { ...choice.value, ...change };
  void read();
}

const facts = computed(() => (incoming.value ? tuneText(incoming.value.tune) : ''));
const isBackup = computed(() => contents.value?.kind === 'zip' && /backup/i.test(source.value));

async function keep(): Promise<void> {
  const now = incoming.value;
  if (!now) return;
  const tune: Tune = { ...now.tune, title: title.value.trim() || now.tune.title };
  await attempt(async () => {
    const added = await api.add(newTuneOf({ ...now, tune }, source.value));
    if (nameOf.value) await api.join(nameOf.value, added.id);
    done(nameOf.value || added.id, false);
  });
}

/** An empty page: one bar of rest, to be written on at the desk. */
async function write(): Promise<void> {
  const empty: Tune = {
    title: 'New tune',
    alsoKnownAs: [],
    composer: '',
    origin: '',
    style: '',
    notes: [],
    tempo: null,
    bars: [],
    slurs: [],
  };
  const tune = blankBars(empty, { metre: { beats: 4, unit: 4 }, key: C_MAJOR });
  await attempt(async () => done((await api.add({ tune })).id, true));
}

async function attempt(work: () => Promise<void>): Promise<void> {
  keeping.value = true;
  try {
    await work();
  } catch (error) {
    refusal.value = messageOf(error);
    if (error instanceof RefusedError && error.body.problems) problems.value = error.body.problems;
  } finally {
    keeping.value = false;
  }
}

function done(id: string, toWrite: boolean): void {
  shown.value = false;
  emit('added', id, toWrite);
}

function lookThrough(): void {
  const all = file.value ?? text.value;
  shown.value = false;
  emit('several', [all]);
}

function restore(): void {
  shown.value = false;
  if (file.value) emit('backup', [file.value]);
}

const placeOf = ({ line: at, column }: Problem) => (at === undefined ? '' : `Line ${at}, column ${column ?? 1}: `);
</script>

<template>
  <v-dialog v-model="shown" max-width="900" scrollable aria-labelledby="add-title">
    <v-card class="add">
      <div class="row">
        <h2 id="add-title">Bring a tune in</h2>
        <v-btn class="push" variant="outlined" :prepend-icon="mdiFileMusicOutline" @click="fileInput?.click()"
          >Open files</v-btn
        >
        <v-btn variant="outlined" :prepend-icon="mdiPencilOutline" :loading="keeping" @click="write"
          >Write a new tune<template #loader><WorkingSign says="Keeping…" /></template
        ></v-btn>
        <input
          ref="fileInput"
          type="file"
          multiple
          :accept="ACCEPTED"
          class="visually-hidden"
          tabindex="-1"
          aria-label="Tune files"
          @change="choose"
        />
      </div>
      <p class="hint">
        ABC, MusicXML (.musicxml, .mxl), MIDI, Nokta files, or a .zip of them. Nothing is kept until you say so.
      </p>
      <v-textarea
        v-if="!file"
        v-model="text"
        label="Paste ABC here"
        rows="6"
        no-resize
        spellcheck="false"
        class="abc"
        autofocus
      />
      <p v-else class="file">
        <strong>{{ source }}</strong> <v-btn size="small" @click="((file = null), clear())">Another one</v-btn>
      </p>
      <p v-if="busy" class="row" role="status">
        Reading… <v-btn size="small" variant="outlined" @click="((file = null), clear())">Stop</v-btn>
      </p>
      <v-select
        v-if="(contents?.tunes.length ?? 0) > 1"
        label="Tune in this file"
        :items="contents!.tunes.map(({ number, title: name }) => ({ value: number, title: `${number}. ${name}` }))"
        :model-value="choice.tune"
        @update:model-value="take({ tune: $event, voice: 1, midi: undefined })"
      />
      <section v-if="problems || refusal" class="refused" role="alert">
        <p>{{ refusal || 'This tune could not be read, so nothing was kept.' }}</p>
        <ul>
          <li v-for="(problem, index) in problems" :key="index">
            <strong>{{ placeOf(problem) }}</strong>{{ problem.message }} {{ problem.remedy }}
          </li>
        </ul>
      </section>
      <section v-else-if="incoming" class="understood" aria-label="What was understood">
        <h3>{{ incoming.tune.title }}</h3>
        <p>{{ facts }}</p>
        <MidiChoices
          v-if="incoming.midi"
          class="mt-2"
          :found="incoming.midi"
          :model-value="choice.midi ?? {}"
          @update:model-value="take({ midi: $event })"
        />
        <fieldset v-if="voices.length > 1" class="voices">
          <legend>Which voice?</legend>
          <label v-for="(name, index) in voices" :key="index" :class="{ on: choice.voice === index + 1 }">
            <input
              type="radio"
              name="voice"
              :value="index + 1"
              :checked="choice.voice === index + 1"
              @change="take({ voice: index + 1, midi: undefined })"
            />
            <span>{{ name }}</span>
            <svg
              v-if="pictures.get(index + 1)"
              class="line engraved"
              aria-hidden="true"
              :viewBox="pictures.get(index + 1)!.viewBox"
              :width="pictures.get(index + 1)!.width * 5"
              v-html="pictures.get(index + 1)!.markup"
            />
          </label>
        </fieldset>
        <svg
          v-else-if="pictures.get(1)"
          class="line engraved"
          role="img"
          aria-label="The first phrase"
          :viewBox="pictures.get(1)!.viewBox"
          :style="{ maxWidth: `${pictures.get(1)!.width * 8}px` }"
          v-html="pictures.get(1)!.markup"
        />
        <fieldset v-if="alike.length > 0" class="alike">
          <legend>You have this melody already</legend>
          <label>
            <input v-model="nameOf" type="radio" name="alike" value="" />
            <span>Keep it as a tune of its own</span>
          </label>
          <label v-for="other in alike" :key="other.id">
            <input v-model="nameOf" type="radio" name="alike" :value="other.id" />
            <span>Only add its name to “{{ other.title }}” ({{ other.key }}), as “known as”</span>
          </label>
        </fieldset>
        <details v-if="notices.length > 0">
          <summary>{{ notices.length }} {{ notices.length === 1 ? 'thing' : 'things' }} to know</summary>
          <ul>
            <li v-for="(problem, index) in notices" :key="index">
              <strong>{{ placeOf(problem) }}</strong>{{ problem.message }} {{ problem.remedy }}
            </li>
          </ul>
        </details>
      </section>
      <div class="row end">
        <v-text-field v-if="incoming && !nameOf" v-model="title" label="Title" class="title" />
        <v-btn @click="shown = false">Cancel</v-btn>
        <v-btn v-if="isBackup" variant="outlined" @click="restore">Restore this backup</v-btn>
        <v-btn v-if="(contents?.tunes.length ?? 0) > 1" variant="outlined" @click="lookThrough"
          >Look through all {{ contents!.tunes.length.toLocaleString('en') }}</v-btn
        >
        <v-btn variant="flat" color="primary" :disabled="!incoming || busy" :loading="keeping" @click="keep"
          >{{ nameOf ? 'Add the name' : 'Keep this tune' }}<template #loader><WorkingSign says="Keeping…" /></template
        ></v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.add {
  display: grid;
  gap: 10px;
  max-height: 92dvh;
  overflow: auto;
  padding: 18px 24px;
}
h2,
h3,
p {
  margin: 0;
}
.push {
  margin-left: auto;
}
.hint {
  color: var(--soft);
}
.abc :deep(textarea) {
  font-family: ui-monospace, 'DejaVu Sans Mono', monospace;
  font-size: 0.92rem;
}
.row {
  display: flex;
  align-items: center;
  gap: 10px;
}
.end {
  position: sticky;
  bottom: 0;
  z-index: 2;
  justify-content: flex-end;
  padding-top: 8px;
  background: var(--paper);
}
.title {
  max-width: 300px;
  margin-right: auto;
}
.refused {
  padding: 10px 14px;
  border-left: 4px solid rgb(var(--v-theme-error));
}
.understood {
  padding: 12px 14px;
  border: 1px solid var(--edge);
  border-radius: 10px;
}
.line {
  display: block;
  width: 100%;
  margin-top: 6px;
}
fieldset {
  margin-top: 10px;
  padding: 0;
  border: 0;
}
legend {
  font-weight: 700;
}
.voices label,
.alike label {
  display: grid;
  grid-template-columns: 20px 150px minmax(0, 1fr);
  align-items: center;
  gap: 8px;
  padding: 3px 10px;
  border: 1px solid transparent;
  border-radius: 8px;
  cursor: pointer;
}
.alike label {
  grid-template-columns: 20px 1fr;
}
.voices label.on {
  border-color: var(--accent);
}
input[type='radio'] {
  width: 17px;
  height: 17px;
  accent-color: var(--accent);
}
ul {
  margin: 6px 0 0;
  padding-left: 20px;
}
</style>

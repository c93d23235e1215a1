<script setup lang="ts">
/** Bringing a tune in: paste or open ABC, see what was understood, then keep it. Nothing is stored before. */
import { computed, ref, watch } from 'vue';
import { watchDebounced } from '@vueuse/core';
import { mdiFileMusicOutline } from '@mdi/js';
import type { Preview } from '@nokta/api';
import { FIRST_DECISIONS, bestOctave } from '@nokta/core/arrange';
import { phrasesOf } from '@nokta/core/form';
import type { Problem } from '@nokta/core/formats';
import { barNumbers, keyName } from '@nokta/core/music';
import type { EngravedLine } from '@nokta/engrave';
import { RefusedError, api, messageOf } from '../api/client.ts';
import { arranger, engraver } from '../workers/index.ts';

const shown = defineModel<boolean>({ required: true });
const props = defineProps<{ initialText: string }>();
const emit = defineEmits<{ added: [id: string] }>();

const text = ref('');
const tune = ref(1);
const voice = ref(1);
const preview = ref<Preview | null>(null);
const refusal = ref<{ message: string; problems: readonly Problem[] } | null>(null);
const line = ref<EngravedLine | null>(null);
const keeping = ref(false);
const fileInput = ref<HTMLInputElement | null>(null);
let turn = 0;

watch(
  () => [shown.value, props.initialText] as const,
  ([open, initial]) => {
    if (open) text.value = initial;
  },
  { immediate: true },
);
watch(text, () => {
  tune.value = 1;
  voice.value = 1;
});
watchDebounced([text, tune, voice], look, { debounce: 250, immediate: true });

async function look(): Promise<void> {
  const own = (turn += 1);
  if (text.value.trim() === '') {
    preview.value = null;
    refusal.value = null;
    return;
  }
  try {
    const found = await api.preview({ text: text.value, tune: tune.value, voice: voice.value });
    if (own !== turn) return;
    preview.value = found;
    refusal.value = null;
    await engraveFirst(found, own);
  } catch (error) {
    if (own !== turn) return;
    preview.value = null;
    refusal.value = {
      message: messageOf(error),
      problems: error instanceof RefusedError ? (error.body.problems ?? []) : [],
    };
  }
}

/** The first phrase, so that the ear's memory can say "yes, that one". */
async function engraveFirst(found: Preview, own: number): Promise<void> {
  const arrangement = await arranger.arrange(found.tune, {
    ...FIRST_DECISIONS,
    transpose: bestOctave(found.tune, FIRST_DECISIONS),
  });
  const [phrase] = phrasesOf(arrangement.form);
  if (!phrase) return;
  const engraved = await engraver.engrave({ tune: arrangement.tune, decisions: arrangement.decisions }, phrase);
  if (own === turn) line.value = engraved;
}

const facts = computed(() => {
  const first = preview.value?.tune.bars[0];
  if (!preview.value || !first) return '';
  const { tune: read } = preview.value;
  return [
    read.style,
    keyName(first.key),
    `${first.metre.beats}/${first.metre.unit}`,
    `${barNumbers(read.bars).at(-1)} bars`,
    read.composer,
  ]
    .filter(Boolean)
    .join(' · ');
});

async function readFile(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (file) text.value = await file.text();
}

async function keep(): Promise<void> {
  keeping.value = true;
  try {
    const added = await api.add({ text: text.value, tune: tune.value, voice: voice.value });
    shown.value = false;
    text.value = '';
    emit('added', added.id);
  } catch (error) {
    refusal.value = {
      message: messageOf(error),
      problems: error instanceof RefusedError ? (error.body.problems ?? []) : [],
    };
  } finally {
    keeping.value = false;
  }
}

const placeOf = ({ line: at, column }: Problem) => (at === undefined ? '' : `Line ${at}, column ${column ?? 1}: `);
</script>

<template>
  <v-dialog v-model="shown" max-width="880" aria-labelledby="add-title">
    <v-card class="add">
      <h2 id="add-title">Bring a tune in</h2>
      <p>Paste ABC here, or open a file. Nothing is kept until you say so.</p>
      <v-textarea v-model="text" label="ABC" rows="9" no-resize spellcheck="false" class="abc" autofocus />
      <div class="row">
        <input
          ref="fileInput"
          type="file"
          accept=".abc,text/plain"
          class="visually-hidden"
          tabindex="-1"
          aria-label="ABC file"
          @change="readFile"
        />
        <v-btn variant="outlined" :prepend-icon="mdiFileMusicOutline" @click="fileInput?.click()">Open a file</v-btn>
        <v-select
          v-if="(preview?.tunes.length ?? 0) > 1"
          v-model="tune"
          label="Tune in this file"
          :items="preview!.tunes.map(({ number, title }) => ({ value: number, title: `${number}. ${title}` }))"
        />
        <v-select
          v-if="(preview?.voices.length ?? 0) > 1"
          v-model="voice"
          label="Voice"
          :items="preview!.voices.map((title, index) => ({ value: index + 1, title }))"
        />
      </div>
      <section v-if="refusal" class="refused" role="alert">
        <p>{{ refusal.message }}</p>
        <ul>
          <li v-for="(problem, index) in refusal.problems" :key="index">
            <strong>{{ placeOf(problem) }}</strong>{{ problem.message }} {{ problem.remedy }}
          </li>
        </ul>
      </section>
      <section v-else-if="preview" class="understood" aria-label="What was understood">
        <h3>{{ preview.tune.title }}</h3>
        <p>{{ facts }}</p>
        <svg
          v-if="line"
          role="img"
          aria-label="The first phrase"
          :viewBox="line.viewBox"
          :style="{ maxWidth: `${line.width * 8}px` }"
          v-html="line.markup"
        />
        <details v-if="preview.notices.length > 0">
          <summary>
            {{ preview.notices.length }} {{ preview.notices.length === 1 ? 'thing' : 'things' }} to know
          </summary>
          <ul>
            <li v-for="(problem, index) in preview.notices" :key="index">
              <strong>{{ placeOf(problem) }}</strong>{{ problem.message }} {{ problem.remedy }}
            </li>
          </ul>
        </details>
      </section>
      <div class="row end">
        <v-btn @click="shown = false">Cancel</v-btn>
        <v-btn variant="flat" color="primary" :disabled="!preview" :loading="keeping" @click="keep"
          >Keep this tune</v-btn
        >
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.add {
  display: grid;
  gap: 12px;
  padding: 20px 24px;
}
h2,
h3,
p {
  margin: 0;
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
  justify-content: flex-end;
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
.understood svg {
  display: block;
  width: 100%;
  margin-top: 8px;
  color: var(--ink);
  fill: currentcolor;
  font-family: var(--text);
}
.understood :deep(path),
.understood :deep(polygon) {
  stroke: currentcolor;
}
ul {
  margin: 6px 0 0;
  padding-left: 20px;
}
</style>

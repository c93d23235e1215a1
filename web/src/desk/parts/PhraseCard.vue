<script setup lang="ts">
/** The selected phrase: what it is, what it shares, what it does, and how to part it otherwise. */
import { computed } from 'vue';
import { mdiPinOffOutline, mdiPinOutline } from '@mdi/js';
import { phrasesOf, relationInTune, type Phrase } from '@nokta/core/form';
import HintLine from '../shared/HintLine.vue';
import WrittenField from '../../theme/parts/WrittenField.vue';
import { useDesk } from '../rooms/store.ts';
import { usePartActions } from './actions.ts';
import { differenceText, figureText, lengthText, motionText, relationText } from '@nokta/core/words';
import { useLook } from '../../settings/look.ts';

const desk = useDesk();
const look = useLook();
const actions = usePartActions();

const phrase = computed(() => desk.selectedPhrase);
const form = computed(() => desk.arrangement!.form);
const part = computed(() => form.value.parts.find(({ phrases }) => phrases.some(({ id }) => id === phrase.value?.id)));
const beginsPart = computed(() => part.value?.phrases[0]!.id === phrase.value?.id);
const labelOf = (id: string | null) => phrasesOf(form.value).find((other) => other.id === id)?.label ?? '';
/** By the bars of the tune, as paper and talk say it. */
const toldOf = (own: Phrase) => relationInTune(desk.arrangement!.tune, own);
const isFirst = computed(() => phrase.value?.from === 0);
/** Later phrases that are like this one. */
const comesBack = computed(() => phrasesOf(form.value).filter(({ relation }) => relation.of === phrase.value?.id));
/** A phrase can begin at the selected note. */
const canSplit = computed(() => desk.selected !== null && desk.selected.id !== phrase.value?.notes[0]);

/** What it does from note to note, and what it is made of. */
const does = computed(() => [
  ...(phrase.value?.figures ?? []).map((figure) => ({ text: figureText(figure, look.names), notes: figure.notes })),
  ...(phrase.value?.motions ?? []).map((motion) => ({ text: motionText(motion, look.names), notes: motion.notes })),
]);

const place = computed(() => {
  const own = phrase.value;
  if (!own) return '';
  const bars = lengthText(own);
  const part = desk.arrangement?.form.parts.find(({ phrases }) => phrases[0] === own);
  const begun = part?.beginning ? `, only the beginning of ${part.label}` : '';
  if (own.start.bar === 0) return `${bars} and the pickup before`;
  return `${bars}, from bar ${own.start.bar} beat ${Math.round(10 * own.start.beat) / 10}${begun}`;
});
</script>

<template>
  <div v-if="phrase" class="card">
    <div class="head">
      <WrittenField
        id="phrase-name"
        label="Name of this phrase"
        :value="phrase.label"
        @written="actions.name(phrase, $event === phrase.label ? '' : $event)"
      />
      <v-btn
        :icon="phrase.held ? mdiPinOutline : mdiPinOffOutline"
        size="small"
        :variant="phrase.held ? 'tonal' : 'text'"
        :aria-pressed="phrase.held"
        :aria-label="phrase.held ? 'Kept as it is; free it' : 'Keep this phrase as it is'"
        :title="phrase.held ? 'Kept as it is (L frees it)' : 'Keep this phrase as it is (L)'"
        @click="actions.toggleHold(phrase)"
      />
    </div>
    <p class="place">
      {{ place }}; {{ phrase.closing === 'closed' ? 'comes home: an answer' : 'stays open: a question' }}
    </p>
    <p v-if="desk.refused" class="refused" role="alert">{{ desk.refused }}</p>
    <section v-if="phrase.relation.of">
      <h3>{{ relationText(toldOf(phrase), labelOf(phrase.relation.of)) }}</h3>
      <ul v-if="phrase.relation.differences.length > 0">
        <li v-for="one in phrase.relation.differences" :key="differenceText(one, look.names)">
          <HintLine :notes="[...one.own, ...one.other]">{{ differenceText(one, look.names) }}</HintLine>
        </li>
      </ul>
    </section>
    <section v-if="comesBack.length > 0">
      <h3>Comes back</h3>
      <HintLine v-for="other in comesBack" :key="other.id" :notes="other.notes">
        {{ other.label }}: {{ relationText(toldOf(other), phrase.label) }}
      </HintLine>
    </section>
    <section v-if="phrase.shares.length > 0">
      <h3>Bars you know</h3>
      <p>
        <span v-for="{ bar, ofBar, ofPhrase } in phrase.shares" :key="bar" class="row"
          >bar {{ bar }} is bar {{ ofBar }} ({{ labelOf(ofPhrase) }})</span
        >
      </p>
    </section>
    <section v-if="does.length > 0">
      <h3>What it does</h3>
      <ul>
        <li v-for="{ text, notes } in does" :key="`${text} ${notes[0]}`">
          <HintLine :notes="notes">{{ text }}</HintLine>
        </li>
      </ul>
    </section>
    <section class="tools" role="group" aria-label="Part it otherwise">
      <v-btn
        size="small"
        variant="outlined"
        :disabled="!canSplit"
        @click="desk.selected && actions.split(desk.selected.id)"
        >Begin at this note <kbd>B</kbd></v-btn
      >
      <v-btn size="small" variant="outlined" :disabled="isFirst" @click="actions.join(phrase)"
        >Join with the one before <kbd>J</kbd></v-btn
      >
      <v-btn size="small" variant="outlined" :disabled="isFirst" @click="actions.nudge(phrase, -1)"
        >Begin a note earlier <kbd>,</kbd></v-btn
      >
      <v-btn size="small" variant="outlined" :disabled="isFirst" @click="actions.nudge(phrase, 1)"
        >Begin a note later <kbd>.</kbd></v-btn
      >
    </section>
    <section class="part">
      <v-checkbox
        label="A part begins with this phrase"
        density="compact"
        hide-details
        :model-value="beginsPart"
        :disabled="isFirst"
        @update:model-value="actions.mark(phrase, Boolean($event))"
      />
      <WrittenField
        v-if="beginsPart"
        label="Name of this part"
        :value="part?.label ?? ''"
        @written="actions.mark(phrase, true, $event)"
      />
    </section>
  </div>
</template>

<style scoped>
.card {
  display: grid;
  gap: 8px;
}
.head {
  display: flex;
  align-items: center;
  gap: 6px;
}
.place {
  margin: 0;
  color: var(--soft);
}
h3 {
  margin: 0 0 2px;
  font-size: 1rem;
}
section p {
  margin: 0;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
.row {
  display: block;
}
.tools {
  display: grid;
  gap: 5px;
}
.tools :deep(.v-btn__content) {
  justify-content: space-between;
  width: 100%;
}
.refused {
  margin: 0;
  padding: 4px 9px;
  border-left: 3px solid rgb(var(--v-theme-error));
}
.part {
  display: grid;
  gap: 6px;
}
</style>

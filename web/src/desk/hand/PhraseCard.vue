<script setup lang="ts">
/** The fingers of a whole phrase: other ways, the same as elsewhere, and how they lie on each string. */
import { computed, ref, watch } from 'vue';
import { mdiPlay } from '@mdi/js';
import { patternsOf, twinLicks, twinPhrases, type Way } from '@nokta/core/hand';
import { stringNames } from '@nokta/core/instrument';
import { patternText } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';
import { useHandActions } from './actions.ts';
import WayList from './WayList.vue';

const desk = useDesk();
const actions = useHandActions();

const phrase = computed(() => desk.selectedPhrase);
const notes = computed(() => {
  const own = new Set(phrase.value?.notes ?? []);
  return desk.notes.filter(({ of }) => own.has(of));
});
const names = computed(() => stringNames(desk.arrangement!.instrument));
const patterns = computed(() => patternsOf(notes.value));
const twins = computed(() => {
  const { tune, form } = desk.arrangement!;
  return phrase.value ? twinPhrases(tune, form, phrase.value) : [];
});
const licks = computed(() => (desk.selected ? twinLicks(desk.arrangement!.form, desk.selected.id) : []));
const unusual = computed(() => notes.value.filter((note) => note.unusual));
const decided = computed(() => {
  const { key, hand } = desk.record!.decisions;
  return notes.value.filter(({ id }) => hand.locks[id]?.instrument === key.instrument);
});
/** The phrase whose fingers this one takes. */
const like = computed(() => {
  const first = desk.record?.decisions.hand.locks[phrase.value?.notes[0] ?? '']?.like;
  return first ? (desk.phraseOf(first)?.label ?? null) : null;
});
const likeItems = computed(() => [
  { value: null, title: 'its own' },
  ...twins.value.map(({ label }) => ({ value: label, title: `as ${label}` })),
]);
function setLike(label: string | null): void {
  const other = desk.phrases.find((one) => one.label === label) ?? null;
  if (phrase.value) void actions.like(phrase.value, other);
}
function copyLick({ here, twins: others }: (typeof licks.value)[number]): void {
  const from = here.flatMap((id) => desk.notes.find(({ ids }) => ids.includes(id)) ?? []);
  void actions.copy(from, others);
}

const ways = ref<readonly Way[] | null>(null);
watch(
  [() => phrase.value?.id, () => desk.arrangement],
  async () => {
    const id = phrase.value?.id;
    ways.value = null;
    const own = notes.value.flatMap(({ ids }) => [...ids]);
    const found = await desk.ask('waysWith', own);
    if (id === phrase.value?.id && found !== STALE) ways.value = found;
  },
  { immediate: true },
);
</script>

<template>
  <section v-if="phrase">
    <v-btn size="small" class="hear" :prepend-icon="mdiPlay" @click="desk.hear()">Hear it</v-btn>
    <h3>Phrase {{ phrase.label }}</h3>
    <h4>Other ways</h4>
    <p v-if="ways === null" class="soft">Looking…</p>
    <WayList v-else :ways="ways" :label="`other fingers in ${phrase.label}`" none="There is no other way here." />
    <template v-if="twins.length > 0">
      <h4>The same notes in {{ twins.map(({ label }) => label).join(', ') }}</h4>
      <p v-if="unusual.length > 0" class="soft">
        {{ unusual.length === 1 ? 'One note has' : `${unusual.length} notes have` }} other fingers here, because of what
        comes before or after.
      </p>
      <v-select label="Fingers" :items="likeItems" :model-value="like" @update:model-value="setLike" />
      <div class="buttons">
        <v-btn size="small" variant="outlined" @click="actions.copy(notes, twins)"
          >Copy these fingers to {{ twins.length === 1 ? twins[0]!.label : `all ${twins.length}` }}</v-btn
        >
      </div>
    </template>
    <template v-for="(lick, index) in licks" :key="index">
      <div class="buttons">
        <v-btn size="small" variant="outlined" @click="copyLick(lick)"
          >Copy this lick’s fingers to {{ lick.twins.map(({ label }) => label).join(', ') }}</v-btn
        >
      </div>
    </template>
    <h4>How the fingers lie</h4>
    <ul class="plain">
      <li v-for="pattern in patterns" :key="pattern.string">
        <strong>{{ names[pattern.string] }}</strong> {{ patternText(pattern)
        }}<template v-if="pattern.changes > 0"
          >, {{ pattern.changes === 1 ? 'one finger moves' : `fingers move ${pattern.changes} times` }}</template
        >
      </li>
    </ul>
    <div class="buttons">
      <v-btn size="small" variant="outlined" @click="actions.keep(notes, `the fingers of ${phrase.label}`)"
        >Keep the whole phrase</v-btn
      >
      <v-btn
        v-if="decided.length > 0"
        size="small"
        variant="outlined"
        @click="
          actions.free(
            decided.map(({ id }) => id),
            `the fingers of ${phrase.label}`,
          )
        "
        >Free the phrase</v-btn
      >
    </div>
  </section>
</template>

<style scoped src="./cards.css" />

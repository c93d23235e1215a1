<script setup lang="ts">
/** Another fingering beside this one: what it costs, where it differs, and taking it over phrase by phrase. */
import { computed } from 'vue';
import { reasonTexts } from '@nokta/core/words';
import { useDesk } from '../rooms/store.ts';
import { useHandActions } from './actions.ts';
import { OTHERS, useHand, type OtherId } from './store.ts';
import { extraText } from './words.ts';

const desk = useDesk();
const hand = useHand();
const actions = useHandActions();

const items = [{ value: null, title: 'nothing' }, ...OTHERS];
function choose(id: OtherId | null): void {
  if (id === null) hand.putAway();
  else void hand.lay(id);
}

const differing = computed(() => new Set(hand.beside?.comparison.differing ?? []));
const phrases = computed(() =>
  desk.phrases.flatMap((phrase) => {
    const notes = new Set(phrase.notes);
    const ids = desk.notes.filter(({ id, of }) => differing.value.has(id) && notes.has(of)).map(({ id }) => id);
    return ids.length > 0 ? [{ phrase, ids }] : [];
  }),
);
const cost = computed(() => {
  const { extra, differences } = hand.beside!.comparison;
  const reasons = reasonTexts(differences);
  if (differing.value.size === 0) return 'It is the same, finger for finger.';
  if (extra === null) return 'By this arrangement’s limits it could not be played.';
  return `By this arrangement’s wishes it ${extraText(extra)}${reasons.length > 0 ? `: ${reasons.join(', ')}` : ''}.`;
});
function take(ids: readonly string[], what: string): void {
  const own = new Set(ids);
  const changed = hand.beside!.fingering.notes.filter(({ id }) => own.has(id));
  void actions.take({ changed }, `fingers of the other for ${what}`);
}
</script>

<template>
  <section>
    <v-select
      label="Lay beside it"
      :items="items"
      :model-value="hand.beside?.id ?? null"
      :loading="hand.comparing"
      @update:model-value="choose"
    >
      <template #loader="{ isActive }">
        <v-progress-linear v-if="isActive" indeterminate height="2" aria-label="Comparing…" />
      </template>
    </v-select>
    <template v-if="hand.beside">
      <p>{{ cost }}</p>
      <p v-if="differing.size > 0" class="soft">The strips show both, the other below; notes that differ are marked.</p>
      <ul class="plain">
        <li v-for="{ phrase, ids } in phrases" :key="phrase.id" class="row">
          <button type="button" class="go" @click="desk.select(ids[0]!)">
            <strong>{{ phrase.label }}</strong> {{ ids.length === 1 ? 'one note' : `${ids.length} notes` }}
          </button>
          <v-btn size="small" variant="outlined" @click="take(ids, phrase.label)">Take these</v-btn>
        </li>
      </ul>
      <div v-if="phrases.length > 1" class="buttons">
        <v-btn size="small" variant="outlined" @click="take([...differing], 'the tune')">Take all of it</v-btn>
      </div>
    </template>
    <p v-else-if="!hand.comparing" class="soft">See another fingering under this one, strip by strip.</p>
  </section>
</template>

<style scoped src="./cards.css" />
<style scoped>
.row {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 3px 0;
}
.go {
  padding: 4px 6px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  cursor: pointer;
}
</style>

<script setup lang="ts">
/** A tune with words: as it is sung, or loosened for strings. */
import { computed } from 'vue';
import type { VersionDecisions } from '@nokta/core/grade';
import { useDesk } from '../rooms/store.ts';
import { useGradeActions } from './actions.ts';

const desk = useDesk();
const actions = useGradeActions();
const decided = computed(() => desk.record!.decisions.version);
const RHYTHM: readonly { value: VersionDecisions['rhythm']; title: string }[] = [
  { value: 'sung', title: 'As sung' },
  { value: 'played', title: 'Even, for strings' },
];
const REPEATED: readonly { value: VersionDecisions['repeated']; title: string }[] = [
  { value: 'as-sung', title: 'A note to each syllable' },
  { value: 'joined', title: 'Joined into one' },
  { value: 'varied', title: 'The second one varied' },
];
</script>

<template>
  <section aria-labelledby="sung-title">
    <h3 id="sung-title">As sung or as played</h3>
    <div class="fields">
      <v-select
        label="Dotted notes"
        :items="RHYTHM"
        :model-value="decided.rhythm"
        @update:model-value="actions.setSung({ rhythm: $event })"
      />
      <v-select
        label="Repeated notes"
        :items="REPEATED"
        :model-value="decided.repeated"
        @update:model-value="actions.setSung({ repeated: $event })"
      />
    </div>
  </section>
</template>

<style scoped>
h3 {
  margin: 0 0 6px;
  font: 600 1.05rem var(--display);
}
.fields {
  display: grid;
  gap: 10px;
}
</style>

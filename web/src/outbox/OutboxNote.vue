<script setup lang="ts">
/** Away from its desk: changes of a tune that wait for the server, or for the teacher. */
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { useOutbox } from './outbox.ts';

const outbox = useOutbox();
const route = useRoute();
const waiting = computed(() => {
  const elsewhere = [...outbox.queues.values()].filter(
    ({ tuneId, held }) =>
      (tuneId !== route.params['id'] || held?.why === 'refused') && (held !== null || outbox.problem !== null),
  );
  const [first] = elsewhere;
  if (!first) return null;
  const changes = elsewhere
    .filter(({ tuneId }) => tuneId === first.tuneId)
    .reduce((sum, { entries }) => sum + entries.length, 0);
  return { ...first, changes };
});
</script>

<template>
  <p v-if="waiting" class="note" role="status">
    {{ waiting.changes }} {{ waiting.changes === 1 ? 'change' : 'changes' }} to “{{ waiting.title }}”
    {{ waiting.held ? 'could not be saved' : 'will be saved when Nokta answers again' }}.
    <router-link :to="`/tune/${waiting.tuneId}`">Look at it</router-link>
    <!-- A tune that was deleted meanwhile has no desk to decide it at. -->
    <v-btn v-if="waiting.held?.why === 'refused'" size="small" variant="text" @click="outbox.dropTune(waiting.tuneId)"
      >Give it up</v-btn
    >
  </p>
</template>

<style scoped>
.note {
  position: fixed;
  z-index: 20;
  bottom: 12px;
  left: 50%;
  margin: 0;
  padding: 8px 16px;
  border: 1px solid rgb(var(--v-theme-error));
  border-radius: 4px;
  background: rgb(var(--v-theme-surface));
  transform: translateX(-50%);
}
</style>

<script setup lang="ts">
/** Two sides of what was changed: here, and meanwhile in another window. The teacher says which one counts. */
import { computed } from 'vue';
import { format } from 'date-fns';
import { useDesk } from './rooms/store.ts';

const desk = useDesk();
const held = computed(() => desk.conflict?.held ?? null);
const mine = computed(() => desk.conflict?.entries.map(({ label }) => label) ?? []);
const theirs = computed(() => {
  if (held.value?.why !== 'stale') return null;
  const { undo, undoAt } = held.value.theirs;
  return { label: undo ?? 'the state before', at: undoAt && format(new Date(undoAt), 'd MMM, HH:mm') };
});
const MOST = 6;
</script>

<template>
  <section v-if="desk.conflict && held" class="both" role="alert" aria-labelledby="both-title">
    <h3 id="both-title">
      {{ held.why === 'stale' ? 'Changed here, and in another window' : 'This could not be saved' }}
    </h3>
    <p v-if="held.why === 'refused'">{{ held.message }}</p>
    <div class="sides">
      <div>
        <h4>Here, not saved</h4>
        <ul>
          <li v-for="(label, index) in mine.slice(-MOST)" :key="index">{{ label }}</li>
        </ul>
        <p v-if="mine.length > MOST" class="more">and {{ mine.length - MOST }} before</p>
      </div>
      <div v-if="theirs">
        <h4>There, saved</h4>
        <ul>
          <li>{{ theirs.label }} <span v-if="theirs.at" class="more">{{ theirs.at }}</span></li>
        </ul>
      </div>
    </div>
    <div class="row">
      <v-btn variant="flat" color="primary" @click="desk.keepMine()">{{
        held.why === 'stale' ? 'Keep what is here' : 'Try again'
      }}</v-btn>
      <v-btn variant="outlined" @click="desk.takeTheirs()">{{
        held.why === 'stale' ? 'Take what is there' : 'Give it up'
      }}</v-btn>
      <p v-if="held.why === 'stale'" class="more">Kept, it goes on top: undo leads back to what is there.</p>
    </div>
  </section>
</template>

<style scoped>
.both {
  display: grid;
  gap: 8px;
  margin: 0 0 14px;
  padding: 12px 16px;
  border: 1px solid rgb(var(--v-theme-error));
  border-left-width: 4px;
  border-radius: 4px;
  background: rgb(var(--v-theme-surface));
}
h3,
h4,
p,
ul {
  margin: 0;
}
h3 {
  font: 600 1.05rem var(--display);
}
h4 {
  font-size: 0.85rem;
  font-weight: 700;
}
ul {
  padding-left: 1.1em;
}
.sides {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 40px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
.more {
  color: var(--soft);
}
</style>

<script setup lang="ts">
/** What is to be told above the strips: what could not be done, what takes long, which time round is shown. */
import { computed } from 'vue';
import { roundText } from '@nokta/core/words';
import PillChoice from '../theme/parts/PillChoice.vue';
import BothSides from './BothSides.vue';
import { useDesk } from './rooms/store.ts';

defineProps<{ id: string }>();
const desk = useDesk();
/** Times round that differ, to be looked at one by one. */
const rounds = computed(() =>
  (desk.arrangement?.rounds ?? []).map(({ time }) => ({ id: String(time), name: roundText(time) })),
);
</script>

<template>
  <p v-if="desk.problem" class="problem" role="alert">
    {{ desk.problem }}
    <template v-if="desk.saveState === 'waiting'">What you change waits here and is saved when it answers.</template>
    <v-btn size="small" variant="outlined" @click="desk.tune ? desk.retry() : desk.open(id)">Try again</v-btn>
  </p>
  <BothSides />
  <p v-if="desk.tune?.aside" class="problem" role="status">
    {{ desk.tune.aside === 1 ? 'One arrangement' : `${desk.tune.aside} arrangements` }} of this tune cannot be read by
    this Nokta. Nothing is lost: bring Nokta up to date to see it.
  </p>
  <p v-if="desk.trouble" class="problem" role="alert">
    {{ desk.trouble }}
    <v-btn size="small" variant="outlined" @click="desk.restart()">Try again</v-btn>
  </p>
  <p v-if="desk.making !== null" class="making" role="status">
    Making the version… {{ Math.round(100 * desk.making) }} %
    <progress :value="desk.making" max="1"></progress>
    <v-btn v-if="desk.canCallOff()" size="small" variant="outlined" @click="desk.callOff()">Call it off</v-btn>
  </p>
  <div v-if="rounds.length > 0" class="rounds">
    Shown:
    <PillChoice
      label="Time round"
      :choices="rounds"
      :chosen="String(desk.round)"
      @choose="desk.showRound(Number($event))"
    />
  </div>
</template>

<style scoped>
.making,
.rounds {
  display: flex;
  align-items: center;
  gap: 10px;
  margin: 0;
  padding: 4px 14px;
}
.problem {
  margin: 0;
  padding: 10px 14px;
  border-left: 4px solid rgb(var(--v-theme-error));
  background: var(--paper);
}
</style>

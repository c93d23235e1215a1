<script setup lang="ts">
/** Where the bow runs out or a stroke sticks out, one place at a time, and what brings it back. */
import { ref } from 'vue';
import { mdiChevronLeft, mdiChevronRight, mdiPlay } from '@mdi/js';
import type { BowRepair } from '@nokta/core/bow';
import { repairText, travelFlagText } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';
import { useBowActions } from './actions.ts';
import { useRepairs } from './repairs.ts';

/** As it is, and as it would be: heard before anything is taken. */
async function hear(repair: BowRepair): Promise<void> {
  const bowing = await desk.ask('bowUnder', repair.change);
  if (bowing !== STALE) desk.hear({ bowing });
}

const desk = useDesk();
const repairs = useRepairs();
const actions = useBowActions();
/** So many are enough to choose from; the rest on demand. */
const FEW = 2;
const all = ref(false);
const at = () => Math.min(repairs.looked, repairs.flags.length - 1);
const step = (by: number) => repairs.look((at() + by + repairs.flags.length) % repairs.flags.length);
</script>

<template>
  <section v-if="repairs.flag" class="bow-card warning" aria-labelledby="warning-title">
    <div class="head">
      <h3 id="warning-title">Off the bow</h3>
      <template v-if="repairs.flags.length > 1">
        <v-btn :icon="mdiChevronLeft" size="x-small" variant="text" aria-label="Warning before" @click="step(-1)" />
        <small>{{ at() + 1 }} of {{ repairs.flags.length }}</small>
        <v-btn :icon="mdiChevronRight" size="x-small" variant="text" aria-label="Next warning" @click="step(1)" />
      </template>
    </div>
    <p>
      <button type="button" class="there" @click="repairs.look(at())">{{ travelFlagText(repairs.flag) }}</button>
      <v-btn
        :prepend-icon="mdiPlay"
        size="x-small"
        variant="text"
        aria-label="Hear it as it is"
        title="Hear it before anything is changed"
        @click="desk.hear()"
        >As it is</v-btn
      >
    </p>
    <p v-if="repairs.found === null" class="soft" role="status">Trying what helps…</p>
    <p v-else-if="repairs.found.length === 0" class="soft">Nothing that Nokta knows helps here by itself.</p>
    <div v-else class="helps">
      <div
        v-for="(repair, index) in all ? repairs.found : repairs.found.slice(0, FEW)"
        :key="repairText(repair)"
        class="way"
      >
        <v-btn
          size="small"
          :variant="index === 0 ? 'flat' : 'outlined'"
          :color="index === 0 ? 'primary' : undefined"
          class="help"
          @click="actions.takeRepair(repair)"
          >{{ repairText(repair, desk.record?.decisions.bow.own) }} <kbd v-if="index === 0">R</kbd></v-btn
        >
        <v-btn
          :icon="mdiPlay"
          size="x-small"
          variant="text"
          :aria-label="`Hear: ${repairText(repair, desk.record?.decisions.bow.own)}`"
          title="Hear it so, before it is taken"
          @click="hear(repair)"
        />
      </div>
      <v-btn v-if="repairs.found.length > FEW" size="small" variant="text" @click="all = !all">{{
        all ? 'Fewer ways' : 'Other ways'
      }}</v-btn>
    </div>
  </section>
</template>

<style scoped>
.warning {
  padding-left: 12px;
  border-left: 4px solid var(--accent);
}
.head {
  display: flex;
  gap: 4px;
  align-items: center;
}
.head h3 {
  flex: 1;
  margin: 0;
}
.there {
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  text-decoration: underline;
  cursor: pointer;
}
.soft {
  color: var(--soft);
}
.helps {
  display: grid;
  gap: 6px;
}
.way {
  display: flex;
  gap: 4px;
  align-items: center;
}
.help {
  flex: 1;
  height: auto !important;
  min-height: 30px;
  padding-block: 5px;
  white-space: normal;
}
.help :deep(.v-btn__content) {
  white-space: normal;
  text-align: left;
}
</style>

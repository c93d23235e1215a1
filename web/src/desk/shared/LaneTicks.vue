<script setup lang="ts">
/** Which lanes there are: on the strips and on paper alike. */
import { computed } from 'vue';
import { LANE_IDS } from '@nokta/core/paper';
import { LANES } from '@nokta/core/sheet';
import { useLook } from '../../settings/look.ts';
import TickList from '../../theme/parts/TickList.vue';

const look = useLook();
const lanes = computed(() =>
  LANE_IDS.map((id) => {
    // What the staff shows itself needs no lane beside it.
    const soft = look.style.staff && ['words', 'chords', 'rhythm'].includes(id);
    const name = soft ? `${LANES[id].name} (the staff has it)` : LANES[id].name;
    return { id, name, soft, on: look.style.lanes.includes(id) };
  }),
);
</script>

<template>
  <TickList label="Lanes, on strips and paper" :items="lanes" @toggle="look.toggleLane" />
</template>

<script setup lang="ts">
/** Which lanes there are: on the strips and on paper alike. */
import { LANE_IDS } from '@nokta/core/paper';
import { LANES } from '@nokta/core/sheet';
import { useLook } from '../../settings/look.ts';

const look = useLook();
/** What the staff shows itself needs no lane beside it. */
const inStaff = (id: string) => look.style.staff && ['words', 'chords', 'rhythm'].includes(id);
</script>

<template>
  <fieldset>
    <legend>Lanes, on strips and paper</legend>
    <label v-for="id in LANE_IDS" :key="id" :class="{ soft: inStaff(id) }"
      ><input type="checkbox" :checked="look.style.lanes.includes(id)" @change="look.toggleLane(id)" />
      {{ LANES[id].name }}<template v-if="inStaff(id)"> (the staff has it)</template></label
    >
  </fieldset>
</template>

<style scoped>
fieldset {
  display: grid;
  gap: 4px;
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0 0 4px;
  font: 600 1.05rem var(--display);
}
label {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 26px;
}
input {
  width: 17px;
  height: 17px;
  accent-color: var(--accent);
}
.soft {
  color: var(--soft);
}
</style>

<script setup lang="ts">
/** Always there: play, loop the phrase, tempo. */
import { mdiPlay, mdiRepeat, mdiStop } from '@mdi/js';

defineProps<{
  playing: boolean;
  loading: boolean;
  looping: boolean;
  percent: number;
  tempo: string;
  phraseLabel: string;
}>();
const emit = defineEmits<{ toggle: []; loop: []; 'update:percent': [percent: number] }>();
</script>

<template>
  <footer class="transport" role="region" aria-label="Player">
    <v-btn
      class="play"
      :prepend-icon="playing ? mdiStop : mdiPlay"
      variant="flat"
      color="primary"
      :loading="loading"
      @click="emit('toggle')"
    >
      {{ playing ? 'Stop' : 'Play' }}
    </v-btn>
    <v-btn :prepend-icon="mdiRepeat" :variant="looping ? 'tonal' : 'text'" :aria-pressed="looping" @click="emit('loop')"
      >Loop {{ phraseLabel }}</v-btn
    >
    <div class="tempo">
      <v-slider
        :model-value="percent"
        :min="25"
        :max="150"
        :step="5"
        color="primary"
        density="compact"
        hide-details
        aria-label="Tempo in percent"
        @update:model-value="emit('update:percent', Number($event))"
      />
      <output>{{ percent }} % · {{ tempo }}</output>
    </div>
  </footer>
</template>

<style scoped>
.transport {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 7px 16px;
  background: var(--paper);
  border-top: 1px solid var(--edge);
}
.play {
  min-width: 104px;
}
.tempo {
  display: flex;
  flex: 0 1 420px;
  align-items: center;
  gap: 14px;
  margin-left: auto;
}
output {
  min-width: 152px;
  font-variant-numeric: tabular-nums;
}
</style>

<script setup lang="ts">
/** Always there: play, what is played, loop, what sounds along, tempo. */
import { computed } from 'vue';
import { useMediaQuery } from '@vueuse/core';
import { mdiPlay, mdiRepeat, mdiStop, mdiTuneVariant } from '@mdi/js';
import WorkingSign from '../../theme/parts/WorkingSign.vue';
import SoundMenu from './SoundMenu.vue';
import TempoSlider from './TempoSlider.vue';
import { useDesk } from '../rooms/store.ts';
import type { Scope } from '@nokta/core/practice';
import type { SoundSettings } from '../../sound/settings.ts';

const props = defineProps<{
  playing: boolean;
  loading: boolean;
  looping: boolean;
  /** The beat that is counted now. */
  count: string | null;
  tempo: string;
  partLabel: string;
  phraseLabel: string;
}>();
const emit = defineEmits<{ toggle: []; loop: [] }>();
const percent = defineModel<number>('percent', { required: true });
const scope = defineModel<Scope>('scope', { required: true });
const settings = defineModel<SoundSettings>('settings', { required: true });
const desk = useDesk();
/** One row, whatever the width: the tempo goes into the menu of what sounds. */
const isSmall = useMediaQuery('(width < 700px) or (height < 520px)');

const scopes = computed(() => [
  { id: 'tune' as const, label: 'Tune', says: 'Play the tune from the selected note' },
  { id: 'part' as const, label: props.partLabel, says: `Play part ${props.partLabel}` },
  { id: 'phrase' as const, label: props.phraseLabel, says: `Play phrase ${props.phraseLabel} only` },
  ...(desk.range.length > 1
    ? [{ id: 'selection' as const, label: `${desk.range.length} notes`, says: 'Play the chosen notes' }]
    : []),
]);
/** What sounds along, told on the button, so that the menu need not be opened to know. */
const along = computed(() => {
  const { countIn, metronome, drone, repeats } = settings.value;
  return [
    countIn !== 'none' && 'count-in',
    metronome && 'beat',
    drone !== 'none' && 'drone',
    repeats === 'once' && 'once',
  ].filter(Boolean);
});
const alongText = computed(() => (along.value.length > 0 ? `With ${along.value.join(', ')}` : 'Sound'));
</script>

<template>
  <section class="transport" aria-label="Player">
    <v-btn
      class="play"
      :prepend-icon="playing ? mdiStop : mdiPlay"
      variant="flat"
      color="primary"
      :loading="loading"
      @click="emit('toggle')"
    >
      {{ playing ? 'Stop' : 'Play' }}
      <template #loader><WorkingSign says="Fetching the instruments…" /></template>
    </v-btn>
    <span class="count" :class="{ first: count === '1' }" aria-hidden="true">{{ count ?? '' }}</span>
    <div class="scopes" role="radiogroup" aria-label="What is played">
      <button
        v-for="{ id, label, says } in scopes"
        :key="id"
        type="button"
        role="radio"
        :aria-checked="scope === id"
        :aria-label="says"
        :title="says"
        @click="scope = id"
      >
        {{ label }}
      </button>
    </div>
    <v-btn
      class="short"
      :prepend-icon="mdiRepeat"
      :variant="looping ? 'tonal' : 'text'"
      :aria-pressed="looping"
      aria-label="Loop"
      @click="emit('loop')"
      ><span>Loop</span></v-btn
    >
    <v-btn
      id="sound-button"
      class="short"
      :prepend-icon="mdiTuneVariant"
      :variant="along.length > 0 ? 'tonal' : 'text'"
      :aria-label="alongText"
      ><span>{{ alongText }}</span>
      <SoundMenu v-model="settings" activator="parent">
        <label v-if="isSmall" class="slow">
          Tempo: {{ percent }} % · {{ tempo }}
          <TempoSlider v-model="percent" />
        </label>
      </SoundMenu>
    </v-btn>
    <div v-if="!isSmall" class="tempo">
      <TempoSlider v-model="percent" />
      <output>{{ percent }} % · {{ tempo }}</output>
    </div>
  </section>
</template>

<style scoped>
.transport {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  padding: 7px 16px;
  background: var(--paper);
  border-top: 1px solid var(--edge);
}
.play {
  min-width: 104px;
}
.count {
  display: grid;
  flex: none;
  place-items: center;
  width: 30px;
  height: 30px;
  border: 1.5px solid transparent;
  border-radius: 50%;
  font: 600 1.1rem var(--display);
  font-variant-numeric: tabular-nums;
}
.count:not(:empty) {
  border-color: var(--edge);
}
.count.first {
  border-color: var(--accent);
}
.scopes {
  display: flex;
  border: 1px solid var(--edge);
  border-radius: 9px;
}
.scopes button {
  min-width: 44px;
  max-width: 160px;
  overflow: hidden;
  padding: 5px 11px;
  border: 0;
  background: none;
  color: var(--soft);
  font: inherit;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: pointer;
}
.scopes [aria-checked='true'] {
  border-radius: 8px;
  box-shadow: inset 0 0 0 2px var(--accent);
  color: var(--ink);
  font-weight: 700;
}
.tempo {
  display: flex;
  flex: 1 1 260px;
  align-items: center;
  gap: 14px;
  max-width: 420px;
  margin-left: auto;
}
.slow {
  display: grid;
  gap: 4px;
}
@media (width < 700px) {
  .transport {
    flex-wrap: nowrap;
    gap: 4px;
    padding: 4px 8px;
  }
  .play {
    min-width: 84px;
  }
  .count:empty {
    display: none;
  }
  .short {
    min-width: 44px;
    padding-inline: 6px;
  }
  .short span {
    display: none;
  }
  .scopes {
    flex: 0 1 auto;
    min-width: 0;
  }
  .scopes button {
    min-width: 36px;
    min-height: 44px;
    padding-inline: 7px;
  }
}
output {
  min-width: 152px;
  font-variant-numeric: tabular-nums;
}
</style>

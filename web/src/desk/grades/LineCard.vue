<script setup lang="ts">
/** A line that goes with the tune: whether it keeps its promise, how it sounds with the tune, why the chosen note, and others for it. */
import { computed } from 'vue';
import { mdiPlay } from '@mdi/js';
import type { Pitch } from '@nokta/core/music';
import { LINE_WORDS, lineNoteText, pitchText } from '@nokta/core/words';
import { useLook } from '../../settings/look.ts';
import { useDesk } from '../rooms/store.ts';
import { useGradeActions } from './actions.ts';

const desk = useDesk();
const look = useLook();
const actions = useGradeActions();
const line = computed(() => desk.arrangement?.line ?? null);
const note = computed(() => line.value?.notes.find(({ id }) => id === desk.selected?.of) ?? null);
const chosen = computed(
  () => note.value !== null && desk.record?.decisions.version.chosen[note.value.id] !== undefined,
);
const nameOf = (pitches: readonly Pitch[]) => pitches.map((pitch) => pitchText(pitch, look.names.notes)).join(' and ');
const broken = computed(() => desk.arrangement?.breaches.length ?? 0);
</script>

<template>
  <section v-if="line" aria-labelledby="line-title">
    <h3 id="line-title">{{ LINE_WORDS[line.role].name }}, grade {{ desk.record?.decisions.version.grade }}</h3>
    <p>
      {{ LINE_WORDS[line.role].about }}
      {{
        broken === 0
          ? 'It keeps its promise.'
          : `It breaks its promise in ${broken === 1 ? 'one place' : `${broken} places`}.`
      }}
    </p>
    <div class="row">
      <v-btn size="small" variant="outlined" :prepend-icon="mdiPlay" @click="actions.hearWithTune()"
        >{{ desk.selectedPhrase?.label }} with the tune</v-btn
      >
      <v-btn size="small" variant="outlined" :prepend-icon="mdiPlay" @click="desk.hear()">The line alone</v-btn>
    </div>
    <p v-if="line.missed.length > 0">
      {{ line.missed.length === 1 ? 'One note of yours' : `${line.missed.length} notes of yours` }} cannot be played
      here now; the choice is kept.
    </p>
    <template v-if="note">
      <p>{{ lineNoteText(note, look.names) }}</p>
      <div class="row" role="group" aria-label="Another note here">
        <v-btn
          v-for="other in note.other"
          :key="other.name"
          size="small"
          variant="outlined"
          :aria-label="`${nameOf(other.pitches)} instead`"
          @click="actions.choose(note.id, other.name)"
          >{{ nameOf(other.pitches) }}</v-btn
        >
        <v-btn v-if="chosen" size="small" variant="text" @click="actions.chooseAgain(note.id)">As it was</v-btn>
      </div>
    </template>
    <p v-else class="soft">Choose a note, and it says what it is to the chord.</p>
  </section>
</template>

<style scoped>
h3 {
  margin: 0 0 6px;
  font: 600 1.05rem var(--display);
}
p {
  margin: 0 0 8px;
}
.soft {
  color: var(--soft);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 8px;
}
</style>

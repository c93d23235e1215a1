<script setup lang="ts">
/** Why this finger: what it saves, what every other way costs, and how to overrule it. */
import { computed } from 'vue';
import { mdiLock, mdiLockOpenVariantOutline } from '@mdi/js';
import { printedName } from '@nokta/core/music';
import { symbol, type Alternative } from '@nokta/core/hand';
import { useDesk } from '../store.ts';

const desk = useDesk();
const note = computed(() => desk.selected);
const decisions = computed(() => desk.record?.decisions);
const instrument = computed(() => decisions.value?.instrument ?? 'violin');
const problem = computed(() => desk.arrangement?.fingering.problems.find(({ noteId }) => noteId === note.value?.id));
const name = computed(
  () => note.value?.pitches.map((pitch) => `${printedName(pitch)}${pitch.octave}`).join(' + ') ?? '',
);
const totals = computed(() => desk.arrangement?.fingering.totals);
const keptHere = computed(
  () => Object.values(decisions.value?.locks ?? {}).filter((lock) => lock.instrument === instrument.value).length,
);

const signs = (alternative: Pick<Alternative, 'stops'>) =>
  alternative.stops.map((stop) => symbol(stop, instrument.value)).join(' ');

function extraText(extra: number): string {
  if (Math.abs(extra) < 0.005) return 'costs the same';
  return extra > 0 ? `costs ${extra.toFixed(2)} more` : `would save ${Math.abs(extra).toFixed(2)}`;
}

function take(alternative: Alternative): void {
  if (note.value) void desk.lock(note.value, alternative.stops, `finger ${alternative.text}`);
}

function toggleLock(): void {
  if (!note.value) return;
  if (note.value.locked) void desk.unlock(note.value.id);
  else void desk.lock(note.value, note.value.stops, `keep ${note.value.text}`);
}
</script>

<template>
  <div>
    <section v-if="note" class="note" aria-live="polite">
      <h3>{{ name }}</h3>
      <p v-if="problem" class="warn">{{ problem.message }}</p>
      <template v-if="note.stops.length > 0">
        <p class="chosen">
          <span class="sign">{{ signs(note) }}</span>
          <span
            >{{ note.text }}<template v-if="note.position">, position {{ note.position }}</template></span
          >
        </p>
        <ul v-if="note.why.length > 0" class="why">
          <li v-for="reason in note.why" :key="reason">{{ reason }}</li>
        </ul>
        <v-btn
          :prepend-icon="note.locked ? mdiLock : mdiLockOpenVariantOutline"
          :variant="note.locked ? 'tonal' : 'outlined'"
          size="small"
          :aria-pressed="note.locked"
          @click="toggleLock"
        >
          {{ note.locked ? 'Kept. Free it' : 'Keep this finger' }}
        </v-btn>
      </template>
      <template v-if="note.alternatives.length > 0">
        <h4>Other ways</h4>
        <ul class="others">
          <li v-for="alternative in note.alternatives" :key="alternative.text">
            <button type="button" @click="take(alternative)">
              <span class="sign">{{ signs(alternative) }}</span>
              <span>
                {{ alternative.text }}
                <small
                  >{{ extraText(alternative.extra)
                  }}<template v-if="alternative.reasons.length > 0"
                    >: {{ alternative.reasons.join(', ') }}</template
                  ></small
                >
              </span>
            </button>
          </li>
        </ul>
      </template>
    </section>
    <p v-else>Choose a note on a strip.</p>
    <section v-if="totals" class="totals">
      <h4>Whole tune</h4>
      <p>
        {{ totals.crossings }} string crossings, {{ totals.shifts }} shifts, {{ totals.extensions }} extensions,
        {{ totals.blocks }} blocks; {{ keptHere }} fingers kept.
      </p>
    </section>
    <section v-if="decisions" class="limits">
      <v-switch
        v-if="instrument === 'violin' || instrument === 'viola'"
        label="No fourth finger"
        :model-value="decisions.limits.noFourth ?? false"
        @update:model-value="
          desk.decide({ limits: { ...decisions!.limits, noFourth: Boolean($event) } }, 'fourth finger on or off')
        "
      />
      <v-select
        v-if="instrument === 'bass'"
        label="Fingers"
        :items="[
          { value: 'three', title: '1 2 4' },
          { value: 'four', title: '1 2 3 4' },
        ]"
        :model-value="decisions.limits.bassSchool ?? 'three'"
        @update:model-value="
          desk.decide({ limits: { ...decisions!.limits, bassSchool: $event } }, 'change the fingers used')
        "
      />
    </section>
  </div>
</template>

<style scoped>
h3 {
  margin: 0;
  font-size: 1.5rem;
}
h4 {
  margin: 16px 0 4px;
  color: var(--soft);
  font-size: 0.95rem;
}
.chosen {
  display: flex;
  align-items: center;
  gap: 12px;
  margin: 4px 0;
  font-size: 1.05rem;
}
.sign {
  display: inline-grid;
  flex: none;
  place-items: center;
  min-width: 34px;
  height: 34px;
  padding: 0 5px;
  border: 1.5px solid var(--soft);
  border-radius: 50%;
  font-weight: 700;
  font-size: 1.1rem;
}
.chosen .sign {
  border-color: var(--accent);
  background: var(--accent);
  color: rgb(var(--v-theme-on-primary));
}
.why {
  margin: 6px 0 10px;
  padding-left: 20px;
}
.others {
  margin: 0;
  padding: 0;
  list-style: none;
}
.others button {
  display: flex;
  align-items: center;
  gap: 12px;
  width: 100%;
  padding: 6px;
  border: 0;
  border-radius: 8px;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.others button:hover {
  background: rgb(var(--v-theme-surface-variant));
}
small {
  display: block;
  color: var(--soft);
}
.warn {
  padding: 8px 10px;
  border-left: 4px solid rgb(var(--v-theme-warning));
}
p {
  margin: 4px 0;
}
</style>

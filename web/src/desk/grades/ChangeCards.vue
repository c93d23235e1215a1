<script setup lang="ts">
/** What a version changes, bar by bar: what, why, and the tune's own or another way in its place; and what it does not meet. */
import { computed, ref, shallowRef } from 'vue';
import { mdiPlay } from '@mdi/js';
import type { GradeChange } from '@nokta/core/grade';
import { placesOf } from '@nokta/core/arrange';
import { type VersionWay } from '@nokta/core/version';
import type { BarBeat } from '@nokta/core/form';
import { barNumbers } from '@nokta/core/music';
import { wayScore } from '@nokta/core/practice';
import { breachText, gradeChangeText, undoneText, versionWayText, whyText } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';
import { useGradeActions } from './actions.ts';
import { useLook } from '../../settings/look.ts';
import { usePlaces } from '../shared/places.ts';

const desk = useDesk();
const look = useLook();
const actions = useGradeActions();
const kept = computed(() => desk.record!.decisions.version.kept);
const changes = computed(() => desk.arrangement?.graded?.changes ?? []);
const undone = computed(() => desk.arrangement?.graded?.undone ?? []);
const breaches = computed(() => desk.arrangement?.breaches ?? []);
/** Changes of one bar together, so that the list reads bar by bar. */
const isWhole = ({ kind }: GradeChange) => kind === 'transposed' || kind === 'slur';
const whole = computed(() => changes.value.filter(isWhole));
const byBar = computed(() => {
  const bars = new Map<number, GradeChange[]>();
  for (const change of changes.value.filter((one) => !isWhole(one)))
    bars.set(change.bar, [...(bars.get(change.bar) ?? []), change]);
  return [...bars].sort(([a], [b]) => a - b);
});
/** So many bars are read at once. */
const FEW = 6;
const all = ref(false);
const shown = computed(() => (all.value ? byBar.value : byBar.value.slice(0, FEW)));
const windowOf = ({ id }: GradeChange) => id.split(' ')[0]!;
const places = computed(() => (desk.arrangement ? placesOf(desk.arrangement.tune) : new Map<string, BarBeat>()));
const placeOf = usePlaces();
const barText = (bar: number) => (bar > 0 ? `Bar ${bar}` : 'Pickup');

/** What is kept and still has its place. */
const keptHere = computed(() => kept.value.filter((id) => !undone.value.some((wish) => wish.id === id)));
/** A window is told by its bar. */
function windowText(id: string): string {
  if (id === 'key' || id === 'octave') return id === 'key' ? 'The key' : 'The pitch';
  const bars = desk.arrangement?.tune.bars ?? [];
  const at = bars.findIndex((bar) => id.startsWith(`${bar.id}@`));
  return barText(barNumbers(bars)[at] ?? 1);
}

const ways = shallowRef<{ readonly window: string; readonly ways: readonly VersionWay[] } | null>(null);
async function showWays(change: GradeChange): Promise<void> {
  const window = windowOf(change);
  if (ways.value?.window === window) {
    ways.value = null;
    return;
  }
  const found = await desk.ask('versionWays', window);
  if (found !== STALE) ways.value = { window, ways: found.slice(0, 5) };
}
const wayText = (way: VersionWay) => versionWayText(way, look.names);
/** A way by itself, at the tune's tempo. */
function hearWay({ pieces }: VersionWay): void {
  const tempo = desk.arrangement?.tempo ?? 96;
  desk.hearDrill({ score: wayScore(pieces), tempo });
}
</script>

<template>
  <section aria-labelledby="changes-title">
    <template v-if="breaches.length > 0">
      <h3>Not met</h3>
      <ul class="breaches">
        <li v-for="{ rule, note } in breaches" :key="`${rule} ${note}`">
          <button type="button" @click="desk.select(note)">
            {{ placeOf(places.get(note)?.bar ?? 1, note) }}: {{ breachText(rule) }}
          </button>
        </li>
      </ul>
    </template>
    <template v-if="undone.length > 0">
      <h3>Undone by an edit</h3>
      <ul>
        <li v-for="wish in undone" :key="`${wish.kind} ${wish.id}`">{{ undoneText(wish) }}</li>
        <li><button type="button" @click="actions.forget(undone)">Let these wishes go</button></li>
      </ul>
    </template>
    <h3 id="changes-title">What was changed</h3>
    <p v-if="changes.length === 0 && kept.length === 0">Nothing: the tune fits as it is.</p>
    <ul v-if="whole.length > 0" class="whole">
      <li v-for="change in whole" :key="change.id">
        {{ gradeChangeText(change, look.names) }}
        <button v-if="change.kind === 'transposed'" type="button" @click="actions.toggleChange(change.id)">
          {{ change.id === 'key' ? 'Keep the key' : 'Keep the pitch' }}
        </button>
      </li>
    </ul>
    <ol aria-label="Changes">
      <li v-for="[bar, own] in shown" :key="bar">
        <button type="button" class="place" @click="own[0]!.notes[0] && desk.select(own[0]!.notes[0])">
          {{ barText(bar) }}
        </button>
        <div
          v-for="change in own"
          :key="`${change.id} ${change.kind}`"
          class="change"
          @pointerenter="desk.hinted = new Set(change.notes)"
          @pointerleave="desk.hinted = new Set()"
        >
          <p>
            {{ gradeChangeText(change, look.names) }}
            <small v-if="change.direction === 'easier'">{{ whyText(change) }}</small>
          </p>
          <span class="does">
            <button
              type="button"
              :aria-label="`Bar ${bar}, beat ${change.beat}: ${change.direction === 'richer' ? 'leave it out' : 'as in the tune'}`"
              @click="actions.toggleChange(windowOf(change))"
            >
              {{ change.direction === 'richer' ? 'Leave it out' : 'As in the tune' }}
            </button>
            <button
              v-if="change.direction === 'easier' && change.kind !== 'folded'"
              type="button"
              :aria-label="`Bar ${bar}, beat ${change.beat}: another way`"
              :aria-expanded="ways?.window === windowOf(change)"
              @click="showWays(change)"
            >
              Another way
            </button>
          </span>
          <span v-if="ways && ways.window === windowOf(change)" class="ways">
            <span v-for="way in ways.ways" :key="way.key" class="way">
              <button type="button" @click="actions.choose(ways.window, way.key)">{{ wayText(way) }}</button>
              <v-btn
                :icon="mdiPlay"
                size="x-small"
                variant="text"
                :aria-label="`Hear: ${wayText(way)}`"
                @click="hearWay(way)"
              />
            </span>
            <span v-if="ways.ways.length === 0">There is no other.</span>
          </span>
        </div>
      </li>
    </ol>
    <v-btn v-if="byBar.length > FEW" size="small" variant="text" @click="all = !all">{{
      all ? 'Fewer' : `All ${byBar.length} bars`
    }}</v-btn>
    <template v-if="keptHere.length > 0">
      <h3>Kept as in the tune</h3>
      <v-btn v-for="id in keptHere" :key="id" size="small" variant="text" @click="actions.toggleChange(id)"
        >{{ windowText(id) }}: change it again</v-btn
      >
    </template>
  </section>
</template>

<style scoped>
h3 {
  margin: 14px 0 6px;
  font: 600 1.05rem var(--display);
}
h3:first-child {
  margin-top: 0;
}
ol,
ul {
  display: grid;
  gap: 10px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.whole {
  margin-bottom: 10px;
}
.change {
  padding: 2px 0 4px 10px;
  border-left: 3px solid var(--edge);
}
.change p {
  margin: 0;
}
small {
  display: block;
  color: var(--soft);
}
.does,
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
}
button {
  padding: 2px 0;
  border: 0;
  background: none;
  color: var(--accent);
  font: inherit;
  font-size: 0.93rem;
  text-align: left;
  text-decoration: underline;
  cursor: pointer;
}
.ways button {
  padding: 2px 8px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  color: var(--ink);
  text-decoration: none;
}
.place {
  font-weight: 700;
}
.breaches button {
  color: inherit;
}
</style>

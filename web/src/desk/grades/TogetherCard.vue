<script setup lang="ts">
/** The versions of a phrase under each other, beat under beat: what each changes, heard one by one or together, and where two clash. */
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { mdiPlay } from '@mdi/js';
import type { SideNote, Together } from '@nokta/core/compare';
import { barStarts, beatLength } from '@nokta/core/music';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';
import { returnsFocus } from '../../theme/focus.ts';

const desk = useDesk();
const shown = ref(false);
returnsFocus(shown);
const together = shallowRef<Together | null>(null);
const done = ref(0);
let control: AbortController | null = null;

const names = computed(() => desk.names.map(({ name }) => name));
async function lay(): Promise<void> {
  shown.value = true;
  control?.abort();
  const own = (control = new AbortController());
  together.value = null;
  const progress = (share: number) => own === control && (done.value = share);
  const found = await desk.askLong(
    { signal: own.signal, progress },
    'together',
    desk.records.map(({ decisions }) => decisions),
  );
  if (own === control && found !== STALE) together.value = found;
}
watch(shown, (open) => !open && control?.abort());
onBeforeUnmount(() => control?.abort());

const phrase = computed(() => desk.selectedPhrase);
/** Pixels: a beat across at most, all of them together at most, and a row down. */
const BEAT = 64;
const ACROSS = 930;
const ROW = 74;
const LEFT = 8;
const grid = computed(() => {
  const span = phrase.value;
  const bars = desk.tune?.tune.bars ?? [];
  const starts = barStarts(bars);
  const metre = bars[0]?.metre ?? { beats: 4, unit: 4 };
  const from = span?.from ?? 0;
  const to = span?.to ?? 0;
  const scale = Math.min(BEAT / beatLength(metre), ACROSS / Math.max(1, to - from));
  const x = (at: number) => LEFT + (at - from) * scale;
  return {
    from,
    to,
    x,
    scale,
    width: x(to) + LEFT,
    barlines: starts.filter((at) => at > from && at < to).map(x),
  };
});
const rows = computed(() =>
  (together.value?.rows ?? []).map((row, index) => {
    const { from, to, x, scale } = grid.value;
    const notes = row.notes.filter(({ at }) => at >= from && at < to);
    const all = notes.flatMap(({ pitches }) => pitches);
    const [low, high] = [Math.min(...all), Math.max(...all)];
    const y = (pitch: number) => ROW - 16 - ((pitch - low) / Math.max(1, high - low)) * (ROW - 34);
    return {
      name: names.value[index]!,
      key: row.key,
      tune: row.tune,
      breaches: row.breaches,
      notes: notes.flatMap((note) =>
        note.pitches.map((pitch, head) => ({
          key: `${note.id} ${head}`,
          x: x(note.at),
          width: Math.max(6, note.duration * scale - 5),
          y: y(pitch),
          finger: note.fingers[head],
          changed: note.changed,
        })),
      ),
      says: saysOf(notes),
    };
  }),
);
const saysOf = (notes: readonly SideNote[]) => {
  const changed = notes.filter((note) => note.changed).length;
  return `${notes.length} notes, ${changed} of them not as in the tune`;
};
const clashes = computed(() => together.value?.clashes ?? []);
const hearTogether = () => desk.hear({ tunes: rows.value.map(({ tune }) => tune) });
const keys = computed(() => new Set(rows.value.map(({ key }) => key)));
</script>

<template>
  <section v-if="desk.records.length > 1" aria-labelledby="together-title">
    <h3 id="together-title">Side by side</h3>
    <v-btn size="small" variant="outlined" @click="lay">All {{ desk.records.length }} versions, beat under beat</v-btn>
    <v-dialog v-model="shown" max-width="1180" :aria-label="`Versions of ${phrase?.label ?? 'the phrase'}`">
      <v-card class="pa-5 together">
        <header>
          <h2>{{ phrase?.label }} in {{ desk.records.length }} versions</h2>
          <v-btn v-if="together" :prepend-icon="mdiPlay" variant="outlined" size="small" @click="hearTogether"
            >All together</v-btn
          >
          <v-btn variant="text" size="small" @click="shown = false">Close</v-btn>
        </header>
        <p v-if="!together" role="status">Working the versions out… {{ Math.round(100 * done) }} %</p>
        <template v-else>
          <p v-if="keys.size > 1" class="warn">
            They are in different keys, and cannot be played together: {{ [...keys].join(', ') }}.
          </p>
          <div class="rows">
            <template v-for="row in rows" :key="row.name">
              <div class="who">
                <strong>{{ row.name }}</strong>
                <small>{{ row.key }}<template v-if="row.breaches > 0"> · {{ row.breaches }} not met</template></small>
                <v-btn
                  :icon="mdiPlay"
                  size="x-small"
                  variant="text"
                  :aria-label="`Hear ${row.name}`"
                  @click="desk.hear({ tune: row.tune })"
                />
              </div>
              <svg
                :viewBox="`0 0 ${grid.width} ${ROW}`"
                :style="{ width: `${grid.width}px` }"
                role="img"
                :aria-label="`${row.name}: ${row.says}`"
              >
                <line v-for="x in grid.barlines" :key="x" class="bar" :x1="x - 3" :x2="x - 3" y1="4" :y2="ROW - 4" />
                <g v-for="note in row.notes" :key="note.key" :class="{ changed: note.changed }">
                  <line :x1="note.x" :x2="note.x + note.width" :y1="note.y" :y2="note.y" />
                  <circle :cx="note.x" :cy="note.y" r="4.5" />
                  <text :x="note.x" :y="note.y - 8" text-anchor="middle">{{ note.finger }}</text>
                </g>
              </svg>
            </template>
          </div>
          <p class="soft">A hollow dot is a note that is not as in the tune; the number is the finger.</p>
          <section aria-label="Clashes">
            <p v-if="clashes.length === 0">Played together, nothing clashes on a strong beat.</p>
            <template v-else>
              <h3>Where they clash</h3>
              <ul>
                <li v-for="{ rows: [one, other], bar, beat } in clashes" :key="`${one} ${other} ${bar} ${beat}`">
                  Bar {{ bar }}, beat {{ beat }}: {{ names[one] }} and {{ names[other] }}.
                </li>
              </ul>
            </template>
          </section>
        </template>
      </v-card>
    </v-dialog>
  </section>
</template>

<style scoped>
h3 {
  margin: 0 0 6px;
  font: 600 1.05rem var(--display);
}
.together header {
  display: flex;
  gap: 12px;
  align-items: center;
}
.together h2 {
  flex: 1;
  margin: 0;
  font: 600 1.3rem var(--display);
}
.rows {
  display: grid;
  grid-template-columns: 190px minmax(0, 1fr);
  overflow-x: auto;
  margin-top: 10px;
  border: 1px solid var(--edge);
  border-radius: 10px;
}
.who {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  padding: 8px 10px;
  border-top: 1px solid var(--edge);
}
.rows svg {
  border-top: 1px solid var(--edge);
}
small,
.soft {
  color: var(--soft);
}
line {
  stroke: var(--ink);
  stroke-width: 3;
  stroke-linecap: round;
}
circle {
  fill: var(--ink);
  stroke: var(--ink);
  stroke-width: 2;
}
.changed line {
  stroke: var(--accent);
}
.changed circle {
  fill: var(--paper);
  stroke: var(--accent);
}
.bar {
  stroke: var(--edge);
  stroke-width: 1.5;
}
text {
  fill: var(--ink);
  font-size: 12px;
  font-weight: 600;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
.warn {
  padding: 6px 10px;
  border-left: 4px solid rgb(var(--v-theme-error));
}
</style>

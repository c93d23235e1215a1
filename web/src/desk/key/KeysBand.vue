<script setup lang="ts">
/** All twelve keys side by side, the easiest first: what lies well, what rings. Heard and seen before one is taken. */
import { computed, nextTick, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { mdiPlay } from '@mdi/js';
import { phraseLine, withinOctave, type KeyChoice } from '@nokta/core/arrange';
import { stringNames } from '@nokta/core/instrument';
import { keyName, transposeTune } from '@nokta/core/music';
import { keyReasons, octaveText } from '@nokta/core/words';
import type { EngravedLine } from '@nokta/engrave';
import { engraver } from '../../workers/index.ts';
import { STALE } from '../../workers/protocol.ts';
import PhraseStrip from '../shared/PhraseStrip.vue';
import { stripViews, type StripView } from '../shared/strips.ts';
import { useLook } from '../../settings/look.ts';
import { useDesk } from '../store.ts';

const desk = useDesk();
const look = useLook();
const choices = shallowRef<readonly KeyChoice[]>([]);
const done = ref(0);
const working = ref(false);
let asking = new AbortController();

const decided = computed(() => desk.record?.decisions.key);
const now = computed(() => decided.value?.transpose ?? 0);

watch(
  () => desk.arrangement,
  async () => {
    asking.abort();
    const own = (asking = new AbortController());
    working.value = true;
    const progress = (share: number) => own === asking && (done.value = share);
    const found = await desk.askLong({ signal: own.signal, progress }, 'keys');
    if (own !== asking) return;
    working.value = false;
    if (found !== STALE) choices.value = found;
  },
  { immediate: true },
);
onBeforeUnmount(() => asking.abort());

/** One card for each key, in the octave that is looked at or holds, else in its easiest. */
const cards = computed(() => {
  const keys = new Map<number, KeyChoice[]>();
  for (const choice of choices.value) {
    const key = withinOctave(choice.transpose);
    keys.set(key, [...(keys.get(key) ?? []), choice]);
  }
  return [...keys].map(([key, octaves]) => {
    const here = (at: number | null) => octaves.find(({ transpose }) => transpose === at);
    const shown = here(looked.value) ?? here(now.value) ?? octaves[0]!;
    return { key, shown, octaves: [...octaves].sort((a, b) => a.transpose - b.transpose), best: octaves[0]! };
  });
});
const most = computed(() => Math.max(1, ...choices.value.flatMap(({ fits, effort }) => (fits ? [effort] : []))));
const names = computed(() => (desk.arrangement ? stringNames(desk.arrangement.instrument) : []));
/** The highest string on top. */
const lineOf = (string: number) => 5 + ((names.value.length - 1 - string) * 24) / Math.max(3, names.value.length - 1);

/** The key that is looked at; null for none but the present one. */
const looked = ref<number | null>(null);
watch(now, () => (looked.value = null));
const chosen = computed(() => choices.value.find(({ transpose }) => transpose === (looked.value ?? now.value)) ?? null);
const reasons = computed(() => (chosen.value ? keyReasons(chosen.value, look.names) : []));
const present = computed(() => choices.value.find(({ transpose }) => transpose === now.value));
const beside = computed(() => {
  const [own, other] = [chosen.value, present.value];
  if (!own || !other || own === other || !own.fits || !other.fits || other.effort === 0) return '';
  const share = Math.round(100 * (own.effort / other.effort - 1));
  if (share === 0) return 'as easy as now';
  if (share >= 100) return `${(own.effort / other.effort).toFixed(1)} times the effort of now`;
  return share < 0 ? `${-share} % easier than now` : `${share} % more effort than now`;
});

const tab = computed(() =>
  Math.max(
    0,
    cards.value.findIndex(({ shown }) => shown === chosen.value),
  ),
);
const list = ref<HTMLElement | null>(null);
function lookAt({ transpose }: KeyChoice): void {
  looked.value = transpose === now.value ? null : transpose;
}
/** Arrows go from key to key, as in any row of choices. */
function step(by: number): void {
  const count = cards.value.length;
  const to = (tab.value + by + count) % count;
  lookAt(cards.value[to]!.shown);
  void nextTick(() => list.value?.querySelectorAll<HTMLElement>('.key')[to]?.focus());
}

const hear = () => {
  const { arrangement } = desk;
  if (arrangement && chosen.value)
    desk.hear({ tune: transposeTune(arrangement.tune, chosen.value.transpose - now.value) });
};
const take = () => {
  if (chosen.value) void desk.decide({ key: { transpose: chosen.value.transpose } }, 'change the key');
};

/** The first strip as it would be. */
const preview = shallowRef<{ readonly view: StripView; readonly staff: EngravedLine } | null>(null);
let shown = 0;
watch(looked, async (transpose) => {
  const own = (shown += 1);
  preview.value = null;
  if (transpose === null) return;
  const facts = await desk.ask('inKeyOf', transpose);
  if (facts === STALE || own !== shown) return;
  const [view] = stripViews(facts);
  if (!view) return;
  const staff = await engraver.engrave(phraseLine(facts.staff, view.phrase), facts.instrument, false);
  if (own === shown) preview.value = { view, staff };
});
const NONE: ReadonlySet<string> = new Set();

const saysOf = ({ shown: choice, best }: { shown: KeyChoice; best: KeyChoice }) =>
  [
    `${keyName(choice.key)}, ${octaveText(choice.octave)}`,
    best === choices.value[0] && 'the easiest',
    choice.transpose === now.value && 'as it is now',
    keyReasons(choice, look.names).join(', '),
  ]
    .filter(Boolean)
    .join('; ');
</script>

<template>
  <section class="band" aria-label="Keys side by side">
    <p v-if="choices.length === 0" role="status">Trying all keys… {{ Math.round(100 * done) }} %</p>
    <template v-else>
      <p>
        <strong>Easiest first.</strong> Thick strings sound the home note or its fifth; the line is the effort, the
        beads are notes that ring.
        <span v-if="working" role="status">Trying all keys… {{ Math.round(100 * done) }} %</span>
      </p>
      <div
        ref="list"
        class="keys"
        role="radiogroup"
        aria-label="Key"
        @keydown.right.prevent.stop="step(1)"
        @keydown.down.prevent.stop="step(1)"
        @keydown.left.prevent.stop="step(-1)"
        @keydown.up.prevent.stop="step(-1)"
      >
        <button
          v-for="(card, index) in cards"
          :key="card.key"
          type="button"
          class="key"
          role="radio"
          :class="{ off: !card.shown.fits, now: card.octaves.some(({ transpose }) => transpose === now) }"
          :aria-checked="index === tab"
          :tabindex="index === tab ? 0 : -1"
          :aria-label="saysOf(card)"
          @click="lookAt(card.shown)"
        >
          <strong>{{ keyName(card.shown.key) }}</strong>
          <svg viewBox="0 0 100 42" aria-hidden="true">
            <g v-for="(name, string) in names" :key="name">
              <line
                x1="10"
                x2="98"
                :y1="lineOf(string)"
                :y2="lineOf(string)"
                :class="{ rings: card.shown.drones.includes(string) }"
              />
              <text x="0" :y="lineOf(string) + 2.5">{{ name }}</text>
            </g>
            <line class="effort" x1="10" x2="98" y1="40" y2="40" />
            <line
              v-if="card.shown.fits"
              class="effort own"
              x1="10"
              :x2="10 + 88 * Math.min(1, card.shown.effort / most)"
              y1="40"
              y2="40"
            />
            <circle
              v-for="bead in Math.round(10 * card.shown.ringing)"
              :key="bead"
              :cx="10 + bead * 8.4"
              cy="35.5"
              r="1.7"
            />
          </svg>
          <small>{{ card.shown.fits ? octaveText(card.shown.octave) : 'notes fall off' }}</small>
        </button>
      </div>
      <div v-if="chosen" class="chosen">
        <p>
          <strong>{{ keyName(chosen.key) }}</strong>, {{ octaveText(chosen.octave)
          }}<template v-if="beside"> ({{ beside }})</template>: {{ reasons.join(', ') }}.
        </p>
        <div class="doings">
          <v-btn
            v-for="other in cards[tab]!.octaves.length > 1 ? cards[tab]!.octaves : []"
            :key="other.transpose"
            size="small"
            variant="text"
            :aria-pressed="other === chosen"
            :class="{ here: other === chosen }"
            @click="lookAt(other)"
            >{{ octaveText(other.octave) }}</v-btn
          >
          <v-btn size="small" variant="outlined" :prepend-icon="mdiPlay" @click="hear">Hear it</v-btn>
          <v-btn size="small" variant="flat" color="primary" :disabled="chosen.transpose === now" @click="take"
            >Take this key</v-btn
          >
        </div>
      </div>
      <!-- A picture of what would be: its notes are not those of the tune. -->
      <div v-if="preview && looked !== null" class="preview" inert aria-hidden="true">
        <PhraseStrip
          :view="preview.view"
          :staff="preview.staff"
          :selected-id="null"
          :playing-id="null"
          :sounding="false"
          :range="NONE"
          :hinted="NONE"
          :changed="NONE"
          :beside="null"
          :lanes="['tab', 'hand']"
          :start-moves="false"
          :end-moves="false"
        />
      </div>
    </template>
  </section>
</template>

<style scoped>
.band {
  padding: 8px 14px 10px;
  border: 1px solid var(--edge);
  border-radius: 10px;
  background: var(--paper);
}
p {
  margin: 0 0 4px;
  color: var(--soft);
  font-size: 0.9rem;
}
p strong {
  color: var(--ink);
}
.keys {
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  gap: 6px;
}
.key {
  padding: 4px 8px;
  border: 1px solid var(--edge);
  border-radius: 7px;
  background: none;
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
.key strong {
  font: 600 1rem var(--display);
}
.key small {
  color: var(--soft);
}
.key.now {
  border-color: var(--ink);
}
.key[aria-checked='true'] {
  border-color: var(--accent);
  box-shadow: inset 0 0 0 1.5px var(--accent);
}
.key.off svg {
  opacity: 0.35;
}
svg {
  display: block;
  width: 100%;
}
svg text {
  fill: var(--soft);
  font: 600 7px var(--text);
}
line {
  stroke: var(--soft);
  stroke-width: 0.6px;
}
line.rings {
  stroke: var(--ink);
  stroke-width: 2.6px;
}
.effort {
  stroke: var(--edge);
  stroke-width: 2px;
}
.effort.own {
  stroke: var(--accent);
}
circle {
  fill: var(--ink);
}
.chosen {
  display: flex;
  gap: 12px;
  align-items: flex-start;
  justify-content: space-between;
  margin-top: 8px;
}
.doings {
  display: flex;
  flex: none;
  flex-wrap: wrap;
  gap: 6px;
}
.here {
  text-decoration: underline;
}
</style>

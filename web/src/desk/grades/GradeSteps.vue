<script setup lang="ts">
/** Six steps from first pieces to everything: where the tune stands, what each asks, and what it breaks. */
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { LINE_FLOOR, ownGrade, type GradeFit, type LadderStep, type VersionOffers } from '@nokta/core/compare';
import { placesOf } from '@nokta/core/arrange';
import { LINE_ROLES, brokenRules, isGraded, type Breach, type GradeNumber, type Rule } from '@nokta/core/grade';
import type { BarBeat } from '@nokta/core/form';
import { keyName, transposeKey } from '@nokta/core/music';
import { LINE_WORDS, breachText, contractTexts, offerText, slowerText } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';
import { useGradeActions } from './actions.ts';

const desk = useDesk();
const actions = useGradeActions();
const fits = shallowRef<readonly GradeFit[] | null>(null);
/** What this version asks that the grade below does not. */
const fresh = shallowRef<readonly Breach[]>([]);
/** What the next richer version does not keep of this one. */
const step = shallowRef<LadderStep | null>(null);
const done = ref(0);
const chosen = ref<GradeNumber | null>(null);
const current = computed(() => {
  const version = desk.record?.decisions.version;
  return version && isGraded(version.grade) && !version.line ? version.grade : null;
});
let asking = new AbortController();

watch(
  () => desk.arrangement,
  async () => {
    asking.abort();
    asking = new AbortController();
    const { signal } = asking;
    done.value = 0;
    const found = await desk.askLong({ signal, progress: (share) => (done.value = share) }, 'gradeFits');
    if (found !== STALE) fits.value = found;
    const grade = current.value;
    const met = grade === null ? [] : await desk.ask('newSince', grade);
    if (met !== STALE) fresh.value = met;
    const next = grade === null ? null : await desk.ask('ladderStep');
    if (next !== STALE) step.value = next;
  },
  { immediate: true },
);

const own = computed(() => (fits.value ? ownGrade(fits.value) : null));
const shown = computed(
  () => fits.value?.find(({ grade }) => grade === (chosen.value ?? current.value ?? own.value ?? 6)) ?? null,
);

/** What the version that is offered would be. */
const offers = shallowRef<VersionOffers | null>(null);
const weighing = ref<number | null>(null);
let offering = new AbortController();
const offered = computed(() => {
  const grade = shown.value?.grade;
  return grade === undefined || grade === current.value || grade === own.value ? null : grade;
});
watch(
  [() => desk.arrangement, offered],
  async ([, grade]) => {
    offering.abort();
    offering = new AbortController();
    offers.value = null;
    weighing.value = null;
    if (grade === null) return;
    weighing.value = 0;
    const { signal } = offering;
    const found = await desk.askLong({ signal, progress: (share) => (weighing.value = share) }, 'versionOffers', grade);
    if (signal.aborted) return;
    weighing.value = null;
    if (found !== STALE) offers.value = found;
  },
  { immediate: true },
);
/** Of the tune so little is left that a line with it serves better. */
const servesBetter = computed(() => offers.value !== null && offers.value.here.likeness < LINE_FLOOR);
/** The key that the version would be in. */
const offeredKey = computed(() => {
  const key = desk.tune?.tune.bars[0]?.key;
  const chosenKey = desk.record?.decisions.key.transpose;
  if (!key || chosenKey === undefined || !offers.value) return '';
  return keyName(transposeKey(key, chosenKey + offers.value.here.transpose).key);
});
const metre = computed(() => desk.arrangement?.tune.bars[0]?.metre ?? null);
onBeforeUnmount(() => {
  asking.abort();
  offering.abort();
});

const words = computed(() => (shown.value ? contractTexts(shown.value.contract.limits) : []));
/** Rules with their bars, from 1, and the notes to point at. */
const byRule = (breaches: readonly Breach[]) =>
  brokenRules(breaches).map((rule: Rule) => {
    const notes = breaches.filter((one) => one.rule === rule).map(({ note }) => note);
    return { rule, notes, bars: [...new Set(notes.map(barOf))] };
  });
const lists = computed(() => {
  const isCurrent = shown.value?.grade === current.value;
  return [
    ...(isCurrent && fresh.value.length > 0
      ? [{ title: `New since grade ${shown.value!.grade - 1}`, open: true, rules: byRule(fresh.value) }]
      : []),
    { title: 'What keeps the tune from it', open: !isCurrent, rules: byRule(shown.value?.breaches ?? []) },
  ].filter(({ rules }) => rules.length > 0);
});
const leftBehind = computed(() => {
  const bars = new Map<number, string[]>();
  for (const note of step.value?.missing ?? []) bars.set(barOf(note), [...(bars.get(barOf(note)) ?? []), note]);
  return [...bars].map(([bar, notes]) => ({ bar, notes }));
});
const places = computed(() => (desk.arrangement ? placesOf(desk.arrangement.tune) : new Map<string, BarBeat>()));
/** As people count; 0 is the pickup. */
const barOf = (note: string): number =>
  places.value.get(note)?.bar ?? places.value.get(desk.notes.find(({ id }) => id === note)?.of ?? '')?.bar ?? 1;
const barText = (bar: number) => (bar > 0 ? `Bar ${bar}` : 'Pickup');
/** So many bars are named; more are counted. */
const FEW = 6;
const barsText = (bars: readonly number[]) =>
  `${bars.length === 1 ? 'bar' : 'bars'} ${bars.slice(0, FEW).join(', ')}${bars.length > FEW ? ` and ${bars.length - FEW} more` : ''}`;
function fitText({ breaches }: GradeFit): string {
  if (breaches.length === 0) return 'fits';
  return breaches.length === 1 ? 'one place' : `${breaches.length} places`;
}
</script>

<template>
  <section aria-labelledby="steps-title">
    <h3 id="steps-title">Six steps</h3>
    <p v-if="!fits" role="status">Holding it against each step… {{ Math.round(done * 100) }} %</p>
    <template v-else>
      <ol aria-label="Steps">
        <li v-for="fit in fits" :key="fit.grade">
          <button
            type="button"
            :class="{ fits: fit.breaches.length === 0, own: fit.grade === own }"
            :aria-pressed="shown?.grade === fit.grade"
            @click="chosen = fit.grade"
          >
            <b>{{ fit.grade }}</b>
            <span>{{ fit.contract.name }}</span>
            <small>{{
              fit.grade === current ? 'this version' : fit.grade === own ? 'the tune as it is' : fitText(fit)
            }}</small>
          </button>
        </li>
      </ol>
      <template v-if="shown">
        <v-btn
          v-if="shown.grade !== current && shown.grade !== own"
          class="make"
          variant="flat"
          color="primary"
          @click="actions.makeGrade(shown.grade)"
          >Make it a grade {{ shown.grade }} for the {{ desk.arrangement?.instrument.name.toLowerCase() }}</v-btn
        >
        <p v-if="weighing !== null" class="offer" role="status">
          Trying keys and octaves… {{ Math.round(weighing * 100) }} %
        </p>
        <div v-else-if="offers && offered !== null" class="offer">
          <p>
            {{ offerText(offers.here, offeredKey) }}
            {{ offers.here.fits ? '' : 'Not all of the promise can be kept.' }}
          </p>
          <v-btn
            v-if="offers.slower && metre"
            size="small"
            variant="outlined"
            @click="actions.makeSlower(offered, offers.slower.tempo)"
            >{{ slowerText(offers.slower, metre) }}</v-btn
          >
        </div>
        <details :key="`lines ${servesBetter}`" :open="servesBetter">
          <summary>Or a line that goes with it</summary>
          <p v-if="servesBetter">So little of the tune would be left that a line with it may serve better.</p>
          <ul class="lines">
            <li v-for="role in LINE_ROLES" :key="role">
              <v-btn
                size="small"
                variant="outlined"
                :aria-label="`${LINE_WORDS[role].name}, grade ${shown.grade}`"
                @click="actions.makeLine(shown.grade, role)"
                >{{ LINE_WORDS[role].name }}</v-btn
              >
              <span>{{ LINE_WORDS[role].about }}</span>
            </li>
          </ul>
        </details>
        <details :key="String(shown.grade === current)" :open="shown.grade !== current">
          <summary>Grade {{ shown.grade }} promises</summary>
          <ul class="words">
            <li v-for="word in words" :key="word">{{ word }}</li>
          </ul>
        </details>
        <details v-for="{ title, open, rules } in lists" :key="title" :open="open">
          <summary>{{ title }}</summary>
          <ul class="broken">
            <li v-for="{ rule, notes, bars } in rules" :key="rule">
              <button
                type="button"
                @click="desk.select(notes[0]!)"
                @pointerenter="desk.hinted = new Set(notes)"
                @pointerleave="desk.hinted = new Set()"
                @focus="desk.hinted = new Set(notes)"
                @blur="desk.hinted = new Set()"
              >
                {{ breachText(rule) }} <small>{{ barsText(bars) }}</small>
              </button>
            </li>
          </ul>
        </details>
        <details v-if="step && shown.grade === current" :open="step.missing.length > 0">
          <summary>Up to grade {{ step.grade }}</summary>
          <p v-if="step.missing.length === 0 && step.away === 0">All that is learnt here stays.</p>
          <p v-if="step.away !== 0">It lies in another key or octave: the fingers change.</p>
          <ul v-if="step.missing.length > 0" class="broken">
            <li v-for="{ bar, notes } in leftBehind" :key="bar">
              <button type="button" @click="desk.select(notes[0]!)">
                {{ barText(bar) }}: {{ notes.length === 1 ? 'one note is' : `${notes.length} notes are` }} not kept
              </button>
            </li>
          </ul>
        </details>
        <p v-if="shown.breaches.length === 0">The tune fits, as it stands.</p>
      </template>
    </template>
  </section>
</template>

<style scoped src="./gradeSteps.css" />

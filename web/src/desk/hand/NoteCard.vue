<script setup lang="ts">
/** Why this finger: what it saves, what every other way costs, and how to overrule it. */
import { computed, ref, watch } from 'vue';
import { mdiClose, mdiLock, mdiLockOpenVariantOutline, mdiPlay } from '@mdi/js';
import { INSTRUMENT, stringNames } from '@nokta/core/instrument';
import { POSITIONS, type Alternative, type Level, type Way } from '@nokta/core/hand';
import { STALE } from '../../workers/protocol.ts';
import { glideText, pitchesText, problemText, reasonTexts, stopsText, whyTexts } from '@nokta/core/words';
import OtherWay from '../../theme/parts/OtherWay.vue';
import { useDesk } from '../rooms/store.ts';
import { useHandActions } from './actions.ts';
import { useHand } from './store.ts';
import WayList from './WayList.vue';
import { decidedItems, extraText, signs, type DecidedItem } from './words.ts';
import { useLook } from '../../settings/look.ts';

const desk = useDesk();
const look = useLook();
const hand = useHand();
const actions = useHandActions();

const note = computed(() => {
  const selected = desk.selected;
  return hand.explained?.id === selected?.id && hand.explained ? { ...selected!, ...reasoned.value } : selected;
});
/** Reasons come a moment after the finger itself. */
const reasoned = computed(() => ({
  why: hand.explained?.why ?? null,
  alternatives: hand.explained?.alternatives ?? [],
}));
const instrument = computed(() => desk.arrangement?.instrument ?? INSTRUMENT.violin);
const names = computed(() => stringNames(instrument.value));
const said = (way: Pick<Alternative, 'stops'>) => stopsText(way, instrument.value, look.names);
const problems = computed(() => {
  const facts = desk.arrangement;
  const own = facts?.fingering.problems.filter(({ noteId }) => noteId === note.value?.id) ?? [];
  return own.map((problem) => problemText(problem, facts!.instrument, facts!.tuning, look.names));
});
/** The hand's place is told where it would be another one. */
const titleOf = (way: Alternative) =>
  way.position && way.position !== note.value?.position ? `${said(way)}, ${way.position}` : said(way);
const name = computed(() => pitchesText(note.value?.pitches ?? [], ' + ', look.names));
const whys = computed(() => (note.value ? whyTexts(note.value, instrument.value, look.names) : []));
const lock = computed(() => {
  const own = desk.record?.decisions.hand.locks[note.value?.id ?? ''];
  return own?.instrument === instrument.value.id ? own : undefined;
});
const items = computed(() => (lock.value ? decidedItems(lock.value, names.value) : []));
const chosen = computed(() => (desk.range.length > 1 ? desk.range : note.value ? [note.value] : []));
const several = computed(() => desk.range.length > 1);

/** Other places for the shift that is made to this note. */
const shiftWays = ref<readonly Way[]>([]);
watch(
  [() => note.value?.id, () => desk.arrangement],
  async () => {
    const id = note.value?.id;
    const ways = note.value?.shift && id ? await desk.ask('waysOfShift', id) : [];
    if (id === note.value?.id && ways !== STALE) shiftWays.value = ways;
  },
  { immediate: true },
);

/** Where the finger would be needed again. */
const holdTarget = computed(() => (desk.selected ? desk.againAt(desk.selected) : null));
const kept = computed(() => Boolean(lock.value?.stops.length));

function take(alternative: Alternative): void {
  if (note.value) void actions.finger(note.value, alternative.stops, `finger ${said(alternative)}`);
}
function toggleKept(): void {
  if (!note.value) return;
  if (kept.value) void actions.freeFinger(note.value);
  else void actions.finger(note.value, note.value.stops, `keep ${said(note.value)}`);
}
function takeOut({ key }: DecidedItem): void {
  const own = note.value;
  if (!own) return;
  if (key === 'stops') return void actions.freeFinger(own);
  if (key === 'position') return void actions.position([own], null);
  if (key === 'shift') return void actions.toggleShift(own);
  if (key === 'holdUntil') return void actions.holdUntil(own, null);
  const phrase = desk.selectedPhrase;
  if (phrase) void actions.like(phrase, null);
}
/** The hand may be anywhere from the one to the other; setting one end past the other takes it along. */
function setPosition(end: 'from' | 'to', level: string): void {
  if (level === 'free') return void actions.position(chosen.value, null);
  const [from, to] = lock.value?.position ?? [level as Level, level as Level];
  const rank = (name: Level) => POSITIONS.indexOf(name);
  const own = level as Level;
  const range: [Level, Level] =
    end === 'from' ? [own, rank(to) < rank(own) ? own : to] : [rank(from) > rank(own) ? own : from, own];
  void actions.position(chosen.value, range);
}
const stringItems = computed(() => names.value.map((title, value) => ({ title: `${title} string`, value })).reverse());
const levelItems = computed(() => [
  { value: 'free', title: 'any' },
  ...POSITIONS.map((value) => ({ value, title: value })),
]);
</script>

<template>
  <div>
    <section v-if="note" aria-live="polite">
      <h3>{{ several ? `${chosen.length} notes` : name }}</h3>
      <p v-for="message in problems" :key="message" class="warn">{{ message }}</p>
      <template v-if="note.stops.length > 0 && !several">
        <p class="chosen">
          <span class="sign">{{ signs(note.stops, instrument) }}</span>
          <span
            >{{ said(note) }}<template v-if="note.position">, position {{ note.position }}</template
            ><template v-if="note.glide">, {{ glideText(note.glide) }}</template></span
          >
        </p>
        <ul v-if="whys.length > 0" class="why">
          <li v-for="reason in whys" :key="reason">{{ reason }}</li>
          <li v-if="note.unusual">other fingers than the same phrase has elsewhere</li>
          <li v-if="note.hop">the finger before has to jump here</li>
        </ul>
        <div class="acts">
          <v-btn
            :prepend-icon="kept ? mdiLock : mdiLockOpenVariantOutline"
            :variant="kept ? 'tonal' : 'outlined'"
            size="small"
            :aria-pressed="kept"
            @click="toggleKept"
          >
            {{ kept ? 'Kept. Free it' : 'Keep this finger' }}
          </v-btn>
          <v-btn
            size="small"
            variant="outlined"
            :prepend-icon="mdiPlay"
            aria-label="Hear the phrase"
            @click="desk.hear()"
            >Hear</v-btn
          >
        </div>
        <ul v-if="items.length > 0" class="items" aria-label="Set by you">
          <li v-for="item in items" :key="item.key">
            {{ item.text }}
            <v-btn :icon="mdiClose" size="x-small" :aria-label="`Take out: ${item.text}`" @click="takeOut(item)" />
          </li>
        </ul>
      </template>
      <template v-if="!several">
        <template v-if="note.alternatives.length > 0">
          <h4>Other ways</h4>
          <ul class="others">
            <li v-for="alternative in note.alternatives" :key="said(alternative)">
              <OtherWay
                :sign="signs(alternative.stops, instrument)"
                :title="titleOf(alternative)"
                :price="extraText(alternative.extra)"
                :reasons="reasonTexts(alternative.differences)"
                @click="take(alternative)"
              />
            </li>
          </ul>
        </template>
        <template v-if="note.shift">
          <h4>The shift elsewhere</h4>
          <WayList :ways="shiftWays" label="move a shift" none="There is no other place for it." />
        </template>
      </template>
      <h4>{{ several ? 'Set for all of them' : 'Set more' }}</h4>
      <div class="set">
        <v-select
          label="Stay on"
          :items="stringItems"
          :model-value="null"
          placeholder="string"
          persistent-placeholder
          @update:model-value="$event !== null && actions.stayOnString(chosen, $event, names[$event]!)"
        />
        <span />
        <v-select
          label="Position from"
          :items="levelItems"
          :model-value="several ? null : (lock?.position?.[0] ?? 'free')"
          @update:model-value="setPosition('from', $event)"
        />
        <v-select
          label="up to"
          :items="levelItems"
          :model-value="several ? null : (lock?.position?.[1] ?? 'free')"
          @update:model-value="setPosition('to', $event)"
        />
      </div>
      <div class="buttons">
        <template v-if="several">
          <v-btn size="small" variant="outlined" @click="actions.keep(chosen, 'these fingers')"
            >Keep these fingers</v-btn
          >
          <v-btn
            size="small"
            variant="outlined"
            @click="
              actions.free(
                chosen.map(({ id }) => id),
                'these notes',
              )
            "
            >Free these notes</v-btn
          >
        </template>
        <template v-else>
          <v-btn
            size="small"
            variant="outlined"
            :aria-pressed="Boolean(lock?.shift)"
            @click="actions.toggleShift(note)"
            >{{ lock?.shift ? 'No shift here' : 'Shift here' }}</v-btn
          >
          <v-btn
            v-if="holdTarget || lock?.holdUntil"
            size="small"
            variant="outlined"
            :aria-pressed="Boolean(lock?.holdUntil)"
            @click="actions.holdUntil(note, lock?.holdUntil ? null : holdTarget)"
            >{{ lock?.holdUntil ? 'Let the finger go' : 'Keep it down until it comes again' }}</v-btn
          >
        </template>
      </div>
    </section>
    <p v-else>Choose a note on a strip.</p>
  </div>
</template>

<style scoped src="./cards.css" />

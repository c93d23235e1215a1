<script setup lang="ts">
/** The stand: one step of a lesson fills the screen; a key, a pedal or a tap plays it, and says how it went. */
import { computed, nextTick, onBeforeUnmount, reactive, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useWakeLock } from '@vueuse/core';
import {
  mdiCheck,
  mdiChevronLeft,
  mdiChevronRight,
  mdiClose,
  mdiPlay,
  mdiReload,
  mdiRepeat,
  mdiStop,
  mdiTuneVariant,
} from '@mdi/js';
import type { LaneId } from '@nokta/core/sheet';
import { useDesk } from '../desk/rooms/store.ts';
import { staffKey } from '../desk/rooms/working.ts';
import SoundMenu from '../desk/shared/SoundMenu.vue';
import StripPicture from '../desk/shared/StripPicture.vue';
import { useLook } from '../settings/look.ts';
import PillChoice from '../theme/parts/PillChoice.vue';
import { STALE } from '../workers/protocol.ts';
import { useStandKeys } from './keys.ts';
import { useLesson } from './lesson.ts';

const props = defineProps<{ id: string }>();
const desk = useDesk();
const look = useLook();
const router = useRouter();
const route = useRoute();
const lesson = reactive(useLesson());

const wanted = computed(() => route.query['arrangement'] ?? null);
watch(
  () => props.id,
  (id) => desk.open(id, typeof wanted.value === 'string' ? wanted.value : null),
  { immediate: true },
);
watch(
  () => desk.tune?.title,
  (title) => (document.title = `${title ?? 'The stand'} · Nokta`),
  { immediate: true },
);
watch(
  () => desk.staves.size > 0,
  (ready) => ready && lesson.prepare(),
);
const called = computed(() => desk.names.find(({ id }) => id === desk.record?.id)?.name ?? '');

/** What is read: the staff with everything, or what stands under it alone. */
const SHOWN = [
  { id: 'both', name: 'Staff and tab' },
  { id: 'tab', name: 'Tab' },
  { id: 'staff', name: 'Staff' },
] as const;
const shown = ref<(typeof SHOWN)[number]['id']>('both');
const LANES: Readonly<Record<(typeof SHOWN)[number]['id'], readonly LaneId[]>> = {
  both: ['bow', 'tab', 'hand'],
  tab: ['bow', 'tab', 'names', 'hand'],
  staff: ['bow', 'fingers'],
};

/** The phrases of the step; of a part or the tune the one that sounds, else its first. */
const pictures = computed(() => {
  const own = lesson.step?.phrases ?? [];
  const views = desk.strips.filter(({ phrase }) => own.includes(phrase.id));
  const sounding = views.findIndex(({ ids }) => lesson.playingId !== null && ids.has(lesson.playingId));
  const from = lesson.step?.kind === 'join' ? 0 : Math.max(0, sounding);
  return views.slice(from, from + (lesson.step?.kind === 'phrase' ? 1 : 2)).flatMap((view) => {
    const staff = desk.staves.get(staffKey(view.phrase));
    return staff ? [{ view, staff }] : [];
  });
});
const next = computed(() => lesson.steps[lesson.at + 1] ?? null);
/** What comes is shown small, where it is something new to read. */
const coming = computed(() => {
  const view = next.value?.kind === 'phrase' && desk.strips.find(({ phrase }) => phrase.id === next.value?.phrases[0]);
  const staff = view && desk.staves.get(staffKey(view.phrase));
  return staff ? { view, staff } : null;
});

/** What to say of what is shown first. */
const talks = shallowRef<ReadonlyMap<string, string>>(new Map());
watch(
  [() => desk.arrangement, () => look.names],
  async () => {
    if (!desk.arrangement) return;
    const found = await desk.ask('talk', { voice: 'both', short: true, plain: false, names: look.names });
    if (found !== STALE) talks.value = new Map(found.map(({ phrase, text }) => [phrase, text]));
  },
  { immediate: true },
);
const said = computed(() => {
  const step = lesson.step;
  const phrase = desk.phrases.find(({ id }) => id === step?.phrases[0]);
  if (step?.kind !== 'phrase' || !phrase) return '';
  return desk.record?.decisions.talk.texts[phrase.notes[0] ?? '']?.text ?? talks.value.get(phrase.id) ?? '';
});

/** A screen that goes dark in the lesson is of no use to somebody with a bow in the hand. */
const awake = useWakeLock();
watch(
  () => lesson.playing,
  (playing) => {
    if (awake.isSupported.value) void (playing ? awake.request('screen') : awake.release()).catch(() => undefined);
  },
);
onBeforeUnmount(() => void awake.release().catch(() => undefined));

/** For those who do not see it. */
const told = ref('');
const leave = (): void =>
  void router.push({ name: 'desk', params: { id: props.id, pass: 'teach' }, query: { ...route.query } });
function say(clean: boolean): void {
  lesson.say(clean);
  const { reached, clean: times, at } = lesson.climb;
  told.value = reached
    ? `${lesson.step?.label}: there.`
    : clean
      ? times === 0
        ? `Faster: ${lesson.tempoText}`
        : `Clean, once more at ${lesson.tempoText}`
      : `${at === 0 ? 'Slow' : 'Slower'}: ${lesson.tempoText}`;
}
function go(to: number): void {
  lesson.go(to);
  told.value = lesson.step ? `${lesson.step.label}, ${lesson.tempoText}` : '';
}
const mapped = useTemplateRef<HTMLElement>('mapped');
// The map is longer than the screen: where the lesson is can be seen.
watch(
  [() => lesson.step?.key, mapped],
  () =>
    void nextTick(() =>
      mapped.value?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest', inline: 'center' }),
    ),
);
/** Who pressed with a finger or the mouse goes on with Space: it plays. */
const letGo = ({ detail }: MouseEvent): void => {
  if (detail > 0) (document.activeElement as HTMLElement | null)?.blur();
};
useStandKeys({
  play: lesson.toggle,
  loop: () => (lesson.looping = !lesson.looping),
  next: () => go(lesson.at + 1),
  before: () => go(lesson.at - 1),
  clean: () => say(true),
  notClean: () => say(false),
  leave,
});
</script>

<template>
  <div class="stand">
    <header>
      <div class="title">
        <h1>{{ desk.tune?.title ?? '' }}</h1>
        <p>{{ called }}</p>
      </div>
      <PillChoice label="What is shown" :choices="SHOWN" :chosen="shown" @choose="shown = $event" />
      <v-btn :icon="mdiTuneVariant" size="small" aria-label="Sound" title="What sounds along">
        <v-icon :icon="mdiTuneVariant" />
        <SoundMenu v-model="lesson.settings" activator="parent" />
      </v-btn>
      <v-btn
        :icon="mdiReload"
        size="small"
        aria-label="From the beginning"
        title="From the beginning"
        @click="lesson.again()"
      />
      <v-btn :icon="mdiClose" size="small" aria-label="Back to the desk" title="Back to the desk" @click="leave" />
    </header>
    <main aria-label="The stand" @click="lesson.toggle()">
      <template v-if="lesson.step">
        <h2>
          {{ lesson.step.label }}
          <span v-if="lesson.count" class="count" aria-hidden="true">{{ lesson.count }}</span>
        </h2>
        <div class="music" :class="[shown, lesson.step.kind]">
          <StripPicture
            v-for="{ view, staff } in pictures"
            :key="view.phrase.id"
            :view="view"
            :staff="staff"
            :lanes="LANES[shown]"
            :playing-id="lesson.playingId !== null && view.ids.has(lesson.playingId) ? lesson.playingId : null"
          />
          <p v-if="pictures.length === 0">Engraving…</p>
        </div>
        <div class="beside">
          <p v-if="said" class="said">{{ said }}</p>
          <div v-if="next" class="next">
            <p>Next: {{ next.label }}</p>
            <StripPicture v-if="coming" :view="coming.view" :staff="coming.staff" :lanes="LANES[shown]" />
          </div>
        </div>
      </template>
      <p v-else-if="desk.problem || desk.trouble" role="alert">{{ desk.problem ?? desk.trouble }}</p>
      <p v-else>Opening…</p>
    </main>
    <footer @click="letGo">
      <ol ref="mapped" class="map" aria-label="The lesson">
        <li v-for="(step, index) in lesson.steps" :key="step.key">
          <button
            type="button"
            :class="[step.kind, { done: lesson.reached.has(step.id), now: index === lesson.at }]"
            :aria-current="index === lesson.at ? 'step' : undefined"
            :aria-label="`${step.label}${lesson.reached.has(step.id) ? ', learned' : ''}`"
            :title="`${step.label}, about ${step.minutes} min`"
            @click="go(index)"
          >
            <span class="bead" aria-hidden="true"></span>
            <span aria-hidden="true">{{ step.label }}</span>
          </button>
        </li>
      </ol>
      <div class="row">
        <v-btn :icon="mdiChevronLeft" aria-label="Step before" :disabled="lesson.at === 0" @click="go(lesson.at - 1)" />
        <v-btn
          class="play"
          variant="flat"
          color="primary"
          :prepend-icon="lesson.playing ? mdiStop : mdiPlay"
          @click="lesson.toggle()"
        >
          {{ lesson.playing ? 'Stop' : 'Play' }}
        </v-btn>
        <v-btn
          :icon="mdiRepeat"
          aria-label="Loop"
          title="Loop"
          :variant="lesson.looping ? 'tonal' : 'text'"
          :aria-pressed="lesson.looping"
          @click="lesson.looping = !lesson.looping"
        />
        <div class="climb">
          <p>
            <strong>{{ lesson.tempoText }}</strong>
            <span v-if="lesson.climb.reached"> · there</span>
            <span v-else-if="lesson.climb.clean > 0"> · clean once</span>
            <span v-else-if="lesson.climb.failed > 0"> · again</span>
          </p>
          <ol aria-label="Slow to fast">
            <li
              v-for="(text, index) in lesson.tempoTexts"
              :key="text"
              :class="{ past: index < lesson.climb.at || lesson.climb.reached, here: index === lesson.climb.at }"
              :aria-current="index === lesson.climb.at ? 'step' : undefined"
            >
              <span class="visually-hidden">{{ text }}</span>
            </li>
          </ol>
        </div>
        <v-btn class="how" variant="outlined" @click="say(false)">Not yet</v-btn>
        <v-btn class="how" variant="flat" color="primary" :prepend-icon="mdiCheck" @click="say(true)">Clean</v-btn>
        <v-btn
          :icon="mdiChevronRight"
          aria-label="Next step"
          :disabled="lesson.at >= lesson.steps.length - 1"
          @click="go(lesson.at + 1)"
        />
      </div>
    </footer>
    <p class="visually-hidden" role="status" aria-live="polite">{{ told }}</p>
  </div>
</template>

<style scoped src="./stand.css" />

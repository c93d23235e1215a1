<script setup lang="ts">
/** The talk-through: what to say of the chosen phrase, in three voices; in other words, where the teacher has better ones; read aloud. */
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { useStorage } from '@vueuse/core';
import { useRoute } from 'vue-router';
import { mdiMusicClefTreble, mdiPencilOutline, mdiPlay, mdiVolumeHigh } from '@mdi/js';
import { VOICES, type Talk, type Voice } from '@nokta/core/talk';
import { canSpeak, readAloud, sayNothing } from '../../sound/speech.ts';
import { STALE } from '../../workers/protocol.ts';
import PillChoice from '../../theme/parts/PillChoice.vue';
import { useDesk } from '../rooms/store.ts';
import { useTuneSound } from '../shared/tuneSound.ts';
import LessonPlan from './LessonPlan.vue';
import { useTalkActions } from './actions.ts';
import { useLook } from '../../settings/look.ts';

const desk = useDesk();
const route = useRoute();
const look = useLook();
const actions = useTalkActions();
const voice = useStorage<Voice>('nokta-voice', 'both');
/** Short is what is said aloud; the whole is there when somebody asks. */
const whole = useStorage('nokta-talk-whole', false);
const plain = useStorage('nokta-talk-plain', false);
const LENGTHS = [
  { id: 'short', name: 'Short' },
  { id: 'whole', name: 'Note by note' },
] as const;
const VOICE_NAMES: Readonly<Record<Voice, string>> = { fingers: 'Fingers', names: 'Note names', both: 'Both' };
const voices = VOICES.map((id) => ({ id, name: VOICE_NAMES[id] }));
/** What is said while it plays: the fingers, the names, nothing. */
const { settings: sound } = useTuneSound(() => desk.tune?.id ?? null);
const CUES = [
  { id: 'none', name: 'Nothing' },
  { id: 'fingers', name: 'The fingers' },
  { id: 'names', name: 'The names' },
] as const;
const sayAlong = (cues: (typeof CUES)[number]['id']) =>
  (sound.value = { ...sound.value, cues, ...(cues !== 'none' && { aloud: false }) });
const talks = shallowRef<readonly (Talk & { readonly digest: string })[]>([]);
watch(
  [() => desk.arrangement, voice, whole, plain, () => look.names],
  async () => {
    const found = await desk.ask('talk', {
      voice: voice.value,
      short: !whole.value,
      plain: plain.value,
      names: look.names,
    });
    if (found !== STALE) talks.value = found;
  },
  { immediate: true },
);

const said = computed(() =>
  talks.value.map((talk) => {
    const phrase = desk.phrases.find(({ id }) => id === talk.phrase);
    const own = phrase && desk.record?.decisions.talk.texts[phrase.notes[0] ?? ''];
    return { ...talk, phrase, own: own ?? null, outdated: own !== undefined && own.digest !== talk.digest };
  }),
);
const current = computed(() => said.value.find(({ phrase }) => phrase?.id === desk.selectedPhrase?.id) ?? null);
const others = computed(() => said.value.filter((one) => one !== current.value));

const editing = ref(false);
const words = ref('');
watch(
  () => desk.selectedPhrase?.id,
  () => (editing.value = false),
);
function edit(): void {
  words.value = current.value?.own?.text ?? current.value?.text ?? '';
  editing.value = true;
}
function keep(): void {
  const now = current.value;
  editing.value = false;
  if (now?.phrase) void actions.say(now.phrase, words.value, now.digest, now.text);
}
onBeforeUnmount(sayNothing);
</script>

<template>
  <div class="panel">
    <v-btn
      v-if="desk.tune"
      variant="flat"
      color="primary"
      :prepend-icon="mdiMusicClefTreble"
      :to="{ name: 'stand', params: { id: desk.tune.id }, query: route.query }"
      >To the stand</v-btn
    >
    <PillChoice label="Voice" :choices="voices" :chosen="voice" @choose="voice = $event" />
    <PillChoice
      label="How much"
      :choices="LENGTHS"
      :chosen="whole ? 'whole' : 'short'"
      @choose="whole = $event === 'whole'"
    />
    <v-switch v-model="plain" label="For children: no names of chords" />
    <section v-if="current" aria-labelledby="talk-title" class="now">
      <h3 id="talk-title">{{ current.label }}</h3>
      <p v-if="current.outdated" class="warn" role="status">
        The notes, fingers or bows below have changed since you wrote this.
      </p>
      <form v-if="editing" @submit.prevent="keep">
        <v-textarea v-model="words" label="In your words" auto-grow rows="4" maxlength="4000" />
        <div class="row">
          <v-btn type="submit" variant="flat" color="primary" size="small">Keep</v-btn>
          <v-btn size="small" @click="editing = false">Cancel</v-btn>
        </div>
      </form>
      <template v-else>
        <p class="said">{{ current.own?.text ?? current.text }}</p>
        <div class="row">
          <v-btn
            v-if="canSpeak()"
            size="small"
            variant="outlined"
            :prepend-icon="mdiVolumeHigh"
            @click="readAloud(current.own?.text ?? current.text)"
            >Read aloud</v-btn
          >
          <v-btn size="small" variant="outlined" :prepend-icon="mdiPencilOutline" @click="edit">In your words</v-btn>
          <v-btn v-if="current.own && current.phrase" size="small" variant="text" @click="actions.unsay(current.phrase)"
            >Nokta’s words again</v-btn
          >
        </div>
        <details v-if="current.outdated">
          <summary>As it is now</summary>
          <p>{{ current.text }}</p>
        </details>
      </template>
    </section>
    <section v-if="canSpeak()" aria-labelledby="talk-along">
      <h3 id="talk-along">Say with the notes, as it plays</h3>
      <div class="row">
        <PillChoice
          label="Say with the notes"
          :choices="CUES"
          :chosen="sound.cues === 'both' ? null : sound.cues"
          @choose="sayAlong"
        />
        <v-btn size="small" variant="outlined" :prepend-icon="mdiPlay" @click="desk.hear()">Play the phrase</v-btn>
      </div>
    </section>
    <LessonPlan />
    <section aria-labelledby="talk-others">
      <h3 id="talk-others">The other phrases</h3>
      <ul>
        <li v-for="{ label, text, own, outdated, phrase } in others" :key="label">
          <button type="button" @click="phrase?.notes[0] && desk.select(phrase.notes[0])">{{ label }}</button>
          <em v-if="outdated"> out of date</em> {{ own?.text ?? text }}
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
h3 {
  margin: 0 0 6px;
  font: 600 1.05rem var(--display);
}
.said {
  margin: 0 0 10px;
  font-size: 1.2rem;
  line-height: 1.45;
  white-space: pre-line;
}
.warn {
  margin: 0 0 8px;
  padding: 6px 10px;
  border-left: 3px solid var(--accent);
}
ul {
  display: grid;
  gap: 10px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li > button {
  padding: 0;
  border: 0;
  background: none;
  color: var(--accent);
  font: inherit;
  font-weight: 700;
  text-decoration: underline;
  cursor: pointer;
}
li {
  white-space: pre-line;
}
em {
  color: var(--accent);
}
</style>

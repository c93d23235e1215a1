<script setup lang="ts">
/** An instrument of the teacher's own: its strings, length, clef, reach and the pull of its strings, kept by name. */
import { computed, reactive, ref, watch } from 'vue';
import { mdiDeleteOutline } from '@mdi/js';
import {
  CLEF_NAMES,
  INSTRUMENT,
  INSTRUMENTS,
  madeInstrument,
  makeSchema,
  type InstrumentId,
  type InstrumentMake,
} from '@nokta/core/instrument';
import { pitchName } from '@nokta/core/music';
import { useKept } from '../../kept/store.ts';
import { useDesk } from '../rooms/store.ts';
import { returnsFocus } from '../../theme/focus.ts';

const props = defineProps<{ like: InstrumentId; make: InstrumentMake }>();
const open = defineModel<boolean>({ required: true });
returnsFocus(open);
const desk = useDesk();
const kept = useKept();

const like = ref(props.like);
const first = madeInstrument(props.like, props.make);
/** As it is typed. */
const typed = reactive({
  name: props.make.name,
  strings: first.strings.map(({ usual }) => pitchName(usual)).join(' '),
  length: String(first.length),
  clef: props.make.clef,
  reach: props.make.reach === null ? '' : String(props.make.reach),
  tensions: first.strings.map(({ tension }) => String(tension)),
  gauge: props.make.gauge ?? '',
});
const usual = computed(() => INSTRUMENT[like.value]);
const usualStrings = computed(() => usual.value.strings.map(({ usual: pitch }) => pitchName(pitch)));

const number = (text: string) => (text.trim() === '' ? null : Number(text.replace(',', '.')));
const names = computed(() => typed.strings.split(/[\s,]+/).filter(Boolean));
// As many pulls as strings; a new string begins with what is typical for it.
watch(names, (now) => {
  if (typed.tensions.length === now.length) return;
  const made = makeSchema.safeParse({ ...draft.value, tensions: null });
  const fresh = made.success ? madeInstrument(like.value, made.data).strings.map(({ tension }) => tension) : [];
  typed.tensions = now.map((_, string) => typed.tensions[string] ?? String(fresh[string] ?? 50));
});
watch(like, () => {
  typed.strings = usualStrings.value.join(' ');
  typed.length = String(usual.value.length);
  typed.tensions = usual.value.strings.map(({ tension }) => String(tension));
});

/** What is typed, as far as it differs from the usual one. */
const draft = computed(() => {
  const strings = names.value.join() === usualStrings.value.join() ? null : names.value;
  const length = number(typed.length);
  const tensions = typed.tensions.map((text) => number(text) ?? Number.NaN);
  const typical = usual.value.strings.map(({ tension }) => tension);
  return {
    name: typed.name,
    strings,
    length: length === usual.value.length ? null : (length ?? Number.NaN),
    clef: typed.clef,
    reach: number(typed.reach),
    tensions: tensions.join() === typical.join() ? null : tensions,
    gauge: typed.gauge.trim() === '' ? null : typed.gauge,
  };
});
const checked = computed(() => makeSchema.safeParse(draft.value));
const wrong = (field: keyof InstrumentMake, at?: number) =>
  checked.value.error?.issues
    .filter(({ path }) => path[0] === field && (at === undefined || path[1] === at || path.length === 1))
    .map(({ message }) => message)
    .slice(0, 1) ?? [];

const same = computed(() => kept.of('instrument').find(({ name }) => name === typed.name.trim()));
async function use(): Promise<void> {
  if (!checked.value.success) return;
  open.value = false;
  const { name, ...differs } = checked.value.data;
  // The usual one under its usual name is no instrument of one's own.
  const isUsual = name === usual.value.name && Object.values(differs).every((value) => value === null);
  await desk.setInstrument(like.value, isUsual ? null : checked.value.data);
}
async function keep(): Promise<void> {
  if (!checked.value.success) return;
  const make = checked.value.data;
  if (await kept.keep('instrument', make.name, { like: like.value, make })) await use();
}
async function drop(): Promise<void> {
  if (same.value && (await kept.drop(same.value.id))) open.value = false;
}
const likes = INSTRUMENTS.map((value) => ({ value, title: INSTRUMENT[value].name }));
const clefs = computed(() => [
  { value: null, title: `as the ${usual.value.name.toLowerCase()}’s` },
  ...CLEF_NAMES.map((value) => ({ value, title: value })),
]);
</script>

<template>
  <v-dialog v-model="open" max-width="620" aria-labelledby="instrument-title">
    <v-card class="pa-5">
      <h2 id="instrument-title">An instrument of your own</h2>
      <div class="fields">
        <v-text-field v-model="typed.name" label="Name" maxlength="60" :error-messages="wrong('name')" />
        <v-select v-model="like" label="Played like a" :items="likes" />
        <v-text-field
          v-model="typed.strings"
          class="wide"
          label="Strings, low to high"
          placeholder="G3 D4 A4 E5"
          :error-messages="wrong('strings')"
        />
        <v-text-field
          v-model="typed.length"
          label="String length, nut to bridge"
          suffix="mm"
          inputmode="decimal"
          :error-messages="wrong('length')"
        />
        <v-select v-model="typed.clef" label="Clef" :items="clefs" />
        <v-text-field
          v-model="typed.reach"
          label="Keys or fingers reach up"
          placeholder="as far as the hand"
          suffix="semitones"
          inputmode="numeric"
          :error-messages="wrong('reach')"
        />
        <v-text-field
          v-model="typed.gauge"
          label="Strings used"
          placeholder="typical, medium gauge"
          maxlength="60"
          hint="Where the numbers below are from"
        />
        <fieldset class="wide">
          <legend>Pull of each string at its usual pitch, in newton</legend>
          <v-text-field
            v-for="(name, string) in names.slice(0, 6)"
            :key="string"
            v-model="typed.tensions[string]"
            :label="name"
            inputmode="decimal"
            :error-messages="wrong('tensions', string)"
          />
        </fieldset>
      </div>
      <p v-if="kept.problem" role="alert">{{ kept.problem }}</p>
      <div class="buttons">
        <v-btn v-if="same" :prepend-icon="mdiDeleteOutline" @click="drop">Remove {{ same.name }}</v-btn>
        <span />
        <v-btn @click="open = false">Cancel</v-btn>
        <v-btn variant="outlined" :disabled="!checked.success" @click="use">Use it here</v-btn>
        <v-btn variant="flat" color="primary" :disabled="!checked.success" @click="keep">Keep and use</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
h2 {
  margin: 0 0 14px;
  font-size: 1.2rem;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px 12px;
}
.wide {
  grid-column: 1 / -1;
}
fieldset {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(80px, 1fr));
  gap: 8px;
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  margin-bottom: 8px;
  color: var(--soft);
}
.buttons {
  display: flex;
  gap: 8px;
  margin-top: 16px;
}
.buttons span {
  flex: 1;
}
</style>

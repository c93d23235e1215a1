<script setup lang="ts">
/** Strokes planned for the phrase, its part or the tune: told, heard, and only then taken. */
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { mdiPlay } from '@mdi/js';
import type { PlannedStretch } from '@nokta/core/bow';
import { standingText, stretchTexts } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';
import { useBowActions } from './actions.ts';

const desk = useDesk();
const actions = useBowActions();
interface Scope {
  readonly name: string;
  readonly notes: readonly string[];
}
const scopes = computed<readonly Scope[]>(() => {
  const { form } = desk.arrangement!;
  const phrase = desk.selectedPhrase;
  const part = form.parts.find(({ phrases }) => phrases.some(({ id }) => id === phrase?.id));
  const notesOf = (phrases: readonly { readonly notes: readonly string[] }[]) => phrases.flatMap(({ notes }) => notes);
  return [
    ...(phrase ? [{ name: phrase.label, notes: phrase.notes }] : []),
    ...(part && form.parts.length > 1 ? [{ name: `part ${part.label}`, notes: notesOf(part.phrases) }] : []),
    { name: 'the tune', notes: notesOf(desk.phrases) },
  ];
});

const planned = shallowRef<{ readonly name: string; readonly plan: PlannedStretch } | null>(null);
const doing = ref<{ readonly name: string; readonly share: number } | null>(null);
let control: AbortController | null = null;

function giveUp(): void {
  control?.abort();
  control = null;
  doing.value = null;
}
onBeforeUnmount(giveUp);
// What was planned is about the strokes that were there.
watch(
  () => desk.arrangement?.bowing,
  () => {
    giveUp();
    planned.value = null;
  },
);

async function plan({ name, notes }: Scope): Promise<void> {
  giveUp();
  planned.value = null;
  const own = (control = new AbortController());
  doing.value = { name, share: 0 };
  const progress = (share: number) => own === control && (doing.value = { name, share });
  const found = await desk.askLong({ signal: own.signal, progress }, 'planBowFor', notes);
  if (own !== control) return;
  giveUp();
  if (found === STALE) return;
  planned.value = { name, plan: found };
  desk.spoken = found.change ? `Planned for ${name}: ${stretchTexts(found.differences).join(', ')}` : nothing.value;
}
/** What is said where planning changes nothing: what is off the bow there stays so. */
const nothing = computed(() => {
  const own = new Set(scopes.value.find(({ name }) => name === planned.value?.name)?.notes);
  return standingText(
    false,
    new Set((desk.travel?.flags ?? []).flatMap(({ note }) => (own.has(note) ? [note] : []))).size,
  );
});

async function hear(): Promise<void> {
  const change = planned.value?.plan.change;
  if (!change) return;
  const bowing = await desk.ask('bowUnder', change);
  if (bowing !== STALE) desk.hear({ bowing });
}
function take(): Promise<void> | undefined {
  const { name, plan: found } = planned.value ?? {};
  if (found?.change) return actions.decide(found.change, `take the bowing planned for ${name}`);
}
</script>

<template>
  <section class="bow-card" aria-labelledby="plan-title">
    <h3 id="plan-title">Plan the strokes</h3>
    <div class="row">
      <v-btn v-for="scope in scopes" :key="scope.name" size="small" variant="outlined" @click="plan(scope)"
        >For {{ scope.name }}</v-btn
      >
    </div>
    <div v-if="doing" class="doing">
      <v-progress-linear
        :model-value="100 * doing.share"
        :aria-label="`Planning the strokes for ${doing.name}`"
        color="primary"
      />
      <v-btn size="small" variant="text" @click="giveUp">Stop</v-btn>
    </div>
    <template v-else-if="planned">
      <template v-if="planned.plan.change">
        <p>For {{ planned.name }}, repeats counted: {{ stretchTexts(planned.plan.differences).join('; ') }}.</p>
        <div class="row">
          <v-btn size="small" variant="outlined" :prepend-icon="mdiPlay" @click="hear">Hear it</v-btn>
          <v-btn size="small" variant="flat" color="primary" @click="take">Take it</v-btn>
        </div>
      </template>
      <p v-else>{{ nothing }}</p>
    </template>
  </section>
</template>

<style scoped>
.bow-card p {
  margin: 8px 0;
}
.doing {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-top: 8px;
}
</style>

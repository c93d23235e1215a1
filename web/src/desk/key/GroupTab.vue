<script setup lang="ts">
/** One key for a mixed group: who plays what, the keys that serve all of them, and what each has to play there. */
import { dequal } from 'dequal';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { mdiClose, mdiPlus } from '@mdi/js';
import { octaveOf, type GroupKey } from '@nokta/core/compare';
import type { Player } from '@nokta/core/files';
import { GRADE_NUMBERS } from '@nokta/core/grade';
import { INSTRUMENTS, INSTRUMENT, type InstrumentId } from '@nokta/core/instrument';
import { keyName } from '@nokta/core/music';
import { keepsText, keyReasons, memberText, octaveText } from '@nokta/core/words';
import { useKept } from '../../kept/store.ts';
import { useLearners } from '../../learners/store.ts';
import { useLook } from '../../settings/look.ts';
import { forOtherNotes } from '../rooms/arranging.ts';
import { useDesk } from '../rooms/store.ts';
import { useAsked } from './asking.ts';
import { decisionsFor, instrumentWord, isSetSo, playerOf, playersIn } from './group.ts';

const desk = useDesk();
const look = useLook();
const kept = useKept();
const learners = useLearners();
onMounted(() => Promise.all([kept.load(), learners.need()]));

/** At first those whom the tune is set for already. */
const players = shallowRef<readonly Player[]>(playersIn(desk.records.map(({ decisions }) => decisions)));
const groups = computed(() => kept.of('group'));
const name = ref('');
const current = computed(() => groups.value.find((group) => group.name === name.value.trim()));
function choose(id: string): void {
  const group = groups.value.find((one) => one.id === id);
  if (!group) return;
  name.value = group.name;
  players.value = group.value.players;
}

const members = computed(() =>
  players.value.map((player) => ({ decisions: decisionsFor(desk.record!.decisions, player), grade: player.grade })),
);
const { found, done, working } = useAsked(
  (how) => (desk.arrangement && members.value.length > 0 ? desk.askLong(how, 'groupKeys', members.value) : null),
  // Another arrangement of the tune on the desk changes nothing here.
  () => JSON.stringify([members.value, desk.tune?.revision, desk.arrangement !== null]),
);

const instruments = computed(() => kept.instruments);
const change = (at: number, next: Partial<Player>) =>
  (players.value = players.value.map((player, index) => (index === at ? { ...player, ...next } : player)));
function instrumentFor(at: number, index: number): void {
  const { like, make } = instruments.value[index]!;
  change(at, { instrument: like, make });
}
function handFor(at: number, id: string): void {
  const learner = learners.find(id);
  const plays = learner?.value.plays.instrument;
  change(at, {
    hand: learner && { id, name: learner.value.person.name, ...learner.value.hand },
    ...(plays && { instrument: plays.like, make: plays.make }),
  });
}
const instrumentAt = ({ instrument, make }: Player) =>
  instruments.value.findIndex((one) => one.like === instrument && dequal(one.make, make));
const add = (instrument: InstrumentId) => (players.value = [...players.value, playerOf(instrument)]);
const remove = (at: number) => (players.value = players.value.filter((_, index) => index !== at));

const looked = ref<number | null>(null);
watch(found, () => (looked.value = null));
const chosen = computed<GroupKey | null>(
  () => found.value?.find(({ within }) => within === looked.value) ?? found.value?.[0] ?? null,
);
/** As they are called: by the name that was typed, or as the learner they are. */
const calledOf = ({ name: typed, hand }: Player): string => typed || (hand ? learners.nameOf(hand) : '');
const making = ref(false);
/** What was made last, in words. */
const said = ref('');
// What was said is about the group and the key that were there.
watch([players, chosen, () => desk.tune?.id], () => (said.value = ''));
/** An arrangement for each member, in this key: the tune, or a version for their grade. Whoever has it already keeps it. */
async function setForAll(): Promise<void> {
  if (!chosen.value) return;
  making.value = true;
  const wanted = chosen.value.places.map(({ choice, simpler }, at) => {
    const player = players.value[at]!;
    const { key, hand } = members.value[at]!.decisions;
    const grade = simpler && player.grade ? player.grade : ('tune' as const);
    const fresh = forOtherNotes(desk.record!.decisions);
    const version = { ...fresh.version, grade, name: player.name || null, kept: ['key'] };
    return { ...fresh, key: { ...key, transpose: choice.transpose }, hand, version };
  });
  const fresh = wanted.filter((one) => !desk.records.some(({ decisions }) => isSetSo(decisions, one)));
  for (const one of fresh) await desk.makeArrangement(one);
  making.value = false;
  said.value = `${fresh.length} made, ${wanted.length - fresh.length} there already: see the list beside the title.`;
}
</script>

<template>
  <div class="group">
    <section aria-label="Who plays">
      <div class="top">
        <select
          v-if="groups.length > 0"
          aria-label="A group that is kept"
          :value="current?.id ?? ''"
          @change="choose(($event.target as HTMLSelectElement).value)"
        >
          <option value="">Choose a group</option>
          <option v-for="group in groups" :key="group.id" :value="group.id">{{ group.name }}</option>
        </select>
        <v-btn
          v-for="id in INSTRUMENTS"
          :key="id"
          size="small"
          :prepend-icon="mdiPlus"
          :aria-label="`Add a ${id}`"
          @click="add(id)"
          >{{ INSTRUMENT[id].name }}</v-btn
        >
      </div>
      <p v-if="players.length === 0">Nobody plays yet. Add who is in the group.</p>
      <ul>
        <li v-for="(player, at) in players" :key="at">
          <input
            :value="player.name"
            :placeholder="calledOf(player) || 'Who'"
            maxlength="60"
            :aria-label="`Name of player ${at + 1}`"
            @change="change(at, { name: ($event.target as HTMLInputElement).value })"
          />
          <select
            :aria-label="`Instrument of player ${at + 1}`"
            :value="instrumentAt(player)"
            @change="instrumentFor(at, Number(($event.target as HTMLSelectElement).value))"
          >
            <option v-if="instrumentAt(player) < 0" :value="-1">{{ player.make?.name }}</option>
            <option v-for="(one, index) in instruments" :key="index" :value="index">{{ one.name }}</option>
          </select>
          <select
            :aria-label="`Grade of player ${at + 1}`"
            :value="player.grade ?? ''"
            @change="
              change(at, {
                grade:
                  GRADE_NUMBERS.find((grade) => String(grade) === ($event.target as HTMLSelectElement).value) ?? null,
              })
            "
          >
            <option value="">plays all</option>
            <option v-for="grade in GRADE_NUMBERS" :key="grade" :value="grade">grade {{ grade }}</option>
          </select>
          <select
            :aria-label="`Hand of player ${at + 1}`"
            :value="learners.find(player.hand?.id)?.id ?? ''"
            @change="handFor(at, ($event.target as HTMLSelectElement).value)"
          >
            <option value="">{{ player.hand && !player.hand.id ? player.hand.name : 'any hand' }}</option>
            <option v-for="{ id, value } in learners.all" :key="id" :value="id">{{ value.person.name }}</option>
          </select>
          <v-btn :icon="mdiClose" size="x-small" :aria-label="`Remove player ${at + 1}`" @click="remove(at)" />
        </li>
      </ul>
      <div class="top">
        <input v-model="name" placeholder="Keep the group as" maxlength="60" aria-label="Name of the group" />
        <v-btn
          size="small"
          variant="outlined"
          :disabled="!name.trim() || players.length === 0"
          @click="kept.keep('group', name.trim(), { players: [...players] })"
          >Keep</v-btn
        >
        <v-btn v-if="current" size="small" @click="kept.drop(current.id)">Remove</v-btn>
        <span v-if="kept.problem" role="alert">{{ kept.problem }}</span>
      </div>
    </section>
    <section aria-label="Keys for the group">
      <p v-if="working" role="status">Trying all keys for all… {{ Math.round(100 * done) }} %</p>
      <p v-else-if="found && found.length === 0">
        There is no key in which all of them can play every note. Give somebody a grade, so that a version can be made.
      </p>
      <div v-if="found && found.length > 0" class="keys" role="group" aria-label="Key for the group">
        <button
          v-for="key in found"
          :key="key.within"
          type="button"
          :aria-pressed="key === chosen"
          @click="looked = key.within"
        >
          <strong>{{ keyName(key.key) }}</strong>
          <small>{{ keepsText(key.places) }}</small>
        </button>
      </div>
      <template v-if="chosen && !working && chosen.places.length === players.length">
        <ul class="parts">
          <li v-for="(place, at) in chosen.places" :key="at">
            <strong>{{
              calledOf(players[at]!) || instrumentWord({ like: players[at]!.instrument, make: players[at]!.make })
            }}</strong>
            <span>{{ octaveText(octaveOf(place.choice.transpose)) }}; {{ memberText(place, players[at]!.grade) }}</span>
            <small>{{ keyReasons(place.choice, look.names).join(', ') }}</small>
          </li>
        </ul>
        <v-btn size="small" variant="flat" color="primary" :loading="making" @click="setForAll"
          >Set {{ keyName(chosen.key) }} for all</v-btn
        >
        <span class="said" role="status">{{ said }}</span>
      </template>
    </section>
  </div>
</template>

<style scoped src="./band.css" />
<style scoped src="./groupTab.css" />

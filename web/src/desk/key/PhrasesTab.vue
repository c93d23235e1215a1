<script setup lang="ts">
/**
 * Each phrase, and each part, an octave up or down: where it fits, and what that asks; the same the second time round;
 * and the phrase answered by its echo, on the other pair of strings where two pairs lie an octave apart.
 */
import { computed, ref } from 'vue';
import { echoVersion, isEcho, type PhrasePlace } from '@nokta/core/compare';
import { timesRound } from '@nokta/core/version';
import { effortBeside, noEchoText, noJoinText, octaveText } from '@nokta/core/words';
import type { PhraseMove } from '@nokta/core/instrument';
import { useLook } from '../../settings/look.ts';
import { useSlots } from '../rooms/slots.ts';
import { useDesk } from '../rooms/store.ts';
import { useAsked } from './asking.ts';
import { withMove } from './phrases.ts';

const desk = useDesk();
const look = useLook();
const setSlot = useSlots();
const { found, done, working } = useAsked((how) => desk.askLong(how, 'phrasePlaces'));
const moves = computed(() => desk.record!.decisions.key.phrases);
const moveOf = ({ first, last }: PhrasePlace): PhraseMove => moves.value[first] ?? { last, octaves: 0, echo: 0 };

const rows = computed(() =>
  (found.value ?? []).flatMap((place) => {
    const phrase = desk.phrases.find(({ id }) => id === place.id);
    if (!phrase) return [];
    const here = place.octaves.find(({ by }) => by === 0)!;
    return [
      {
        place,
        phrase,
        move: moveOf(place),
        twice: timesRound(desk.arrangement!.tune, phrase) > 1,
        octaves: place.octaves
          .filter(({ by }) => by !== 0)
          .map((octave) => ({
            ...octave,
            name: octave.by < 0 ? 'Down' : 'Up',
            text: octave.fits ? effortBeside(octave, here) || 'fits' : 'notes fall off',
          })),
        echoes: isEcho(place.echo) && !place.noEcho,
        why: whyNot(place),
      },
    ];
  }),
);
const allParts = computed(() => desk.arrangement?.form.parts ?? []);
const parts = computed(() => [...new Set(allParts.value.map(({ label }) => label))]);
/** Wherever a part of this letter stands. */
function ofPart(part: string) {
  const own = new Set(
    allParts.value.flatMap(({ label, phrases }) => (label === part ? phrases.map(({ id }) => id) : [])),
  );
  return rows.value.filter(({ phrase }) => own.has(phrase.id));
}

function move(some: readonly { place: PhrasePlace; move: PhraseMove }[], by: number, label: string): void {
  const phrases = some.reduce(
    (now, { place, move: own }) => withMove(now, place, { octaves: own.octaves + by }),
    moves.value,
  );
  void desk.decide({ key: { phrases } }, label);
}
const named = (by: number) => `an octave ${by > 0 ? 'up' : 'down'}`;

function echo({ place, move: own }: { place: PhrasePlace; move: PhraseMove }): void {
  const { decisions } = desk.record!;
  if (own.echo !== 0)
    return void desk.decide(
      { key: { phrases: withMove(moves.value, place, { echo: 0 }) } },
      `no echo of ${place.label}`,
    );
  const made = isEcho(place.echo)
    ? echoVersion({ instrument: desk.arrangement!.instrument, decisions }, [place])
    : { phrases: withMove(moves.value, place, { echo: fitting(place) }), locks: decisions.hand.locks };
  void desk.decide({ key: { phrases: made.phrases }, hand: { locks: made.locks } }, `an echo of ${place.label}`);
}
/** The octave in which an echo fits, the lower one if both do. */
const fitting = ({ octaves }: PhrasePlace): number => octaves.find(({ by, fits }) => by !== 0 && fits)?.by ?? 0;

/** Said once: it holds for every phrase. */
const noPairs = computed(() => (found.value ?? []).every(({ echo: one }) => !isEcho(one) && one.why === 'no-pairs'));
const echoing = computed(() => (found.value ?? []).filter(({ echo: one, noEcho }) => isEcho(one) && !noEcho));
function whyNot({ echo: one, noEcho }: PhrasePlace): string {
  if (noEcho) return noJoinText(noEcho);
  return isEcho(one) || noPairs.value ? '' : noEchoText(one, look.names);
}
const making = ref(false);
/** Call and answer throughout, as an arrangement of its own. */
async function makeEchoes(): Promise<void> {
  const { decisions } = desk.record!;
  const { phrases, locks } = echoVersion({ instrument: desk.arrangement!.instrument, decisions }, echoing.value);
  making.value = true;
  await desk.makeArrangement({ key: { phrases }, hand: { locks }, version: { name: 'Call and echo' } });
  making.value = false;
}

const again = (first: string) => desk.record!.decisions.version.slots[first]?.['2'] ?? null;
const REPEATS = [
  { value: null, title: 'as the first time' },
  { value: 'octave-down', title: 'an octave down' },
  { value: 'octave-up', title: 'an octave up' },
] as const;
</script>

<template>
  <p v-if="working || !found" role="status">Trying the octaves… {{ Math.round(100 * done) }} %</p>
  <template v-if="found">
    <div v-if="parts.length > 1" class="parts">
      <span v-for="part in parts" :key="part">
        All of {{ part }}
        <v-btn
          v-for="by in [-1, 1]"
          :key="by"
          size="small"
          variant="outlined"
          :aria-label="`All of part ${part} ${named(by)}`"
          @click="move(ofPart(part), by, `part ${part} ${named(by)}`)"
          >{{ by < 0 ? 'Down' : 'Up' }}</v-btn
        >
      </span>
    </div>
    <!-- Plain buttons: a long tune has hundreds of them. -->
    <div class="scroll">
      <table>
        <thead>
          <tr>
            <th scope="col">Phrase</th>
            <th scope="col">Octave</th>
            <th scope="col">Down or up</th>
            <th scope="col">The repeat</th>
            <th scope="col">Echo</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.place.id">
            <th scope="row">{{ row.place.label }}</th>
            <td>{{ octaveText(row.move.octaves) }}</td>
            <td>
              <span v-for="octave in row.octaves" :key="octave.by" class="octave">
                <button
                  type="button"
                  :aria-label="`${row.place.label} ${named(octave.by)}: ${octave.text}`"
                  @click="move([row], octave.by, `${row.place.label} ${named(octave.by)}`)"
                >
                  {{ octave.name }}
                </button>
                <small>{{ octave.text }}</small>
              </span>
            </td>
            <td>
              <select
                v-if="row.twice"
                :aria-label="`${row.place.label} the second time`"
                :value="again(row.phrase.notes[0] ?? '') ?? ''"
                @change="setSlot(row.phrase, 2, REPEATS[($event.target as HTMLSelectElement).selectedIndex]!.value)"
              >
                <option v-for="choice in REPEATS" :key="choice.title" :value="choice.value ?? ''">
                  {{ choice.title }}
                </option>
              </select>
            </td>
            <td>
              <button
                type="button"
                :aria-pressed="row.move.echo !== 0"
                :disabled="
                  row.move.echo === 0 && (row.place.noEcho !== null || (!row.echoes && fitting(row.place) === 0))
                "
                :aria-label="`Echo of ${row.place.label}`"
                @click="echo(row)"
              >
                Echo
              </button>
              <small>{{ row.echoes ? 'same fingers, other pair' : row.why }}</small>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="noPairs" class="all">
      In this tuning {{ noEchoText({ why: 'no-pairs' }) }}: echoes have fingers of their own.
    </p>
    <p v-if="echoing.length > 0" class="all">
      {{ echoing.length }} of {{ rows.length }} phrases echo on the other pair with the same fingers.
      <v-btn size="small" variant="flat" color="primary" :loading="making" @click="makeEchoes"
        >Make a call and echo version</v-btn
      >
    </p>
  </template>
</template>

<style scoped src="./band.css" />
<style scoped src="./phrasesTab.css" />

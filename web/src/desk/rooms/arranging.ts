/** The arrangements of the tune on the desk: another version or instrument is one of its own, made when first asked for. */
import { ref, type Ref, type ShallowRef } from 'vue';
import type { ArrangementRecord, TuneRecord } from '@nokta/api';
import { FIRST_DECISIONS, bestOctave, decided, type DecisionChange, type Decisions } from '@nokta/core/arrange';
import type { GradeId } from '@nokta/core/grade';
import { instrumentOf, type InstrumentId, type InstrumentMake } from '@nokta/core/instrument';
import { api, messageOf } from '../../api/client.ts';

export interface ArrangingState {
  readonly tune: ShallowRef<TuneRecord | null>;
  readonly records: ShallowRef<readonly ArrangementRecord[]>;
  readonly currentId: Ref<string | null>;
  readonly record: Readonly<Ref<ArrangementRecord | null>>;
  readonly problem: Ref<string | null>;
  /** Everything is saved. */
  settled(tuneId: string): Promise<unknown>;
  /** Another arrangement is on the desk now. */
  shown(): Promise<void>;
}

export function createArranging({ tune, records, currentId, record, problem, settled, shown }: ArrangingState) {
  /** What was on the desk before: where calling a version off leads back to. */
  const beforeId = ref<string | null>(null);

  /** One more arrangement of the tune, like this one but for what is changed. */
  async function makeArrangement(change: DecisionChange): Promise<void> {
    const now = record.value;
    if (!now || !tune.value) return;
    await settled(tune.value.id);
    try {
      const made = await api.arrange(tune.value.id, decided(now.decisions, change));
      // It may have been heard of already, before its own answer.
      records.value = [...records.value.filter(({ id }) => id !== made.id), made];
      await switchTo(made.id);
    } catch (error) {
      problem.value = messageOf(error);
    }
  }

  /** Another arrangement of the tune comes on the desk. */
  async function switchTo(id: string): Promise<void> {
    if (id === currentId.value) return;
    beforeId.value = currentId.value;
    currentId.value = id;
    await shown();
  }

  /** A version for a grade and an instrument: the one that there is, or a new one. */
  async function showVersion(grade: GradeId, instrument?: InstrumentId): Promise<void> {
    const now = record.value;
    const own = instrument ?? now?.decisions.key.instrument;
    if (!now || !tune.value || !own) return;
    const is = ({ decisions: { version, key } }: ArrangementRecord) =>
      version.grade === grade && key.instrument === own;
    if (is(now)) return;
    const known = records.value.find(is);
    if (known) return switchTo(known.id);
    await makeArrangement({
      ...(own !== now.decisions.key.instrument && setFor(own, tune.value, now.decisions)),
      ...(own === now.decisions.key.instrument ? { hand: { locks: {} } } : { hand: FIRST_DECISIONS.hand }),
      ...forOtherNotes(now.decisions),
      version: { ...FIRST_DECISIONS.version, grade },
    });
  }

  /** Back to what was on the desk before, while a version is still being made. */
  const callOff = (): Promise<void> => (beforeId.value ? switchTo(beforeId.value) : Promise.resolve());

  return { makeArrangement, switchTo, showVersion, callOff, canCallOff: () => beforeId.value !== null };
}

/** What was decided note by note is left behind where the notes are others; how the teacher bows and counts is not. */
export function forOtherNotes({ bow }: Pick<Decisions, 'bow'>): Pick<Decisions, 'version' | 'signs' | 'bow'> {
  const { school, counting, inches, downbeats } = bow;
  return {
    version: FIRST_DECISIONS.version,
    signs: FIRST_DECISIONS.signs,
    bow: { ...FIRST_DECISIONS.bow, school, counting, inches, downbeats },
  };
}

/**
 * The same key on another instrument, in the octave in which most of it lies well. Where the strings are the same, as on
 * another size, tuning and octave stay.
 */
export function setFor(
  instrument: InstrumentId,
  { tune }: TuneRecord,
  now: Decisions,
  make: InstrumentMake | null = null,
): Pick<Decisions, 'key'> {
  if (instrumentOf({ instrument, make }).id === instrumentOf(now.key).id)
    return { key: { ...now.key, instrument, make } };
  const key = { instrument, make, tuning: 'standard', transpose: ((now.key.transpose % 12) + 12) % 12 };
  const transpose = bestOctave(tune, decided(now, { key }));
  return { key: { ...now.key, ...key, transpose } };
}

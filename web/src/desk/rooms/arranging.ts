/** The arrangements of the tune on the desk: another version or instrument is one of its own, made when first asked for. */
import { dequal } from 'dequal';
import { computed, ref, type Ref, type ShallowRef } from 'vue';
import type { ArrangementRecord, TuneRecord } from '@nokta/api';
import { FIRST_DECISIONS, bestOctave, decided, type DecisionChange, type Decisions } from '@nokta/core/arrange';
import type { GradeId, LineRole } from '@nokta/core/grade';
import { instrumentOf, type InstrumentId, type InstrumentMake } from '@nokta/core/instrument';
import type { Bpm } from '@nokta/core/music';
import { arrangementNames } from '@nokta/core/words';
import { api, messageOf } from '../../api/client.ts';
import { useLearners } from '../../learners/store.ts';

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

  /** One more version for a grade, at a tempo of its own. */
  async function makeAtTempo(grade: GradeId, tempo: Bpm): Promise<void> {
    const now = record.value;
    if (!now || !tune.value) return;
    const change = versionChange(grade, now.decisions.key.instrument, tune.value, now.decisions);
    await makeArrangement({ ...change, pace: { tempo } });
  }

  /** A version for a grade and an instrument, or a line that goes with it: the one that there is, or a new one. */
  async function showVersion(grade: GradeId, instrument?: InstrumentId, line: LineRole | null = null): Promise<void> {
    const now = record.value;
    const own = instrument ?? now?.decisions.key.instrument;
    if (!now || !tune.value || !own) return;
    const known = versionIn(records.value, { ...wantedAs(grade, own, now.decisions), line });
    if (known) return switchTo(known.id);
    const change = versionChange(grade, own, tune.value, now.decisions);
    await makeArrangement({ ...change, version: { ...change.version, line } });
  }

  /** Whether there is such a version, and whether it is on the desk. */
  function versionState(grade: GradeId, instrument: InstrumentId): 'here' | 'made' | null {
    const now = record.value;
    const known = now && versionIn(records.value, wantedAs(grade, instrument, now.decisions));
    return known ? (known.id === now.id ? 'here' : 'made') : null;
  }

  /** Back to what was on the desk before, while a version is still being made. */
  const callOff = (): Promise<void> => (beforeId.value ? switchTo(beforeId.value) : Promise.resolve());

  const learners = useLearners();
  /** What the arrangements are called: never two the same. */
  const names = computed(() => {
    const key = tune.value?.tune.bars[0]?.key;
    if (!key) return [];
    const all = arrangementNames(
      records.value.map(({ decisions }) => decisions),
      key,
      learners.nameOf,
    );
    return records.value.map(({ id }, index) => ({ id, name: all[index]! }));
  });

  /** What files of the arrangement on the desk are called. */
  const fileTitle = computed(() => {
    const name = names.value.find(({ id }) => id === currentId.value)?.name;
    const title = tune.value?.title ?? 'sheet';
    return records.value.length > 1 && name ? `${title} - ${name}` : title;
  });

  return {
    names,
    fileTitle,
    makeArrangement,
    switchTo,
    makeAtTempo,
    showVersion,
    versionState,
    callOff,
    canCallOff: () => beforeId.value !== null,
  };
}

/** What makes of an arrangement a version for a grade: for whoever it is for, or, on another instrument, for nobody yet. */
function versionChange(
  grade: GradeId,
  instrument: InstrumentId,
  tune: TuneRecord,
  now: Decisions,
): DecisionChange & Pick<Decisions, 'version'> {
  const same = instrument === now.key.instrument;
  return {
    ...(same ? { hand: { locks: {} } } : { ...setFor(instrument, tune, now), hand: FIRST_DECISIONS.hand }),
    ...forOtherNotes(now),
    version: { ...FIRST_DECISIONS.version, grade },
  };
}

type Identity = ReturnType<typeof identityOf>;

/** What that version would be, without making anything of it: no octave has to be found to know it again. */
function wantedAs(grade: GradeId, instrument: InstrumentId, now: Decisions): Identity {
  const here = { ...identityOf(now), grade, line: null, name: null, contract: null };
  if (instrument === now.key.instrument) return here;
  return { ...here, instrument, make: null, tuning: 'standard', who: null, limits: FIRST_DECISIONS.hand.limits };
}

/** What makes a version this one and no other; how it is fingered and bowed does not. */
function identityOf({ version: { grade, line, name, contract }, key, hand: { learner, limits } }: Decisions) {
  const { instrument, make, tuning, transpose } = key;
  const who = learner && (learner.id ?? learner.name);
  return { grade, line, name, contract, instrument, make, tuning, key: ((transpose % 12) + 12) % 12, who, limits };
}

/** The version that was wanted, if there is one: size, tuning, hand, contract and name are part of what it is. */
function versionIn(records: readonly ArrangementRecord[], wanted: Identity): ArrangementRecord | null {
  return records.find(({ decisions }) => dequal(identityOf(decisions), wanted)) ?? null;
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

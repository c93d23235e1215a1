/** Help for tests: decisions and the hand's setup from a few words. Not part of any public index. */
import { FIRST_DECISIONS, decided, type Decisions } from '../arrange/index.ts';
import { HANDS, profileOf, teacherLimits, type HandLimits, type HandSetup, type HandWishes } from '../hand/index.ts';
import { INSTRUMENT, standardTuning, type InstrumentId } from '../instrument/index.ts';

/** Fields of all slices, side by side. */
export type Flat = Partial<Decisions['key'] & Decisions['version'] & Decisions['pace'] & Decisions['hand']> & {
  readonly bow?: Partial<Decisions['bow']>;
};

const only = <Value extends object>(value: Value): Partial<Value> =>
  Object.fromEntries(Object.entries(value).filter(([, one]) => one !== undefined)) as Partial<Value>;

/** First decisions with some of them changed. */
export function deciding(flat: Flat = {}): Decisions {
  const { instrument, tuning, transpose, grade, tempo, bow = {}, ...hand } = flat;
  return decided(FIRST_DECISIONS, {
    key: only({ instrument, tuning, transpose }),
    version: only({ grade }),
    pace: only({ tempo }),
    bow,
    hand,
  } as Parameters<typeof decided>[1]);
}

/** A setup in which the instrument is named. */
export type NamedSetup = Partial<Omit<HandSetup, 'instrument'>> & { readonly instrument?: InstrumentId };

export function setupFor({ instrument = 'violin', ...setup }: NamedSetup = {}): HandSetup {
  const value = INSTRUMENT[instrument];
  return { instrument: value, tuning: standardTuning(value), limits: {}, locks: {}, tempo: 100, ...setup };
}

/** What holds for an instrument's hand under these wishes and the teacher's limits. */
export const profileFor = (instrument: InstrumentId, wishes: HandWishes, limits: HandLimits) =>
  profileOf(HANDS[instrument], wishes, [teacherLimits(limits)]);

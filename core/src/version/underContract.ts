/** A tune under a contract: where its pitches can be stopped, what its bow may do, and what it breaks. */
import { type BowDecisions, bowTune, slurredInto } from '../bow/index.ts';
import { type Form, analyseForm } from '../form/index.ts';
import { type Breach, type Limits, type Places, breachesOf } from '../grade/index.ts';
import { HANDS, Hand, type HandDecisions, type HandLimits, framesFor } from '../hand/index.ts';
import { type Instrument, type Tuning, openMidi } from '../instrument/index.ts';
import { type Bpm, type Midi, type Semitones, type Tune } from '../music/index.ts';

export interface VersionContext {
  /** In the key that was chosen. */
  readonly tune: Tune;
  readonly instrument: Instrument;
  readonly tuning: Tuning;
  readonly tempo: Bpm;
  readonly hand: HandDecisions;
  readonly bow: BowDecisions;
}

/**
 * What a contract lets the solver of the left hand do.
 * @example handLimitsOf(contractFor('violin', 1).limits).noFourth // true
 */
export function handLimitsOf({ fingers, extension, doubleStops, maxPosition }: Limits): HandLimits {
  return {
    ...(fingers && !fingers.includes(4) && { noFourth: true }),
    ...(!extension && { noExtension: true }),
    ...(doubleStops === 'none' && { noDoubleStops: true }),
    ...(maxPosition && { maxPosition }),
  };
}

/**
 * The strings on which each pitch can be stopped under a contract.
 * @example placesFor(INSTRUMENT.violin, standardTuning(INSTRUMENT.violin), contractFor('violin', 1).limits).get(69) // [2]
 */
export function placesFor(instrument: Instrument, tuning: Tuning, limits: Limits): Places {
  const hand = HANDS[instrument.hand];
  const frames = framesFor(hand, handLimitsOf(limits)).filter(
    ({ position, shape }) =>
      (limits.halfPosition || position !== 'half') &&
      (limits.extension || (shape !== 'forward' && shape !== 'backward')) &&
      (limits.shifts !== 0 || position === 'I' || (limits.halfPosition && position === 'half')),
  );
  const byLetter = frames.some((frame) => frame.byLetter);
  const stops = new Set<Semitones>([0]);
  for (const { places } of frames) {
    for (const { finger, semitones, sign, onlySpelled } of places) {
      const low = sign === 'low' && [true, limits.low1, limits.low2, true, limits.low4][finger] === false;
      const high = sign === 'high' && finger === 3 && !limits.high3;
      const out = sign === 'extended' && !limits.extension;
      const asked = limits.fingers && !limits.fingers.includes(finger);
      if (!onlySpelled && !asked && !(byLetter && (low || high)) && !out) stops.add(semitones);
    }
  }
  const places = new Map<Midi, number[]>();
  if (limits.fingers && !limits.fingers.includes(0)) stops.delete(0);
  openMidi(tuning.pitches).forEach((open, string) => {
    for (const stop of stops) places.set(open + stop, [...(places.get(open + stop) ?? []), string]);
  });
  return places;
}

/** Neighbouring strings, as many as may be used; one entry with all where there is no limit. */
export function stringChoices(places: Places, strings: number, most: number | null): readonly Places[] {
  if (most === null || most >= strings) return [places];
  return Array.from({ length: strings - most + 1 }, (_, first) => {
    const own = [...places].flatMap(([pitch, all]): [Midi, readonly number[]][] => {
      const left = all.filter((string) => string >= first && string < first + most);
      return left.length > 0 ? [[pitch, left]] : [];
    });
    return new Map(own);
  });
}

type Strings = ReturnType<typeof stringChoices>;
const strings = new WeakMap<Limits, Map<string, Strings>>();

/**
 * The strings that may be chosen among under a contract, with what can be stopped on each.
 * @example stringsUnder({ instrument: INSTRUMENT.violin, tuning: standardTuning(INSTRUMENT.violin) }, contractFor('violin', 1).limits).length // 3
 */
export function stringsUnder(
  { instrument, tuning }: Pick<VersionContext, 'instrument' | 'tuning'>,
  limits: Limits,
): Strings {
  const key = JSON.stringify([instrument.id, instrument.reach, instrument.hand, tuning.pitches]);
  const own = strings.get(limits) ?? new Map<string, Strings>();
  strings.set(limits, own);
  const found =
    own.get(key) ?? stringChoices(placesFor(instrument, tuning, limits), instrument.strings.length, limits.strings);
  own.set(key, found);
  return found;
}

/**
 * What a contract lets the bow do.
 * @example bowUnder(bowSlice.first, contractFor('violin', 1).limits).maxSlur // 1
 */
export function bowUnder(bow: BowDecisions, { maxSlur, hooks, retakes }: Limits): BowDecisions {
  const most = Math.min(maxSlur ?? Infinity, bow.maxSlur ?? Infinity);
  const free = hooks && retakes;
  return {
    ...bow,
    maxSlur: most === Infinity ? null : most,
    ...(!free && { school: 'as-it-comes' as const, schools: {} }),
  };
}

/** Whose bow it is held against the contract with: the contract's, as a version is made; or the teacher's, as the tune is. */
export type BowHeld = 'under-contract' | 'as-decided';

/**
 * A tune as it is played by a hand under a contract, and what it breaks.
 * @param bow a version's strokes are made to keep the contract; a tune as it is shows what its own strokes break
 * @example weighVersion({ ...facts, hand: facts.decisions.hand, bow: facts.decisions.bow }, reel, form, contractFor('violin', 6).limits) // []
 */
export function weighVersion(
  context: VersionContext,
  tune: Tune,
  form: Form,
  limits: Limits,
  bow: BowHeld = 'under-contract',
): readonly Breach[] {
  const { instrument, tuning, tempo, hand: decided } = context;
  const bowing = bowTune(tune, form, bow === 'as-decided' ? context.bow : bowUnder(context.bow, limits), tempo);
  // The teacher's own limits are stronger than a grade's.
  const { fingering } = new Hand(tune, form, {
    ...decided,
    instrument,
    tuning,
    tempo,
    grade: { by: 'grade', name: null, limits: handLimitsOf(limits) },
    slurred: slurredInto(bowing),
  });
  return breachesOf({ tune, form, bowing, tempo, tuning, fingering }, limits);
}

const forms = new WeakMap<Tune, Form>();

export function formOf(tune: Tune): Form {
  const form = forms.get(tune) ?? analyseForm(tune);
  forms.set(tune, form);
  return form;
}

/** What retuning does to the load on strings and bridge. T ∝ f², so s semitones scale it by 2^(s/6). */
import { Note } from 'tonal';
import { midi, pitch, pitchName, type Pitch, type Semitones } from '../music/index.ts';
import type { Instrument, Newtons } from './instrument.ts';
import { standardTuning } from './tuning.ts';

/** Change of tension up to which a retuning is usual; beyond, how loudly to warn. Shares, not percent. */
export const TENSION_STEPS = { note: 0.06, caution: 0.13, advise: 0.27, slack: -0.25 } as const;

export type CautionLevel = 'none' | 'note' | 'caution' | 'advise' | 'slack';

export interface StringTension {
  readonly name: string;
  readonly from: string;
  readonly to: string;
  readonly semitones: Semitones;
  readonly beforeN: Newtons;
  readonly afterN: Newtons;
  /** Share of the tension before: 0.26 is 26 % more. */
  readonly change: number;
  /** How loudly to warn of this string. */
  readonly level: CautionLevel;
}

export interface TensionReport {
  readonly strings: readonly StringTension[];
  readonly total: { readonly beforeN: Newtons; readonly afterN: Newtons; readonly change: number };
  /** The loudest of its strings; the words for it are in `words`. */
  readonly level: CautionLevel;
  /** The same intervals between strings with nothing tuned up, where something is. */
  readonly lowerTuning: readonly string[] | null;
}

/** @example tensionReport(INSTRUMENT.violin, parseTuning(INSTRUMENT.violin, 'low-pair-up').pitches).total.change // 0.106 */
export function tensionReport(instrument: Instrument, pitches: readonly Pitch[]): TensionReport {
  const specs = instrument.strings;
  const strings = specs.map((spec, index): StringTension => {
    const to = pitches[index]!;
    const semitones = midi(to) - midi(spec.usual);
    const factor = 2 ** (semitones / 6);
    return {
      name: spec.name,
      from: pitchName(spec.usual),
      to: pitchName(to),
      semitones,
      beforeN: spec.tension,
      afterN: round(spec.tension * factor, 1),
      change: round(factor - 1, 3),
      level: cautionLevel(factor - 1),
    };
  });
  const beforeN = strings.reduce((sum, { beforeN: n }) => sum + n, 0);
  const afterN = specs.reduce((sum, spec, index) => sum + spec.tension * 2 ** (strings[index]!.semitones / 6), 0);
  const level = LOUDEST.find((one) => strings.some((string) => string.level === one)) ?? 'none';
  return {
    strings,
    total: { beforeN: round(beforeN, 1), afterN: round(afterN, 1), change: round(afterN / beforeN - 1, 3) },
    level,
    lowerTuning: lowerTuning(instrument, strings),
  };
}

/** From loud to soft. */
const LOUDEST: readonly CautionLevel[] = ['advise', 'caution', 'slack', 'note'];

function cautionLevel(change: number): CautionLevel {
  if (change > TENSION_STEPS.advise) return 'advise';
  if (change > TENSION_STEPS.caution) return 'caution';
  if (change < TENSION_STEPS.slack) return 'slack';
  return change > TENSION_STEPS.note ? 'note' : 'none';
}

/** Everything moved down by as much as the highest retuning goes up: same fingers, lower key, less load. */
function lowerTuning(instrument: Instrument, strings: readonly StringTension[]): readonly string[] | null {
  const up = Math.max(...strings.map(({ semitones }) => semitones));
  if (up <= 0) return null;
  return standardTuning(instrument).pitches.map((usual, index) =>
    Note.fromMidiSharps(midi(usual) + strings[index]!.semitones - up),
  );
}

function round(value: number, digits: number): number {
  return Math.round(value * 10 ** digits) / 10 ** digits;
}

/** How a string that is being tuned stands to an open one. */
export type TuningCheck = 'unison' | 'octave' | 'fifth' | 'fourth';
const CHECKS: readonly (readonly [Semitones, TuningCheck])[] = [
  [0, 'unison'],
  [12, 'octave'],
  [7, 'fifth'],
  [5, 'fourth'],
];

export interface RetuningStep {
  /** Whose peg it is. */
  readonly name: string;
  readonly semitones: Semitones;
  readonly to: string;
  /** Another open string to hear it against; null where none makes an interval that is easily heard. */
  readonly check: { readonly how: TuningCheck; readonly name: string } | null;
}

/**
 * The way to a tuning, string by string. What goes down comes first: it takes load off before anything is wound up.
 * @param back the way back to the usual tuning
 * @example retuningSteps([]) // []
 */
export function retuningSteps(strings: readonly StringTension[], back = false): readonly RetuningStep[] {
  const aims = strings.map(({ name, from, to, semitones }) => ({
    name,
    to: back ? from : to,
    semitones: back ? -semitones : semitones,
  }));
  return aims
    .filter(({ semitones }) => semitones !== 0)
    .sort((a, b) => a.semitones - b.semitones)
    .map((aim) => ({ ...aim, check: checkFor(aim, aims) }));
}

/** The most plainly heard interval; of strings that make it one that is not retuned itself. */
function checkFor(
  aim: Omit<RetuningStep, 'check'>,
  all: readonly Omit<RetuningStep, 'check'>[],
): RetuningStep['check'] {
  const at = (one: { readonly to: string }) => midi(pitch(one.to));
  for (const [size, how] of CHECKS) {
    const makes = all.filter((other) => other !== aim && Math.abs(at(other) - at(aim)) === size);
    const found = makes.find(({ semitones }) => semitones === 0) ?? makes[0];
    if (found) return { how, name: found.name };
  }
  return null;
}

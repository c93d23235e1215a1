/** What retuning does to the load on strings and bridge. T ∝ f², so s semitones scale it by 2^(s/6). */
import { midi, pitchName, type Pitch, type Semitones } from '../music/index.ts';
import { INSTRUMENT, type InstrumentId, type Newtons } from './instrument.ts';
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
}

export interface TensionReport {
  readonly strings: readonly StringTension[];
  readonly total: { readonly beforeN: Newtons; readonly afterN: Newtons; readonly change: number };
  readonly level: CautionLevel;
  /** Short advice for people; empty where none is due. */
  readonly caution: string;
  /** The same intervals between strings with nothing tuned up, where something is. */
  readonly lowerTuning: readonly string[] | null;
}

const ADVICE: Readonly<Record<CautionLevel, string>> = {
  none: '',
  note: 'Turn slowly, and see that the bridge stays upright.',
  caution:
    'This loads the string, bridge and top. Turn slowly, see that the bridge stays upright, and keep your eyes away from the string.',
  advise:
    'This is more than these strings are made for. Use another gauge, and ask a luthier first, all the more for an old instrument.',
  slack: 'A string this slack sounds rough and rattles. A thicker gauge will do better.',
};

/** @example tensionReport('violin', parseTuning('violin', 'low-pair-up').pitches).total.change // 0.106 */
export function tensionReport(instrument: InstrumentId, pitches: readonly Pitch[]): TensionReport {
  const specs = INSTRUMENT[instrument].strings;
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
    };
  });
  const beforeN = strings.reduce((sum, { beforeN: n }) => sum + n, 0);
  const afterN = specs.reduce((sum, spec, index) => sum + spec.tension * 2 ** (strings[index]!.semitones / 6), 0);
  const highest = Math.max(...strings.map(({ change }) => change));
  const lowest = Math.min(...strings.map(({ change }) => change));
  const level = cautionLevel(highest, lowest);
  return {
    strings,
    total: { beforeN: round(beforeN, 1), afterN: round(afterN, 1), change: round(afterN / beforeN - 1, 3) },
    level,
    caution: ADVICE[level],
    lowerTuning: lowerTuning(instrument, strings),
  };
}

function cautionLevel(highest: number, lowest: number): CautionLevel {
  if (highest > TENSION_STEPS.advise) return 'advise';
  if (highest > TENSION_STEPS.caution) return 'caution';
  if (lowest < TENSION_STEPS.slack) return 'slack';
  return highest > TENSION_STEPS.note ? 'note' : 'none';
}

/** Everything moved down by as much as the highest retuning goes up: same fingers, lower key, less load. */
function lowerTuning(instrument: InstrumentId, strings: readonly StringTension[]): readonly string[] | null {
  const up = Math.max(...strings.map(({ semitones }) => semitones));
  if (up <= 0) return null;
  return standardTuning(instrument).pitches.map((usual, index) =>
    midiName(midi(usual) + strings[index]!.semitones - up),
  );
}

const SHARP_NAMES = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B'] as const;
const midiName = (number: number) => `${SHARP_NAMES[number % 12]}${Math.floor(number / 12) - 1}`;

function round(value: number, digits: number): number {
  return Math.round(value * 10 ** digits) / 10 ** digits;
}

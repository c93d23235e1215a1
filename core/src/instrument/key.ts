/** The key stage: for which instrument, in which tuning, how much higher or lower. Section 3 of the domain. */
import { z } from 'zod';
import { transposeTune, type Semitones, type Tune } from '../music/index.ts';
import { present, slice } from '../stage/index.ts';
import { INSTRUMENT, INSTRUMENTS, type Instrument, type InstrumentId } from './instrument.ts';
import { tensionReport, type TensionReport } from './tension.ts';
import { parseTuning, standardTuning, type Tuning } from './tuning.ts';

export interface KeyDecisions {
  readonly instrument: InstrumentId;
  /** Preset id or low-to-high pitches. */
  readonly tuning: string;
  readonly transpose: Semitones;
}

/** Furthest that a tune is transposed: four octaves. */
export const MOST_TRANSPOSED: Semitones = 48;

export const keySlice = slice<KeyDecisions>({
  schema: z
    .strictObject({
      instrument: z.enum(INSTRUMENTS),
      tuning: z.string().min(1).max(60),
      transpose: z.number().int().min(-MOST_TRANSPOSED).max(MOST_TRANSPOSED),
    })
    .refine(({ instrument, tuning }) => !('error' in parseTuning(INSTRUMENT[instrument], tuning)), {
      message: 'This tuning does not fit the instrument. Choose one of its tunings.',
      path: ['tuning'],
    }),
  first: { instrument: 'violin', tuning: 'standard', transpose: 0 },
  older: ({ instrument, tuning, transpose }) => present({ instrument, tuning, transpose }),
});

export interface KeyFacts {
  readonly instrument: Instrument;
  readonly tuning: Tuning;
  readonly tension: TensionReport;
  /** The tune as it sounds in this key. */
  readonly inKey: Tune;
}

/** Another tuning gives the very same tune, so that what depends on the notes alone stands. */
const moved = new WeakMap<Tune, Map<Semitones, Tune>>();

function inKey(source: Tune, transpose: Semitones): Tune {
  const known = moved.get(source) ?? new Map<Semitones, Tune>();
  moved.set(source, known);
  const tune = known.get(transpose) ?? transposeTune(source, transpose);
  known.set(transpose, tune);
  return tune;
}

/** @example keyStage({ instrument: 'viola', tuning: 'standard', transpose: -7 }, reel).tuning.id // 'standard' */
export function keyStage(decided: KeyDecisions, source: Tune): KeyFacts {
  const instrument = INSTRUMENT[decided.instrument];
  const tuning = tuningOf(decided);
  return {
    instrument,
    tuning,
    tension: tensionReport(instrument, tuning.pitches),
    inKey: inKey(source, decided.transpose),
  };
}

/**
 * A tuning for another instrument does not fit this one; then the usual tuning serves.
 * @example tuningOf({ instrument: 'cello', tuning: 'low-pair-up' }).id // 'standard'
 */
export function tuningOf({ instrument, tuning }: Pick<KeyDecisions, 'instrument' | 'tuning'>): Tuning {
  const parsed = parseTuning(INSTRUMENT[instrument], tuning);
  return 'error' in parsed ? standardTuning(INSTRUMENT[instrument]) : parsed;
}

/** The key stage: for which instrument, in which tuning, how much higher or lower. Section 3 of the domain. */
import { z } from 'zod';
import { transposeTune, type Semitones, type Tune } from '../music/index.ts';
import { present, slice } from '../stage/index.ts';
import { INSTRUMENTS, type Instrument, type InstrumentId } from './instrument.ts';
import { madeInstrument, makeSchema, type InstrumentMake } from './make.ts';
import { tensionReport, type TensionReport } from './tension.ts';
import { parseTuning, standardTuning, type Tuning } from './tuning.ts';

export interface KeyDecisions {
  readonly instrument: InstrumentId;
  /** How it differs from the usual one: another size, other strings. */
  readonly make: InstrumentMake | null;
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
      make: makeSchema.nullable(),
      tuning: z.string().min(1).max(60),
      transpose: z.number().int().min(-MOST_TRANSPOSED).max(MOST_TRANSPOSED),
    })
    .refine((key) => !('error' in parseTuning(instrumentOf(key), key.tuning)), {
      message: 'This tuning does not fit the instrument. Choose one of its tunings.',
      path: ['tuning'],
    }),
  first: { instrument: 'violin', make: null, tuning: 'standard', transpose: 0 },
  older: ({ instrument, tuning, transpose }) => present({ instrument, make: null, tuning, transpose }),
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
  const instrument = instrumentOf(decided);
  const tuning = tuningOf(decided);
  return {
    instrument,
    tuning,
    tension: tensionReport(instrument, tuning.pitches),
    inKey: inKey(source, decided.transpose),
  };
}

/** Made once, so that what depends on the instrument stands while it is the same. */
const made = new WeakMap<InstrumentMake, Map<InstrumentId, Instrument>>();

/**
 * The instrument that is decided, in its make.
 * @example instrumentOf({ instrument: 'violin', make: null }).name // 'Violin'
 */
export function instrumentOf({ instrument, make }: Pick<KeyDecisions, 'instrument' | 'make'>): Instrument {
  if (!make) return madeInstrument(instrument, null);
  const known = made.get(make) ?? new Map<InstrumentId, Instrument>();
  made.set(make, known);
  const own = known.get(instrument) ?? madeInstrument(instrument, make);
  known.set(instrument, own);
  return own;
}

/**
 * A tuning for another instrument does not fit this one; then the usual tuning serves.
 * @example tuningOf({ instrument: 'cello', make: null, tuning: 'low-pair-up' }).id // 'standard'
 */
export function tuningOf(key: Pick<KeyDecisions, 'instrument' | 'make' | 'tuning'>): Tuning {
  const instrument = instrumentOf(key);
  const parsed = parseTuning(instrument, key.tuning);
  return 'error' in parsed ? standardTuning(instrument) : parsed;
}

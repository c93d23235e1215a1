/** The key stage: for which instrument, in which tuning, how much higher or lower. Section 3 of the domain. */
import { z } from 'zod';
import { octaveAway, stretchOf, transposeTune, withEcho, type Semitones, type Tune } from '../music/index.ts';
import { present, slice, whole } from '../stage/index.ts';
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
  /** Phrases that are played an octave away, or with an echo, by their first note or rest. */
  readonly phrases: Readonly<Record<string, PhraseMove>>;
}

/** What becomes of a phrase, whatever it is called now. */
export interface PhraseMove {
  /** Its last note or rest. */
  readonly last: string;
  /** Octaves up, down if negative. */
  readonly octaves: number;
  /** It is played once more at once, so many octaves away; 0 is not. */
  readonly echo: number;
}

const eventId = z.string().min(1).max(64);
const away = z.number().int().min(-3).max(3);

/** Furthest that a tune is transposed: four octaves. */
export const MOST_TRANSPOSED: Semitones = 48;

export const keySlice = slice<KeyDecisions>({
  schema: whole(
    z.strictObject({
      instrument: z.enum(INSTRUMENTS),
      make: makeSchema.nullable(),
      tuning: z.string().min(1).max(60),
      transpose: z.number().int().min(-MOST_TRANSPOSED).max(MOST_TRANSPOSED),
      phrases: z.record(eventId, z.strictObject({ last: eventId, octaves: away, echo: away })),
    }),
    (key) =>
      'error' in parseTuning(instrumentOf(key), key.tuning)
        ? { message: 'This tuning does not fit the instrument. Choose one of its tunings.', path: ['tuning'] }
        : null,
  ),
  first: { instrument: 'violin', make: null, tuning: 'standard', transpose: 0, phrases: {} },
  older: ({ instrument, tuning, transpose }) => present({ instrument, make: null, tuning, transpose, phrases: {} }),
});

export interface KeyFacts {
  readonly instrument: Instrument;
  readonly tuning: Tuning;
  readonly tension: TensionReport;
  /** The tune as it sounds in this key. */
  readonly inKey: Tune;
}

/** Another tuning gives the very same tune, so that what depends on the notes alone stands. */
const moved = new WeakMap<Tune, Map<string, Tune>>();

/**
 * The tune as it sounds in the key that is decided: moved, its phrases in their octaves, echoes after them.
 * @example tuneInKey(reel, FIRST_DECISIONS.key) === reel // true
 */
export function tuneInKey(source: Tune, { transpose, phrases }: Pick<KeyDecisions, 'transpose' | 'phrases'>): Tune {
  const asked = JSON.stringify([transpose, phrases]);
  const known = moved.get(source) ?? new Map<string, Tune>();
  moved.set(source, known);
  const tune = known.get(asked) ?? withMoves(transposeTune(source, transpose), phrases);
  known.set(asked, tune);
  return tune;
}

/** A move whose phrase is gone rests, and so does an echo that does not fit there. */
function withMoves(tune: Tune, phrases: KeyDecisions['phrases']): Tune {
  const moves = Object.entries(phrases).map(([first, move]) => ({ first, ...move }));
  const octaves = moves.reduce((now, { octaves: by, ...ends }) => {
    const stretch = by === 0 ? null : stretchOf(now, ends);
    return stretch ? octaveAway(now, stretch, by) : now;
  }, tune);
  return moves.reduce((now, { echo, ...ends }) => {
    const stretch = echo === 0 ? null : stretchOf(now, ends);
    const made = stretch && withEcho(now, stretch, echo);
    return made?.ok ? made.tune : now;
  }, octaves);
}

/** @example keyStage({ ...FIRST_DECISIONS.key, instrument: 'viola' }, reel).tuning.id // 'standard' */
export function keyStage(decided: KeyDecisions, source: Tune): KeyFacts {
  const instrument = instrumentOf(decided);
  const tuning = tuningOf(decided);
  return {
    instrument,
    tuning,
    tension: tensionReport(instrument, tuning.pitches),
    inKey: tuneInKey(source, decided),
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

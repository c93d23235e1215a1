/**
 * Tunings side by side: how the tune in its key lies in each, by the real fingering. Beside the known tunings and the
 * teacher's own stand those that give the key its drones: strings a tone away at most become home note or fifth.
 */
import {
  askedTuning,
  instrumentOf,
  isRetuned,
  parseTuning,
  tensionReport,
  tuningsFor,
  type CautionLevel,
  type Instrument,
  type Tuning,
} from '../instrument/index.ts';
import {
  midi,
  pitchName,
  transposeKey,
  transposePitch,
  type Key,
  type Pitch,
  type Semitones,
  type Tune,
} from '../music/index.ts';
import { decided, type Decisions } from '../arrange/index.ts';
import { keyChoice, type KeyChoice } from './keys.ts';

/** How the tune lies in a tuning. */
export interface TuningChoice {
  readonly tuning: Tuning;
  readonly choice: KeyChoice;
  /** Strings that are tuned otherwise than usual. */
  readonly retuned: number;
  /** How loudly to warn of the load. */
  readonly level: CautionLevel;
}

/** A string is brought to a drone where it is no further away: a tone, the step of the usual retunings. */
const NEAR: Semitones = 2;

/**
 * Each tuning once, the one that lies best first: those in which every note can be played, then by the effort, and where
 * two ask about the same, by what rings. Each step gives the share that is done.
 * @param own tunings that the teacher keeps
 * @example finished(tuningChoices(reel, FIRST_DECISIONS)).map(({ tuning }) => tuning.id).includes('standard') // true
 */
export function* tuningChoices(
  source: Tune,
  decisions: Decisions,
  own: readonly Pick<Tuning, 'name' | 'id'>[] = [],
): Generator<number, readonly TuningChoice[]> {
  const instrument = instrumentOf(decisions.key);
  const { key } = transposeKey(source.bars[0]!.key, decisions.key.transpose);
  const now = parseTuning(instrument, decisions.key.tuning);
  const kept = own.flatMap(({ id, name }) => {
    const tuning = askedTuning(instrument, id);
    return 'error' in tuning ? [] : [{ ...tuning, name }];
  });
  const all = [...tuningsFor(instrument), ...kept, ...('error' in now ? [] : [now]), ...droneTunings(instrument, key)];
  const tunings = all.filter((tuning, index) => all.findIndex((other) => alike(other, tuning)) === index);
  const choices: TuningChoice[] = [];
  for (const tuning of tunings) {
    const { strings, level } = tensionReport(instrument, tuning.pitches);
    choices.push({
      tuning,
      choice: keyChoice(source, decided(decisions, { key: { tuning: tuning.id } })),
      retuned: isRetuned(instrument, tuning) ? strings.filter(({ semitones }) => semitones !== 0).length : 0,
      level,
    });
    yield choices.length / tunings.length;
  }
  return choices.sort(
    (a, b) =>
      Number(b.choice.fits) - Number(a.choice.fits) ||
      a.choice.outOfRange.length - b.choice.outOfRange.length ||
      step(a) - step(b) ||
      b.choice.ringing - a.choice.ringing ||
      a.retuned - b.retuned,
  );
}

/** Efforts that differ by less than a twentieth are about the same. */
const step = ({ choice: { effort } }: TuningChoice) => Math.round(Math.log(Math.max(1, effort)) / Math.log(1.05));

const alike = (a: Tuning, b: Tuning) => a.pitches.map(midi).join() === b.pitches.map(midi).join();

/** Strings moved, some or all that can be, to the nearest home note or fifth; down rather than up. */
function droneTunings(instrument: Instrument, key: Key): readonly Tuning[] {
  const octaves = Array.from({ length: 9 }, (_, octave) => ({ ...key.tonic, octave }));
  const drones = octaves.flatMap((home) => [home, transposePitch(home, 4, 7)]);
  const ways = instrument.strings.map(({ usual }) => {
    const away = (drone: Pitch) => midi(drone) - midi(usual);
    const [nearest] = drones
      .filter((drone) => Math.abs(away(drone)) <= NEAR)
      .sort((a, b) => Math.abs(away(a)) - Math.abs(away(b)) || away(a) - away(b));
    return nearest && away(nearest) !== 0 ? [usual, nearest] : [usual];
  });
  const combined = ways.reduce<readonly (readonly Pitch[])[]>(
    (found, own) => found.flatMap((before) => own.map((pitch) => [...before, pitch])),
    [[]],
  );
  // The first is the usual one.
  return combined.slice(1).flatMap((pitches) => {
    const tuning = askedTuning(instrument, pitches.map(pitchName).join(','));
    return 'error' in tuning ? [] : [{ ...tuning, name: 'Home note and fifth' }];
  });
}

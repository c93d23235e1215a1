/** The arrangement that the options mean: the same for every command that fingers, tells, prints or writes one. */
import { arrange, decided, openingOctave, type Arrangement, type Decisions } from '@nokta/core/arrange';
import { takeBrought } from '@nokta/core/hand';
import type { Tune } from '@nokta/core/music';
import { readTune, type Read } from './input.ts';
import { UsageError, type CliOptions, type Player } from './options.ts';

export interface Asked extends Read {
  readonly arrangement: Arrangement;
}

/**
 * Reads the tune and arranges it: in the octave in which it opens on the instrument, or as a Nokta file decided it; with the fingers
 * that the file brings, where they are wished and can be played.
 * @throws UsageError where the file decides nothing for the instrument
 */
export async function askedFor(options: CliOptions): Promise<Asked> {
  const read = await readTune(options);
  const { tune, arrangements } = read;
  const { instrument } = read.decisions.key;
  const stored = options.asDecided ? arrangements.find(({ key }) => key.instrument === instrument) : read.decisions;
  if (!stored) throw new UsageError(`The file decides nothing for the ${instrument}.`);
  // What is asked for is asked for, whatever else is as it was decided.
  const own = decided(stored, {
    ...(options.grade !== null && { version: options.decisions.version }),
    ...(options.counting !== null && { bow: { counting: options.counting } }),
  });
  const first = arrange(tune, own);
  const kept = options.keepFingers ? takeBrought(first.hand) : null;
  if (kept && kept.left > 0)
    console.error(`${options.file}: ${kept.left} of the file’s fingers cannot be played so on the ${instrument}.`);
  const arrangement = kept ? arrange(tune, decided(first.decisions, { hand: { locks: kept.locks } })) : first;
  return { ...read, decisions: arrangement.decisions, arrangement };
}

/** The same for one of a group: on their instrument, for their grade. */
export function decisionsFor(options: CliOptions, { instrument, grade }: Player, tune: Tune): Decisions {
  const { decisions, transposed } = options;
  const own = decided(decisions, {
    key: { instrument, tuning: instrument === decisions.key.instrument ? decisions.key.tuning : 'standard' },
    version: { grade: grade ?? 'tune', ...(grade === null && { line: null }) },
  });
  return transposed ? own : decided(own, { key: { transpose: openingOctave(tune, own) } });
}

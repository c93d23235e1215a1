/** What is said while the tune plays, in time with its notes: short, and never more than a mouth can say. */
import type { Arrangement } from '../arrange/index.ts';
import type { FingeredNote } from '../hand/index.ts';
import { stringNames } from '../instrument/index.ts';
import { barStarts, metricWeight, seconds, type Bpm, type Seconds } from '../music/index.ts';
import type { Names } from '../paper/index.ts';
import { fingerText, noteName } from '../words/index.ts';
import type { Voice } from './text.ts';

export interface CueOptions {
  readonly voice: Voice;
  readonly names: Names;
  /** At which it is heard. */
  readonly quarterBpm: Bpm;
}

/** A word takes so long; both a name and a finger take twice that. */
const WORD: Seconds = 0.38;

/**
 * By the note: what to say as it sounds. Where notes are quicker than words, those on the stronger beats are told; the
 * string is named where it changes.
 * @example spokenCues(arrangement, { voice: 'fingers', names: { notes: 'english', fingers: 'sign-first', places: 'bars' }, quarterBpm: 60 }).get(fingering.notes[0].id) // 'D, 3'
 */
export function spokenCues(
  { fingering, tune, instrument }: Pick<Arrangement, 'fingering' | 'tune' | 'instrument'>,
  { voice, names, quarterBpm }: CueOptions,
): ReadonlyMap<string, string> {
  const starts = barStarts(tune.bars);
  const strings = stringNames(instrument);
  const notes = fingering.notes.filter(({ grace, stops }) => !grace && stops.length > 0);
  const weight = ({ onset, barIndex }: FingeredNote): number => {
    const bar = tune.bars[barIndex]!;
    return metricWeight(bar.offset + onset - starts[barIndex]!, bar.metre);
  };
  const apart = voice === 'both' ? 2 * WORD : WORD;
  const cues = new Map<string, string>();
  let free = -Infinity;
  let string: number | null = null;
  notes.forEach((note, index) => {
    const at = seconds(note.onset, quarterBpm);
    if (at < free) return;
    // A stronger note that comes too soon after this one is rather told than this one.
    const rival = notes
      .slice(index + 1)
      .find((other) => seconds(other.onset, quarterBpm) < at + apart && weight(other) > weight(note));
    if (rival) return;
    const own = note.stops[0]!.string;
    cues.set(note.id, said(note, own === string ? null : strings[own]!, { voice, names }));
    string = own;
    free = at + apart;
  });
  return cues;
}

function said(
  { pitches, stops }: FingeredNote,
  string: string | null,
  { voice, names }: Pick<CueOptions, 'voice' | 'names'>,
): string {
  const name = pitches.map((pitch) => noteName(pitch, names.notes)).join(' ');
  if (voice === 'names') return name;
  const fingers = stops.map((stop) => (stop.finger === 0 ? 'open' : fingerText(stop, names))).join(' and ');
  const where = string === null ? fingers : `${string}, ${fingers}`;
  return voice === 'both' ? `${name}, ${fingers}` : where;
}

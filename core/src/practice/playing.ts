/** What is played when Play is pressed: the tune, a part, a phrase or chosen notes; and what drones along. */
import type { Part, Phrase } from '../form/index.ts';
import { barStarts, midi, pitch, placedNotes, type Key, type Midi } from '../music/index.ts';
import { partScore, spanScore, tuneScore, type Repeats, type Score, type Sounding } from './score.ts';

/** What there is to play. */
export interface Choice {
  readonly part: Part | null;
  readonly phrase: Phrase | null;
  /** Ids of the chosen notes, ties included; empty where none are chosen. */
  readonly chosen: readonly string[];
  /** Where the tune begins, if not at its start. */
  readonly from: string | null;
  readonly repeats: Repeats;
}

export const SCOPES = ['tune', 'part', 'phrase', 'selection'] as const;
export type Scope = (typeof SCOPES)[number];

/**
 * A loop of the tune is meant for the phrase: nobody practises a whole tune round and round.
 * @example scopeInLoop('tune', true) // 'phrase'
 */
export const scopeInLoop = (scope: Scope, looping: boolean): Scope => (looping && scope === 'tune' ? 'phrase' : scope);

/**
 * The score of what is asked for, or of the tune where there is no such thing.
 * @returns null where nothing sounds
 * @example playScore(facts, 'phrase', { part: null, phrase, chosen: [], from: null, repeats: 'once' }).length // 8
 */
export function playScore(arrangement: Sounding, scope: Scope, choice: Choice): Score | null {
  const score = scoreFor(arrangement, scope, choice);
  return score.notes.length > 0 ? score : null;
}

function scoreFor(arrangement: Sounding, scope: Scope, { part, phrase, chosen, from, repeats }: Choice): Score {
  if (scope === 'part' && part) return partScore(arrangement, part, repeats);
  if (scope === 'phrase' && phrase) return spanScore(arrangement, phrase.from, phrase.to);
  if (scope === 'selection') {
    const ids = new Set(chosen);
    const notes = placedNotes(arrangement.tune).filter(({ note }) => ids.has(note.id));
    const last = notes.at(-1);
    if (last) {
      const end = barStarts(arrangement.tune.bars)[last.barIndex]! + last.note.at + last.note.duration;
      return spanScore(arrangement, notes[0]!.onset, end);
    }
  }
  return tuneScore(arrangement, from, repeats);
}

export const DRONE_IDS = ['none', 'tonic', 'fifth', 'note'] as const;
export type DroneId = (typeof DRONE_IDS)[number];

/** The drone lies here or just above: the octave of the violin's and viola's G string. */
const DRONE_FROM: Midi = 48;

/**
 * The notes that sound on.
 * @param note name of the note where it is neither home note nor fifth
 * @example droneFor({ tonic: { letter: 'D', alter: 0 } }, 'fifth', 'A3') // [50, 57]
 */
export function droneFor({ tonic }: Pick<Key, 'tonic'>, kind: DroneId, note: string): readonly Midi[] {
  if (kind === 'none') return [];
  if (kind === 'note') return [midi(pitch(note))];
  const home = midi({ ...tonic, octave: 3 });
  const low = home < DRONE_FROM ? home + 12 : home;
  return kind === 'fifth' ? [low, low + 7] : [low];
}

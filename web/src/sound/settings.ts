/** What sounds beside a tune, as the player's menu offers it. */
import type { CountIn, DroneId, Repeats } from '@nokta/core/practice';
import type { Voice } from '@nokta/core/talk';

export const DRONES = [
  { value: 'none', title: 'No drone' },
  { value: 'tonic', title: 'Home note' },
  { value: 'fifth', title: 'Home note and fifth' },
  { value: 'note', title: 'Another note' },
] as const satisfies readonly { readonly value: DroneId; readonly title: string }[];

export interface SoundSettings {
  repeats: Repeats;
  countIn: CountIn;
  chords: boolean;
  metronome: boolean;
  /** Beats are counted aloud. */
  aloud: boolean;
  /** Fingers or names are said with the notes. */
  cues: Voice | 'none';
  drone: DroneId;
  /** Name of the note that drones where it is neither home note nor fifth: "A3". */
  droneNote: string;
}

export const FIRST_SOUND: SoundSettings = {
  repeats: 'written',
  countIn: 'none',
  chords: true,
  metronome: false,
  aloud: false,
  cues: 'none',
  drone: 'none',
  droneNote: 'A3',
};

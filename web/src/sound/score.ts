/** What the player plays: sounds in time, from the arrangement. */
import type { Arrangement } from '@nokta/core/arrange';
import type { Phrase } from '@nokta/core/form';
import { barStarts, midi, playedOrder, soundingNotes, TICKS_PER_QUARTER, type Midi } from '@nokta/core/music';

/** Times in quarters from the start of what is played. */
export interface ScoreNote {
  readonly id: string;
  readonly at: number;
  readonly duration: number;
  readonly pitches: readonly Midi[];
}

export interface Score {
  readonly notes: readonly ScoreNote[];
  /** In quarters. */
  readonly length: number;
}

const quarters = (ticks: number) => ticks / TICKS_PER_QUARTER;

/** One phrase as written, for looping. */
export function phraseScore({ tune }: Arrangement, phrase: Phrase): Score {
  const notes = soundingNotes(tune)
    .filter(({ onset }) => onset >= phrase.from && onset < phrase.to)
    .map(({ note, onset, duration }) => ({
      id: note.id,
      at: quarters(onset - phrase.from),
      duration: quarters(duration),
      pitches: note.heads.map(({ pitch }) => midi(pitch)),
    }));
  return { notes, length: quarters(phrase.to - phrase.from) };
}

/** The tune in played order, from the bar that holds a note on. */
export function tuneScore({ tune }: Arrangement, fromNote: string | null): Score {
  const starts = barStarts(tune.bars);
  const sounds = soundingNotes(tune);
  const firstBar = Math.max(
    0,
    tune.bars.findIndex((bar) => bar.events.some(({ id }) => id === fromNote)),
  );
  const order = playedOrder(tune.bars);
  const from = Math.max(
    0,
    order.findIndex(({ index }) => index === firstBar),
  );
  const notes: ScoreNote[] = [];
  let at = 0;
  for (const { index } of order.slice(from)) {
    for (const { note, onset, duration, barIndex } of sounds) {
      if (barIndex !== index) continue;
      notes.push({
        id: note.id,
        at: quarters(at + onset - starts[index]!),
        duration: quarters(duration),
        pitches: note.heads.map(({ pitch }) => midi(pitch)),
      });
    }
    at += tune.bars[index]!.length;
  }
  return { notes, length: quarters(at) };
}

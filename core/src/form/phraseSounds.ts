/** What a phrase is compared by: its sounds with their places in its bars, which are counted by their bar lines. */
import { barLength, beatLength, isPickup, type Ticks } from '../music/index.ts';
import type { Timed } from './align.ts';
import { barAt, downbeatOf, leadsBackFrom, soundFrom, type Reading, type Sound } from './reading.ts';
import { barContoursOf, barTextsOf, rhythmOf, type PhraseSounds } from './relate.ts';
import type { Span } from './model.ts';

/** @param next the phrase after it; null for the last one */
export function phraseSounds(reading: Reading, phrase: Span, next: Span | null): PhraseSounds {
  const { bars, starts } = reading;
  const downbeat = downbeatOf(reading, phrase.from, phrase.to);
  const lines = linesOf(reading, downbeat, next ? downbeatOf(reading, next.from, next.to) : starts.at(-1)!, phrase.to);
  const { metre } = bars[lines[0]!]!;
  // Phrases are compared as they are played the first time.
  const later = laterEnding(reading, phrase);
  // In an ending, what leads back to the part's beginning is that one's.
  const all = soundsBetween(reading, phrase.from, later ?? phrase.to).filter(
    ({ barIndex, onset }) => reading.endings[barIndex] === null || onset < leadsBackFrom(reading, barIndex),
  );
  let line = -1;
  const timed = all.map((sound, index): Timed => {
    while (line + 1 < lines.length && starts[lines[line + 1]!]! <= sound.onset) line += 1;
    const length = barLength(bars[lines[Math.max(0, line)]!]!.metre);
    const place = line < 0 ? sound.onset - downbeat : sound.place;
    return {
      at: sound.onset - downbeat,
      bar: line,
      place,
      spot: Math.max(0, line) + place / length,
      sound,
      last: index === all.length - 1,
    };
  });
  const body = timed.filter(({ bar }) => bar >= 0);
  return {
    pickup: timed.filter(({ bar }) => bar < 0),
    body,
    barTexts: barTextsOf(body, lines.length),
    barContours: barContoursOf(body, lines.length),
    rhythm: rhythmOf(body),
    beat: beatLength(metre),
    beatShare: beatLength(metre) / barLength(metre),
    bars: lines.length,
    otherBars: lines.flatMap((line, index) => {
      const own = bars[line]!.metre;
      return barLength(own) === barLength(metre) ? [] : [{ bar: index + 1, beats: barLength(own) / beatLength(own) }];
    }),
  };
}

/** Indexes of the bars of a phrase: no pickup, no second half of a bar, no later ending. At least one. */
function linesOf(reading: Reading, downbeat: Ticks, end: Ticks, to: Ticks): readonly number[] {
  const { bars, starts, numbers } = reading;
  const first = barAt(reading, downbeat);
  const lines = [first];
  let later = false;
  for (let index = first + 1; index < bars.length && starts[index]! < Math.max(end, to); index += 1) {
    const { endings } = bars[index]!;
    if (endings) later = !endings.includes(1);
    if (starts[index]! >= end || later || isPickup(bars, index) || numbers[index] === numbers[index - 1]) continue;
    lines.push(index);
  }
  return lines;
}

/** Where the first later ending inside a phrase begins; null where there is none. */
function laterEnding({ bars, starts }: Reading, { from, to }: Span): Ticks | null {
  for (let index = barAt({ starts }, from) + 1; index < bars.length && starts[index]! < to; index += 1) {
    const { endings } = bars[index]!;
    if (endings && !endings.includes(1)) return starts[index]!;
  }
  return null;
}

export const soundsBetween = (reading: Reading, from: Ticks, to: Ticks): readonly Sound[] =>
  reading.sounds.slice(soundFrom(reading, from), soundFrom(reading, to));

/**
 * Room for what stands on the lanes. The engraver knows how wide words under a staff are and moves the notes apart for
 * them: so each lane whose signs are wide is engraved as a verse of so many thin letters, and the verses are taken out
 * of the picture again.
 */
import { mapNotes, type Tune } from '@nokta/core/music';
import type { Room } from '@nokta/core/sheet';

/** Of the engraver's own letters at the size of its words, in staff spaces: an l, and what is free behind a word. */
const LETTER = 'l';
const LETTER_WIDTH = 0.487;
const BEHIND = 0.75;

/** A line with nothing but its notes, and with the verses that keep them apart. */
export function spacedLine(line: Tune, rooms: readonly (readonly Room[])[]): Tune {
  const verses = rooms.map((room) => new Map(room.map(({ note, width }) => [note, lettersFor(width)])));
  const bare = mapNotes(line, (note) => {
    const { words: _, chordSymbol: __, ...rest } = note;
    const texts = verses.map((verse) => {
      const letters = verse.get(note.id) ?? 0;
      return letters > 0 ? { text: LETTER.repeat(letters) } : null;
    });
    return texts.some(Boolean) ? { ...rest, words: texts } : rest;
  });
  return {
    ...bare,
    bars: bare.bars.map((bar) => ({
      ...bar,
      events: bar.events.map((event) => {
        const { chordSymbol: _, ...rest } = event;
        return rest as typeof event;
      }),
    })),
  };
}

/** One at the least: what stands before a note keeps clear of it only where it has something itself. */
const lettersFor = (width: number): number => Math.max(1, Math.ceil((width - BEHIND) / LETTER_WIDTH));

const VERSE = /<g\b[^>]*class="verse"[^>]*>\s*<g\b[^>]*class="syl"[^>]*>[\s\S]*?<\/g>\s*<\/g>/g;

/** A picture without its verses. */
export const withoutVerses = (markup: string): string => markup.replace(VERSE, '');

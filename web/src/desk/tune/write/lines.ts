/** The tune in lines of four bars, as on paper: calm while it is written, whatever its phrases will be. */
import type { MusicXmlOptions } from '@nokta/core/formats';
import { barLength, midi, placedNotes, type Bar, type Tune } from '@nokta/core/music';

export interface WritingLine {
  /** First and last bar, both included. */
  readonly from: number;
  readonly to: number;
}

const BARS = 4;

/** A new line after four full bars, and wherever a part begins. */
export function linesOf(bars: readonly Bar[]): readonly WritingLine[] {
  const lines: { from: number; to: number }[] = [];
  let full = 0;
  bars.forEach((bar, index) => {
    const before = bars[index - 1];
    const lead = bar.length < barLength(bar.metre);
    const begins = bar.repeatStart === true || bar.label !== undefined || before?.barline === 'double';
    const line = lines.at(-1);
    if (!line || begins || full >= BARS) {
      lines.push({ from: index, to: index });
      full = lead ? 0 : 1;
    } else {
      line.to = index;
      full += lead ? 0 : 1;
    }
  });
  return lines;
}

/** The line's bars as a small tune of its own. */
export function lineTune(tune: Tune, { from, to }: WritingLine): Tune {
  const bars = tune.bars.slice(from, to + 1);
  const ids = new Set(bars.flatMap(({ events }) => events.map(({ id }) => id)));
  return { ...tune, tempo: null, bars, slurs: tune.slurs.filter((slur) => ids.has(slur.from) && ids.has(slur.to)) };
}

/** Whether two lines look the same: bars that no edit touched are the same objects. */
export function sameLine(a: Tune, b: Tune): boolean {
  return (
    a.bars.length === b.bars.length &&
    a.bars.every((bar, index) => bar === b.bars[index]) &&
    a.slurs.length === b.slurs.length &&
    a.slurs.every((slur, index) => slur.from === b.slurs[index]!.from && slur.to === b.slurs[index]!.to)
  );
}

/** Below this mean pitch (A3) a melody is read in the bass clef. */
const BASS_CLEF_BELOW = 57;

/** The clef that a tune for no instrument in particular is read in. */
export function clefFor(tune: Tune): NonNullable<MusicXmlOptions['clef']> {
  const pitches = placedNotes(tune).flatMap(({ note }) => note.heads.map((head) => midi(head.pitch)));
  const mean = pitches.reduce((sum, number) => sum + number, 0) / Math.max(1, pitches.length);
  return pitches.length > 0 && mean < BASS_CLEF_BELOW ? { sign: 'F', line: 4 } : { sign: 'G', line: 2 };
}

/** Small files as they come in, and what sounds in them, as text. Test help; not part of any public index. */
import { TICKS_PER_QUARTER, pitchName, soundingNotes, type Tune } from '../music/index.ts';
import { readAbc, type Problem } from '../formats/index.ts';

/** "C4 1 E4+G4 1/2 | …": what sounds, with its length in quarters, bar by bar. */
export function soundsOf(tune: Tune): string {
  const length = (ticks: number) => {
    const rounded = Math.round((ticks / TICKS_PER_QUARTER) * 1000) / 1000;
    return String(rounded);
  };
  let bar = 0;
  return soundingNotes(tune)
    .map(({ note, duration, barIndex }) => {
      const line = barIndex === bar ? '' : '| ';
      bar = barIndex;
      return `${line}${note.heads.map(({ pitch }) => pitchName(pitch)).join('+')} ${length(duration)}`;
    })
    .join(' ');
}

/** A tune that was read, and what was told on the way. */
export interface Told {
  readonly tune: Tune;
  readonly notices: readonly Problem[];
}

/** A tune from its ABC, in quarters. @throws with the problems if it cannot be read */
export function abc(body: string, header = 'M:4/4\nL:1/4\nK:C'): Told {
  const read = readAbc(`X:1\nT:Test\n${header}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return { tune: read.value.tune, notices: read.notices };
}

/** The metre of each bar. */
export const metres = ({ bars }: Tune) => bars.map(({ metre }) => `${metre.beats}/${metre.unit}`).join(' ');

import { describe, expect, it } from 'vitest';
import { arrange } from '../arrange/index.ts';
import { seconds } from '../music/index.ts';
import { USUAL_NAMES } from '../paper/index.ts';
import { tuneOf } from '../test/testing.ts';
import { spokenCues } from './index.ts';

const reel = arrange(tuneOf('G2BG dGBG | ABcA BGAB |', { key: 'G' }));
const { notes } = reel.fingering;
const cues = (quarterBpm: number, voice: 'fingers' | 'names' | 'both' = 'fingers') =>
  spokenCues(reel, { voice, quarterBpm, names: USUAL_NAMES });

describe('what is said with the notes', () => {
  it('names every finger where there is time, and the string where it changes', () => {
    const said = notes.map(({ id }) => cues(40).get(id));
    expect(said.slice(0, 4)).toEqual(['D, 3', 'A, 1', 'D, 3', 'A, 3']);
    expect(said).not.toContain(undefined);
  });

  it('keeps to the beats where notes are quicker than words', () => {
    const told = notes.filter(({ id }) => cues(120, 'names').has(id));
    expect(told.length).toBeLessThan(notes.length);
    for (const { onset } of told) expect(onset % 3360).toBe(0);
  });

  it('never says more than a mouth can, at any tempo', () => {
    for (const bpm of [40, 60, 80, 100, 120, 160, 200, 240]) {
      for (const voice of ['fingers', 'names', 'both'] as const) {
        const at = notes.filter(({ id }) => cues(bpm, voice).has(id)).map(({ onset }) => seconds(onset, bpm));
        at.slice(1).forEach((time, index) => expect(time - at[index]!).toBeGreaterThan(0.37));
      }
    }
  });
});

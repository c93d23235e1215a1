/** As sung or as played: what becomes of dotted pairs and of notes repeated for a syllable. */
import { describe, expect, it } from 'vitest';
import { analyseForm } from '../form/index.ts';
import { printedName, type Note, type Tune } from '../music/index.ts';
import { tuneOf } from '../test/testing.ts';
import { loosened, type VersionDecisions } from './index.ts';

const SONG =
  'd2d2 f2f2 | g3f e2A2 | d2d2 f2f2 | e2c2 d4 |\nw: Bring the lamp in, the wind has turned, bring the lamp in, boats come home\n';
const song = tuneOf(SONG, { key: 'D', metre: '4/4' });
const loose = (wish: Partial<Pick<VersionDecisions, 'rhythm' | 'repeated' | 'kept'>>, tune: Tune = song) =>
  loosened(tune, analyseForm(tune), { rhythm: 'sung', repeated: 'as-sung', kept: [], ...wish });
const notes = ({ bars }: Tune) =>
  bars.flatMap(({ events }) => events.filter((one): one is Note => one.kind === 'note'));
const letters = (tune: Tune) => notes(tune).map(({ heads }) => printedName(heads[0]!.pitch));

describe('as sung or as played', () => {
  it('leaves a tune as it is where nothing is wished, and one without words', () => {
    expect(loose({}).tune).toBe(song);
    const reel = tuneOf('d2d2 f2f2 | g3f e2A2 |', { key: 'D', metre: '4/4' });
    expect(loose({ rhythm: 'played', repeated: 'joined' }, reel).tune).toBe(reel);
  });

  it('joins notes that are repeated for a syllable, and both syllables stand under the one', () => {
    const { tune, changes } = loose({ repeated: 'joined' });
    expect(changes.map(({ kind }) => kind)).toContain('joined');
    const [first] = notes(tune);
    expect([first!.duration, first!.words![0]!.text]).toEqual([2 * 3360, 'Bring the']);
    expect(tune.bars.every(({ events, length }) => events.reduce((sum, one) => sum + one.duration, 0) === length)).toBe(
      true,
    );
  });

  it('varies them by a tone of the chord or on the way, and never on a strong beat', () => {
    const { tune, changes } = loose({ repeated: 'varied' });
    expect(changes.length).toBeGreaterThan(0);
    expect(changes.every(({ direction }) => direction === 'richer')).toBe(true);
    expect(letters(tune)[0]).toBe('D');
    expect(letters(tune)[1]).not.toBe('D');
    expect(notes(tune).map(({ duration }) => duration)).toEqual(notes(song).map(({ duration }) => duration));
  });

  it('evens dotted pairs out for strings', () => {
    const { tune, changes } = loose({ rhythm: 'played' });
    expect(changes.map(({ kind, bar }) => [kind, bar])).toEqual([['even', 2]]);
    expect(tune.bars[1]!.events.map(({ duration }) => duration)).toEqual([3360, 3360, 3360, 3360]);
  });

  it('keeps what is not wanted changed', () => {
    const [change] = loose({ rhythm: 'played' }).changes;
    expect(loose({ rhythm: 'played', kept: [change!.id] }).tune).toBe(song);
  });
});

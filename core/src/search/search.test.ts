import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arbitraryTune } from '../test/arbitrary.ts';
import { midi, soundingNotes, transposeTune, type Tune } from '../music/index.ts';
import { tuneOf } from '../test/testing.ts';
import {
  LikenessIndex,
  MelodyIndex,
  foldText,
  melodyOf,
  packMelody,
  queryOfPitches,
  readMelodyQuery,
  unpackMelody,
} from './index.ts';

const REEL = tuneOf('G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG FDEF | G2BG dGBG | ABcA BGAB | c2ec B2dB | AFDF G4 |]', {
  key: 'G',
});
const JIG = tuneOf('d2e fed | B2d A2F | G2B AFD | E2F G2A | d2e fed | B2d A2F | G2B AFD | E2D D3 |]', {
  key: 'D',
  metre: '6/8',
});

function indexOf(tunes: Readonly<Record<string, Tune>>): MelodyIndex {
  const index = new MelodyIndex();
  for (const [id, tune] of Object.entries(tunes)) index.put(id, melodyOf(tune));
  return index;
}

const pitches = (tune: Tune) => soundingNotes(tune).map(({ note }) => midi(note.heads.at(-1)!.pitch));

/** The edit distance by its definition: least changes that turn the query into some stretch of the melody. */
function slowDistance(query: readonly number[], melody: readonly number[]): number {
  let row = melody.map(() => 0).concat(0);
  for (const [at, asked] of query.entries()) {
    const next = [at + 1];
    melody.forEach((found, place) => {
      next.push(Math.min(row[place]! + (asked === found ? 0 : 1), row[place + 1]! + 1, next[place]! + 1));
    });
    row = next;
  }
  return Math.min(...row);
}

describe('searching by melody', () => {
  const index = indexOf({ reel: REEL, jig: JIG });

  it('finds a stretch of a tune in any key, with its place', () => {
    fc.assert(
      fc.property(
        arbitraryTune(),
        fc.nat(),
        fc.integer({ min: 4, max: 12 }),
        fc.integer({ min: -7, max: 7 }),
        (tune, pick, size, shift) => {
          const notes = pitches(tune);
          fc.pre(notes.length > size);
          const from = pick % (notes.length - size);
          const asked = notes.slice(from, from + size).map((pitch) => pitch + shift);
          const [hit] = indexOf({ tune }).search(queryOfPitches(asked));
          expect(hit).toMatchObject({ id: 'tune', score: 1, length: size });
          const found = notes.slice(hit!.from, hit!.from + size);
          expect(found.map((pitch) => pitch - found[0]!)).toEqual(asked.map((pitch) => pitch - asked[0]!));
        },
      ),
      { numRuns: 100 },
    );
  });

  it('counts mistakes as the definition of the edit distance does', () => {
    const steps = fc.array(fc.integer({ min: -5, max: 5 }), { minLength: 3, maxLength: 14 });
    fc.assert(
      fc.property(steps, fc.array(fc.integer({ min: -5, max: 5 }), { maxLength: 60 }), (query, melody) => {
        const one = new MelodyIndex();
        one.put('x', Int8Array.from(melody));
        const distance = slowDistance(query, melody);
        const [hit] = one.search({ kind: 'notes', steps: query });
        const least = 1 - distance / query.length;
        if (distance <= Math.floor(query.length / 3)) expect(hit!.score).toBeGreaterThanOrEqual(least - 1e-9);
        if (hit && hit.score === 1) expect(distance).toBe(0);
      }),
      { numRuns: 500 },
    );
  });

  it('forgives a wrong note and a missing sharp, and puts exact tunes first', () => {
    expect(index.search(readMelodyQuery('d e f# e d B d A F#')!)[0]).toMatchObject({ id: 'jig', score: 1, from: 0 });
    expect(index.search(readMelodyQuery('d e f e d B d A F')!)[0]!.id).toBe('jig');
    expect(index.search(readMelodyQuery('G B G d G B A A B c A')!)[0]!.id).toBe('reel');
    expect(index.search(readMelodyQuery('G B G d G B G A B c A')!).map(({ id }) => id)).toEqual(['reel']);
  });

  it('finds by ups and downs alone', () => {
    expect(index.search(readMelodyQuery('+ + - - - + - -')!)[0]).toMatchObject({ id: 'jig', from: 0 });
  });

  it('waits until there is enough to search for, and knows what is no melody', () => {
    for (const text of ['', 'G', 'G A', '+ -', 'hello', 'G A x']) expect(readMelodyQuery(text)).toBeNull();
    expect(readMelodyQuery('G B d')!.steps).toEqual([4, 3]);
    // The fourth up is nearer than the fifth down; marks move by octaves, mixed letters say them.
    expect(readMelodyQuery("G A' D")!.steps).toEqual([14, 5]);
    expect(readMelodyQuery('g b g d')!.steps).toEqual([4, -4, -5]);
    expect(readMelodyQuery('G B G d')!.steps).toEqual([4, -4, 7]);
    expect(readMelodyQuery('Bb c d')!.steps).toEqual([2, 2]);
  });

  it('keeps melodies as text', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -36, max: 36 })), (steps) => {
        expect([...unpackMelody(packMelody(Int8Array.from(steps)))]).toEqual(steps);
      }),
    );
  });
});

describe('the same melody again', () => {
  const index = new LikenessIndex();
  index.put('reel', melodyOf(REEL));
  index.put('jig', melodyOf(JIG));

  it('is noticed in another key and with a few notes changed', () => {
    expect(index.alike(melodyOf(transposeTune(REEL, 5)))).toEqual([{ id: 'reel', likeness: 1 }]);
    const varied = tuneOf(
      'G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG FDEF | G2BG dGBG | ABcA BGAB | c2ec d2BG | AFDF G4 |]',
      { key: 'G' },
    );
    expect(index.alike(melodyOf(varied))[0]).toMatchObject({ id: 'reel' });
  });

  it('is not claimed of another tune, nor of a scrap', () => {
    const other = tuneOf(
      'e2ce A2ce | f2df B2df | e2ce A2ce | dcBd A4 | a2fa e2ce | d2Bd c2Ac | B2GB A2FA | EFGB A4 |]',
      { key: 'A' },
    );
    expect(index.alike(melodyOf(other))).toEqual([]);
    expect(index.alike(melodyOf(tuneOf('G2BG dGBG |', { key: 'G' })))).toEqual([]);
  });

  it('is forgotten with its tune', () => {
    const own = new LikenessIndex();
    own.put('a', melodyOf(REEL));
    own.remove('a');
    expect(own.alike(melodyOf(REEL))).toEqual([]);
  });
});

it('folds text for looking up', () => {
  expect(foldText('Łódź, the Café’s Löwe')).toBe('lodz the cafes lowe');
});

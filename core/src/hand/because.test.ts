/** Reasons as a teacher says them, each written down before it was asked for. And what wishes do to a tune. */
import { describe, expect, it } from 'vitest';
import { analyseForm } from '../form/index.ts';
import { INSTRUMENT, type InstrumentId } from '../instrument/index.ts';
import { setupFor, type NamedSetup } from '../test/setups.ts';
import { tuneOf, type Header } from '../test/testing.ts';
import { effectTexts, whyTexts } from '../words/index.ts';
import { effortOf } from './effect.ts';
import { effectOf, Hand } from './index.ts';

function handWith(music: string, header: Header, change: NamedSetup = {}): Hand {
  const tune = tuneOf(music, header);
  return new Hand(tune, analyseForm(tune), setupFor({ tempo: 100, ...change }));
}

type Row = readonly [why: string, instrument: InstrumentId, music: string, note: number, change?: NamedSetup];

const SAID: readonly Row[] = [
  ['4, because the line goes back down', 'violin', 'F G A G F', 2],
  ['open, because the line goes on along the A string', 'violin', 'G A B c', 1],
  ['open, because the line comes down the A string', 'violin', 'c B A G', 2],
  ['2, its place in I', 'violin', 'A B ^c d', 2],
  ['open: no fourth finger: set by you', 'violin', 'F G A G F', 2, { limits: { noFourth: true } }],
  ['to III: the next five notes lie there', 'violin', "e f a b c' b a", 2],
  ['III: the next five notes lie there', 'violin', "a b c' b a", 0],
  ['1 stays over both strings', 'violin', 'E B E B', 1],
  ['open, because it rings on while the other notes move', 'violin', 'e A e B e c e d', 2],
  ['on the A string, so that the open string rings on', 'violin', 'e A e B e c e d', 5],
  ['1 reaches back, and the hand stays in I', 'cello', '_B, C D C _B,', 0],
  ['half position: the next three notes lie there', 'cello', 'A, _B, =B, C', 1],
  ['4, because the line goes back down', 'bass', 'B,,, ^C,, D,, C,, B,,,', 2],
];

it.each(SAID.map((row) => [`${row[0]}: ${row[1]}, ${row[2]}`, row] as const))('%s', (_, row) => {
  const [why, instrument, music, note, change] = row;
  const hand = handWith(music, {}, { instrument, ...change });
  const { id } = hand.fingering.notes[note]!;
  expect(whyTexts(hand.explained(id)!, INSTRUMENT[instrument])[0]).toBe(why);
});

describe('wishes', () => {
  const small = { wishes: { preset: 'small-hands' } } as const;

  it('for small hands avoid what they say, and tell it', () => {
    const [hand, plain] = [small, {}].map((change) => handWith('g2 a2 b8 a2 g2', { key: 'G' }, change)) as [Hand, Hand];
    expect(effectTexts(effectOf(hand, plain))[0]).toBe('avoids one fourth finger, one long note on the fourth finger');
    expect(effectOf(plain, plain)).toEqual([]);
  });

  it('for small hands put no third of a wide span on one bow stroke of two strings where another way is', () => {
    const wide = (change: NamedSetup) => {
      const { notes } = handWith('[_Bg]2', { key: 'Gm' }, change).fingering;
      const places = notes[0]!.stops.map(({ semitones }) => semitones).filter((place) => place > 0);
      return Math.max(...places) - Math.min(...places);
    };
    expect(wide(small)).toBeLessThanOrEqual(wide({}));
  });

  it.each(['violin', 'viola', 'cello', 'bass'] as const)(
    '%s: take the open string or the finger first, as is wished',
    (instrument) => {
      const music = { violin: 'G A G F', viola: 'C D C B,', cello: 'F, G, A, G, F,', bass: 'B,,, ^C,, D,, C,, B,,,' }[
        instrument
      ];
      const opens = (openStrings?: 'fourth' | 'open') => {
        const { notes } = handWith(
          music,
          { key: 'G' },
          { instrument, wishes: { preset: 'all-round', ...(openStrings && { openStrings }) } },
        ).fingering;
        return notes.filter(({ stops }) => stops[0]!.finger === 0).length;
      };
      expect(opens('fourth')).toBe(0);
      expect(opens('open')).toBe(1);
      expect([0, 1]).toContain(opens());
    },
  );

  it('ask the effort that the price list gives, whether it is added up or known from the cost', () => {
    // A phrase comes back, so that what it has elsewhere is in the cost.
    const music = 'd g b d g2 b2 | a g f d | d g b d g2 b2 | c e a8 |';
    for (const wishes of [{ preset: 'all-round' }, { preset: 'small-hands' }] as const) {
      const hand = handWith(music, { key: 'G' }, { wishes });
      const chosen = hand.steps.map((_, step) => hand.chosen(step));
      expect(1000 * hand.fingering.totals.effort).toBeCloseTo(effortOf(hand.steps, chosen), 6);
    }
  });

  it('change the cost, and the effort only by what is played', () => {
    const music = 'G A B c d e f g';
    const [plain, dear] = [{}, { wishes: { preset: 'all-round', weights: { crossing: 1.1 } } } as const].map(
      (change) => handWith(music, { key: 'G' }, change).fingering,
    );
    expect(dear!.totals.cost).toBeGreaterThan(plain!.totals.cost);
    expect(dear!.totals.effort).toBe(plain!.totals.effort);
    expect(plain!.totals.effort).toBeCloseTo(plain!.totals.cost, 9);
  });
});

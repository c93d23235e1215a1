/** What single rules charge: which movement costs what, and when it costs less. */
import { describe, expect, it } from 'vitest';
import { INSTRUMENT, standardTuning, type InstrumentId } from '../instrument/index.ts';
import { pitch } from '../music/index.ts';
import { framesFor } from './frames.ts';
import { type Frame, type Position, type Shape } from './vocabulary.ts';
import { HANDS } from './hands/index.ts';
import { PLAIN_WEIGHTS, type RuleName } from './ruleNames.ts';
import { chargeMove, chargeState, moveCircumstances, stateCircumstances, type StepContext } from './rules.ts';
import { statesFor, type HandState } from './state.ts';

const AT_EASE: StepContext = {
  hand: HANDS.cello,
  duration: 0.3,
  available: 0.3,
  rest: 0,
  slurred: false,
  phraseStart: false,
  glide: false,
  open: null,
  first: false,
  pedal: null,
  high: true,
  weights: PLAIN_WEIGHTS,
};

/** The state that plays a pitch with this finger in this frame. */
function state(
  instrument: InstrumentId,
  name: string,
  finger: number,
  position: Position = 'I',
  shape: Shape = 'closed',
): HandState {
  const frames = framesFor(HANDS[instrument]).filter(
    (frame: Frame) => frame.position === position && frame.shape === shape,
  );
  const found = statesFor([pitch(name)], standardTuning(INSTRUMENT[instrument]).pitches, frames).find(
    ({ stops }) => stops[0]!.finger === finger,
  );
  if (!found) throw new Error(`${name} is not under finger ${finger}`);
  return found;
}

function charges(
  run: (charge: (rule: RuleName, price: number) => void) => void,
): Readonly<Partial<Record<RuleName, number>>> {
  const sums: Partial<Record<RuleName, number>> = {};
  run((rule, price) => (sums[rule] = (sums[rule] ?? 0) + price));
  return sums;
}

const move = (from: HandState, to: HandState, change: Partial<StepContext> = {}) =>
  charges((charge) => chargeMove(from, to, moveCircumstances({ ...AT_EASE, ...change }), charge));

describe('moves on the cello', () => {
  const half = state('cello', 'Eb3', 1, 'half');
  const first = state('cello', 'F#3', 3);
  const open = state('cello', 'D3', 0);

  it('make a shift cheap while an open string sounds, over a rest and at a phrase join', () => {
    const plain = move(half, first).shift!;
    expect(move(half, open).shift!).toBeLessThan(plain / 2);
    expect(move(half, first, { rest: 0.5 }).shift!).toBeLessThan(plain / 2);
    expect(Math.abs(move(half, first, { phraseStart: true }).shift! - plain / 2)).toBeLessThan(1);
  });

  it('make a shift dear in quick notes and dearer in a slur', () => {
    expect(move(half, first, { available: 0.1 }).shift!).toBeGreaterThan(move(half, first).shift!);
    expect(move(half, first, { slurred: true })).toHaveProperty('slurShift');
  });

  it('charge for opening the hand, and more for turning it from one reach to the other', () => {
    const forward = state('cello', 'G#3', 4, 'I', 'forward');
    const backward = state('cello', 'Eb3', 1, 'I', 'backward');
    expect(move(backward, forward).reach!).toBe(2 * move(first, forward).reach!);
  });
});

describe('moves across strings', () => {
  const violin = { hand: HANDS.violin };

  it('charge once for a neighbour, and for each string that is skipped', () => {
    expect(move(state('violin', 'A3', 1), state('violin', 'F#4', 2), violin)).toEqual({ crossing: 700 });
    expect(move(state('violin', 'A3', 1), state('violin', 'G#5', 2), violin)).toMatchObject({
      crossing: 700,
      skip: 1200,
    });
  });

  it('tell a finger across two strings from a hop', () => {
    expect(move(state('violin', 'E4', 1), state('violin', 'B4', 1), violin)).toMatchObject({ block: 100 });
    expect(move(state('violin', 'E4', 1), state('violin', 'Bb4', 1), violin)).toMatchObject({ hop: 500 });
  });

  it('charge a finger that slides between low and high', () => {
    expect(move(state('violin', 'F4', 2), state('violin', 'F#4', 2), violin)).toEqual({ slide: 900 });
    expect(move(state('violin', 'E4', 1), state('violin', 'F#4', 2), violin)).toEqual({});
  });
});

it('tires the fourth finger more on a long note', () => {
  const fourth = state('violin', 'A4', 4);
  const held = (duration: number) =>
    charges((charge) => chargeState(fourth, stateCircumstances({ ...AT_EASE, hand: HANDS.violin, duration }), charge));
  expect(held(2).longFourth).toBeGreaterThan(0);
  expect(held(0.3)).not.toHaveProperty('longFourth');
});

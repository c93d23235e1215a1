/**
 * Why a finger, as a teacher would say it: the one thing about the line or the hand that decides. Facts only; the
 * sentences are in `words`. What it costs, to the thousandth, is another matter: see `explainDetour`.
 */
import type { Semitones } from '../music/index.ts';
import { HOME_BASE } from './vocabulary.ts';
import type { FingeredNote } from './fingering.ts';
import type { Because, MovingTime } from './reasons.ts';
import type { SolvedHand } from './solved.ts';
import { isBlock, liesAcross } from './marks.ts';
import type { StepContext } from './rules.ts';
import { isStopped, type HandState } from './state.ts';

/**
 * What decides for the finger of a step, weightiest first; at most two.
 * @example becauseOf(hand, 0)[0].kind // 'home'
 */
export function becauseOf(hand: SolvedHand, step: number): readonly Because[] {
  const note = hand.fingering.notes[hand.noteAt[step]!]!;
  const { context, usual } = hand.steps[step]!;
  const state = hand.chosen(step);
  const found = isStopped(state)
    ? stoppedBecause(hand, step, state, note, context)
    : openBecause(hand, step, state, context);
  if (note.hold) found.push({ kind: 'again' });
  if (usual !== undefined && usual === state.key) found.push({ kind: 'usual' });
  return found.slice(0, MOST);
}
const MOST = 2;

function stoppedBecause(
  hand: SolvedHand,
  step: number,
  state: HandState,
  note: FingeredNote,
  context: StepContext,
): Because[] {
  const found: Because[] = [];
  const [before, after] = [neighbour(hand, step - 1), neighbour(hand, step + 1)];
  const position = note.position!;
  if (state.stops.some(({ sign }) => sign === 'harmonic')) found.push({ kind: 'harmonic' });
  if (note.shift) found.push({ kind: 'moves', position, notes: notesUnder(hand, step), during: timeFor(hand, step) });
  if (context.pedal && !context.pedal.itself) found.push({ kind: 'beside-pedal' });
  if (context.open) {
    const sides = [before, after].map((other) => other !== null && sameString(state, other));
    if (sides[0] && sides[1]) found.push({ kind: 'turns-back' });
    else if (sides[0] || sides[1]) found.push({ kind: 'same-string' });
  }
  if (liesAcross(state) || [before, after].some((other) => other !== null && isBlock(state, other)))
    found.push({ kind: 'across' });
  if (note.extension) found.push({ kind: 'reaches', position });
  if (found.length === 0 && state.frame.base !== HOME_BASE)
    found.push({ kind: 'lies', position, notes: notesUnder(hand, step) });
  if (found.length === 0) found.push({ kind: 'home', position });
  return found;
}

function openBecause(hand: SolvedHand, step: number, state: HandState, context: StepContext): Because[] {
  if (context.pedal?.itself) return [{ kind: 'pedal' }];
  const [before, after] = [neighbour(hand, step - 1), neighbour(hand, step + 1)];
  const comes = before !== null && sameString(state, before);
  const goes = after !== null && sameString(state, after);
  if (!comes && !goes) {
    const limits = hand.limitsAgainst(step, (other) => isStopped(other) && other.frame.base === state.frame.base);
    if (limits.length > 0) return [{ kind: 'limit', limits }];
    return [{ kind: 'open' }];
  }
  return [{ kind: goes ? 'goes-on' : 'comes-down' }];
}

const neighbour = (hand: SolvedHand, step: number): HandState | null => (hand.steps[step] ? hand.chosen(step) : null);

const sameString = ({ stops }: HandState, other: HandState) =>
  stops.some(({ string }) => other.stops.some((stop) => stop.string === string));

/** Notes from this one on that the hand plays before it moves again, open strings between them too. */
function notesUnder(hand: SolvedHand, step: number): number {
  const base: Semitones = hand.chosen(step).frame.base;
  let last = step;
  for (let next = step + 1; next < hand.steps.length; next += 1) {
    const state = hand.chosen(next);
    if (!isStopped(state)) continue;
    if (state.frame.base !== base) break;
    last = next;
  }
  return last - step + 1;
}

function timeFor(hand: SolvedHand, step: number): MovingTime {
  const before = neighbour(hand, step - 1);
  const { context } = hand.steps[step]!;
  if (context.rest > 0) return 'rest';
  if (before && !isStopped(before)) return 'open-string';
  return context.phraseStart ? 'join' : null;
}

/** Why a finger, as facts. */
import type { SetLimit } from './decided.ts';
import type { Position } from './vocabulary.ts';

/** When the hand has time to move. */
export type MovingTime = 'open-string' | 'rest' | 'join' | null;

export type Because =
  /** The open string goes on ringing under, or over, what moves. */
  | { readonly kind: 'pedal' | 'beside-pedal' }
  /** Stopped where an open string has the note: the line turns back on this string, or has come from it. */
  | { readonly kind: 'turns-back' | 'same-string' }
  /** Open: the line goes on along this string, or comes down it. */
  | { readonly kind: 'goes-on' | 'comes-down' }
  /** Open, and a finger would be no better. */
  | { readonly kind: 'open' }
  /** Nothing else is allowed. */
  | { readonly kind: 'limit'; readonly limits: readonly SetLimit[] }
  /** One finger over two strings. */
  | { readonly kind: 'across' }
  /** The finger stretches and the hand stays. */
  | { readonly kind: 'reaches'; readonly position: Position }
  /** The hand comes here, and so many notes lie under it, this one counted. */
  | { readonly kind: 'moves'; readonly position: Position; readonly notes: number; readonly during: MovingTime }
  /** The hand is here already. */
  | { readonly kind: 'lies'; readonly position: Position; readonly notes: number }
  /** The finger's place in first position. */
  | { readonly kind: 'home'; readonly position: Position }
  /** The finger stays down until it is needed again. */
  | { readonly kind: 'again' }
  /** As the same phrase has it elsewhere. */
  | { readonly kind: 'usual' }
  | { readonly kind: 'harmonic' };

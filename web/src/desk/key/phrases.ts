/** Decisions about single phrases: rules of choice, free of the interface. */
import type { PhrasePlace } from '@nokta/core/compare';
import type { KeyDecisions, PhraseMove } from '@nokta/core/instrument';

/** Furthest that a phrase is moved, in octaves. */
const MOST = 3;

/** A phrase moved otherwise than before; one that is as brought in needs no decision. */
export function withMove(
  moves: KeyDecisions['phrases'],
  { first, last }: Pick<PhrasePlace, 'first' | 'last'>,
  change: Partial<Pick<PhraseMove, 'octaves' | 'echo'>>,
): KeyDecisions['phrases'] {
  const { [first]: before, ...others } = moves;
  const next = { octaves: 0, echo: 0, ...before, ...change, last };
  const octaves = Math.max(-MOST, Math.min(MOST, next.octaves));
  return octaves === 0 && next.echo === 0 ? others : { ...others, [first]: { ...next, octaves } };
}

/** The Bow pass by keys. */
import type { PassCommands, PassKey } from '../shared/passes.ts';
import { useDesk } from '../rooms/store.ts';
import { useBowActions } from './actions.ts';
import { useRepairs } from './repairs.ts';

export const BOW_KEYS: readonly PassKey[] = [
  { key: 'k', command: 'lift', does: 'lift the bow before this stroke, or not' },
  { key: 'h', command: 'stop', does: 'stop, and on the same way, or not' },
  { key: 'n', command: 'pattern', does: 'next pattern on this phrase' },
  { key: 'r', command: 'repair', does: 'take what brings the bow back' },
  { key: 'x', command: 'accent', does: 'an accent, or none' },
  { key: 't', command: 'tenuto', does: 'a line: long, or none' },
  { key: 'c', command: 'staccato', does: 'a dot: short, or none' },
];

function useOnSelected() {
  const desk = useDesk();
  return (run: (note: string) => unknown) => () => {
    const note = desk.selected?.id;
    return note === undefined ? undefined : run(note);
  };
}

/** What keys do to the bow in every pass. */
export function useBowCommands() {
  const { turn, toggleSlur } = useBowActions();
  const onSelected = useOnSelected();
  return { turnBow: onSelected(turn), toggleSlur: onSelected(toggleSlur) };
}

/** What they do in the Bow pass beside that. */
export function usePassCommands(): PassCommands {
  const { toggleJoint, toggleSign, nextPattern } = useBowActions();
  const repairs = useRepairs();
  const onSelected = useOnSelected();
  return {
    lift: onSelected((note) => toggleJoint(note, 'lift')),
    stop: onSelected((note) => toggleJoint(note, 'stop')),
    pattern: nextPattern,
    repair: () => repairs.takeFirst(),
    accent: onSelected((note) => toggleSign(note, 'accent')),
    tenuto: onSelected((note) => toggleSign(note, 'tenuto')),
    staccato: onSelected((note) => toggleSign(note, 'staccato')),
  };
}

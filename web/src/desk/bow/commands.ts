/** The Bow pass by keys. */
import type { StrokeSign } from '@nokta/core/music';
import { useDesk } from '../store.ts';
import { useBowActions } from './actions.ts';
import { useRepairs } from './repairs.ts';

/** What the keys of the Bow pass do, beside those of the desk. */
export type BowAction = 'lift' | 'stop' | 'pattern' | 'repair' | StrokeSign;

export function useBowCommands() {
  const desk = useDesk();
  const { turn, toggleSlur, toggleJoint, toggleSign, nextPattern } = useBowActions();
  const repairs = useRepairs();
  const onSelected = (run: (note: string) => unknown) => () => {
    const note = desk.selected?.id;
    return note === undefined ? undefined : run(note);
  };
  const actions: Readonly<Record<BowAction, () => unknown>> = {
    lift: onSelected((note) => toggleJoint(note, 'lift')),
    stop: onSelected((note) => toggleJoint(note, 'stop')),
    pattern: nextPattern,
    repair: () => repairs.takeFirst(),
    accent: onSelected((note) => toggleSign(note, 'accent')),
    tenuto: onSelected((note) => toggleSign(note, 'tenuto')),
    staccato: onSelected((note) => toggleSign(note, 'staccato')),
  };
  return {
    turnBow: onSelected(turn),
    toggleSlur: onSelected(toggleSlur),
    bow: (what: BowAction) => actions[what](),
  };
}

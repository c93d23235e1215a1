/** The Bow pass by keys. */
import { useDesk } from '../store.ts';
import { useBowActions } from './actions.ts';

export function useBowCommands() {
  const desk = useDesk();
  const { turn, toggleSlur } = useBowActions();
  const selected = () => desk.selected?.id ?? null;
  return {
    turnBow: () => {
      const note = selected();
      return note === null ? undefined : turn(note);
    },
    toggleSlur: () => {
      const note = selected();
      return note === null ? undefined : toggleSlur(note);
    },
  };
}

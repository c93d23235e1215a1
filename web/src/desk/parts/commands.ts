/** The Parts pass by keys. */
import type { DeskPlaces, PassCommands, PassKey } from '../shared/passes.ts';
import { takingTurns } from '../../turns/turns.ts';
import { useDesk } from '../rooms/store.ts';
import { usePartActions } from './actions.ts';

export const PART_KEYS: readonly PassKey[] = [
  { key: 'b', command: 'split', does: 'a phrase begins at this note' },
  { key: 'j', command: 'join', does: 'join with the phrase before' },
  { key: ',', command: 'earlier', does: 'this phrase begins a note earlier' },
  { key: '.', command: 'later', does: 'this phrase begins a note later' },
  { key: 'n', command: 'name', does: 'name this phrase' },
  { key: 'g', command: 'begins', does: 'a part begins with this phrase, or not' },
];

type PartAction = 'split' | 'join' | 'earlier' | 'later' | 'begins';

export function usePartCommands({ askName }: Pick<DeskPlaces, 'askName'>): PassCommands {
  const desk = useDesk();
  const parts = usePartActions();
  const inTurn = takingTurns();

  /** For the phrase that is selected when its turn comes: a boundary that moved selects its phrase again. */
  function run(what: PartAction): Promise<unknown> | undefined {
    const phrase = desk.selectedPhrase;
    if (!phrase) return;
    switch (what) {
      case 'split':
        return desk.selected ? parts.split(desk.selected.of) : undefined;
      case 'join':
        return parts.join(phrase);
      case 'earlier':
        return parts.nudge(phrase, -1);
      case 'later':
        return parts.nudge(phrase, 1);
      case 'begins': {
        const begins = desk.arrangement?.form.parts.some(({ phrases }) => phrases[0]!.id === phrase.id) ?? false;
        return parts.mark(phrase, !begins);
      }
    }
  }

  const inPhrase = (what: PartAction) => () => inTurn(() => run(what));
  return {
    split: inPhrase('split'),
    join: inPhrase('join'),
    earlier: inPhrase('earlier'),
    later: inPhrase('later'),
    begins: inPhrase('begins'),
    name: () => void (desk.selectedPhrase && askName()),
    keep: () => void (desk.selectedPhrase && parts.toggleHold(desk.selectedPhrase)),
  };
}

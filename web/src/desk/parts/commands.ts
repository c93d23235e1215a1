/** The Parts pass by keys. */
import { takingTurns } from '../shared/turns.ts';
import { useDesk } from '../store.ts';
import { usePartActions } from './actions.ts';

export type PartAction = 'split' | 'join' | 'earlier' | 'later' | 'name' | 'begins';

/** @param askName puts the cursor where the phrase is named */
export function usePartCommands(askName: () => void) {
  const desk = useDesk();
  const parts = usePartActions();
  const inTurn = takingTurns();

  /** For the phrase that is selected when its turn comes: a boundary that moved selects its phrase again. */
  function run(what: Exclude<PartAction, 'name'>): Promise<unknown> | undefined {
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

  return {
    part(what: PartAction): Promise<void> {
      if (what === 'name') {
        if (desk.selectedPhrase) askName();
        return Promise.resolve();
      }
      return inTurn(() => run(what));
    },
    toggleHold: () => void (desk.selectedPhrase && parts.toggleHold(desk.selectedPhrase)),
  };
}

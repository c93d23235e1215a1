/** The Parts pass by keys. */
import { useDesk } from '../store.ts';
import { usePartActions } from './actions.ts';

export type PartAction = 'split' | 'join' | 'earlier' | 'later' | 'name' | 'begins';

/** @param askName puts the cursor where the phrase is named */
export function usePartCommands(askName: () => void) {
  const desk = useDesk();
  const parts = usePartActions();
  return {
    part(what: PartAction) {
      const phrase = desk.selectedPhrase;
      if (!phrase) return;
      switch (what) {
        case 'split':
          return void (desk.selected && parts.split(desk.selected.of));
        case 'join':
          return void parts.join(phrase);
        case 'earlier':
          return void parts.nudge(phrase, -1);
        case 'later':
          return void parts.nudge(phrase, 1);
        case 'name':
          return askName();
        case 'begins': {
          const begins = desk.arrangement?.form.parts.some(({ phrases }) => phrases[0]!.id === phrase.id) ?? false;
          return void parts.mark(phrase, !begins);
        }
      }
    },
    toggleHold: () => void (desk.selectedPhrase && parts.toggleHold(desk.selectedPhrase)),
  };
}

/** The Parts pass by keys. */
import { useDesk } from '../store.ts';
import { usePartActions } from './actions.ts';

export type PartAction = 'split' | 'join' | 'earlier' | 'later' | 'name' | 'begins';

/** @param askName puts the cursor where the phrase is named */
export function usePartCommands(askName: () => void) {
  const desk = useDesk();
  const parts = usePartActions();
  /** Keys are quicker than the form: one that comes meanwhile is about the phrase that is selected after those before it. */
  let turn: Promise<unknown> | null = null;

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
    part(what: PartAction): Promise<unknown> {
      if (what === 'name') {
        if (desk.selectedPhrase) askName();
        return Promise.resolve();
      }
      const next = () => run(what);
      const own: Promise<unknown> = (turn ? turn.then(next, next) : Promise.resolve(next())).finally(() => {
        if (turn === own) turn = null;
      });
      return (turn = own);
    },
    toggleHold: () => void (desk.selectedPhrase && parts.toggleHold(desk.selectedPhrase)),
  };
}

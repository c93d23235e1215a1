/** What a teacher does in the Parts pass, from keys, buttons and by dragging: each is one step of the tune's history. */
import {
  forgetParting,
  freePhrase,
  holdPhrase,
  joinPhrases,
  markPart,
  moveBoundary,
  namePhrase,
  nudgeBoundary,
  orderPhrases,
  splitPhrase,
  type Phrase,
} from '@nokta/core/form';
import { useDesk } from '../rooms/store.ts';

type Place = Pick<Phrase, 'from' | 'label'>;

export function usePartActions() {
  const desk = useDesk();
  const done = (text: string) => (ok: boolean) => {
    if (ok) desk.spoken = text;
  };
  /** The phrase stays the selected one, whatever its first note is now, unless something else was selected meanwhile. */
  const stay = (from: number) => {
    const index = desk.phrases.findIndex((phrase) => phrase.from === from);
    const selected = desk.selectedId;
    return (ok: boolean) => {
      const note = desk.phrases[index]?.notes[0];
      if (ok && note && desk.selectedId === selected) desk.select(note);
    };
  };

  return {
    /** A phrase begins at this note. */
    split: (note: string) =>
      desk.part((tune) => splitPhrase(tune, note), 'split a phrase').then(done('A phrase begins here now.')),
    /** One phrase of this one and the one before it. */
    join: ({ from, label }: Place) =>
      desk
        .part((tune) => joinPhrases(tune, from), 'join phrases')
        .then(done(`${label} is joined with the phrase before it.`)),
    async nudge({ from, label }: Place, by: 1 | -1) {
      const after = stay(from);
      const ok = await desk.part((tune) => nudgeBoundary(tune, from, by), 'move a boundary');
      after(ok);
      done(`${label} begins one note ${by > 0 ? 'later' : 'earlier'}.`)(ok);
    },
    async move({ from, label }: Place, note: string) {
      const after = stay(from);
      const ok = await desk.part((tune) => moveBoundary(tune, from, note), 'move a boundary');
      after(ok);
      done(`${label} begins here now.`)(ok);
    },
    toggleHold: ({ from, label, held }: Place & Pick<Phrase, 'held'>) =>
      held
        ? desk.part((tune) => freePhrase(tune, from), 'free a phrase').then(done(`${label} may be parted anew.`))
        : desk.part((tune) => holdPhrase(tune, from), 'keep a phrase').then(done(`${label} stays as it is.`)),
    name: ({ from }: Place, name: string) => desk.part((tune) => namePhrase(tune, from, name), 'name a phrase'),
    mark: ({ from, label }: Place, starts: boolean, part?: string) =>
      desk
        .part((tune) => markPart(tune, from, starts, part), starts ? 'begin a part' : 'no part here')
        .then(done(starts ? `A part begins with ${label}.` : `${label} goes on with the part before.`)),
    /** @param phrases none: the order that is computed */
    order: (phrases: readonly Phrase[]) =>
      desk.part((tune) => ({ ok: true, tune: orderPhrases(tune, phrases) }), 'order of learning'),
    forget: () =>
      desk
        .part((tune) => ({ ok: true, tune: forgetParting(tune) }), 'part anew')
        .then(done('Parts and phrases are as Nokta finds them.')),
  };
}

/** What the teacher says of a phrase in other words. */
import type { Phrase } from '@nokta/core/form';
import { useDesk } from '../rooms/store.ts';

export function useTalkActions() {
  const desk = useDesk();
  const texts = () => desk.record?.decisions.talk.texts ?? {};

  /** @param made what Nokta says: the same words are no words of one's own */
  function say(phrase: Phrase, words: string, digest: string, made: string): Promise<void> {
    const text = words.trim();
    const first = phrase.notes[0];
    if (first === undefined) return Promise.resolve();
    if (text === '' || text === made) return texts()[first] ? unsay(phrase) : Promise.resolve();
    desk.spoken = 'Kept in your words';
    return desk.decide({ talk: { texts: { ...texts(), [first]: { text, digest } } } }, `words for ${phrase.label}`);
  }

  function unsay(phrase: Phrase): Promise<void> {
    const { [phrase.notes[0] ?? '']: _, ...rest } = texts();
    return desk.decide({ talk: { texts: rest } }, `Nokta’s words for ${phrase.label}`);
  }

  return { say, unsay };
}

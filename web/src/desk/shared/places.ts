/** Where something is, as it is called here: bar or phrase first. */
import { placeText } from '@nokta/core/words';
import { useLook } from '../../settings/look.ts';
import { useDesk } from '../rooms/store.ts';

/** @returns what to say of a note in a bar, with a capital; of a bar alone where the note is in no phrase */
export function usePlaces(): (bar: number, noteId: string | null) => string {
  const desk = useDesk();
  const look = useLook();
  return (bar, noteId) =>
    placeText(bar, desk.phraseOf(noteId)?.label ?? null, look.names).replace(/^./, (letter) => letter.toUpperCase());
}

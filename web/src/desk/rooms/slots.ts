/** What a phrase plays each time that it comes round. */
import type { Phrase } from '@nokta/core/form';
import type { SlotFill } from '@nokta/core/grade';
import { roundText, slotText } from '@nokta/core/words';
import { useDesk } from './store.ts';

export function useSlots() {
  const desk = useDesk();

  /** What a phrase is when it comes again; null is as the first time. */
  return function setSlot(phrase: Phrase, time: number, fill: SlotFill | null): Promise<void> {
    const now = desk.record?.decisions.version;
    const first = phrase.notes[0];
    if (!now || first === undefined) return Promise.resolve();
    const { [String(time)]: _, ...others } = now.slots[first] ?? {};
    const own = fill === null ? others : { ...others, [String(time)]: fill };
    const { [first]: __, ...rest } = now.slots;
    if (fill === null && Object.keys(own).length + Object.keys(rest).length === 0) desk.round = 1;
    desk.spoken = fill === null ? 'As the first time' : `${slotText(fill)}, the ${roundText(time)}`;
    return desk.decide(
      { version: { slots: Object.keys(own).length > 0 ? { ...rest, [first]: own } : rest } },
      `${phrase.label}, ${roundText(time)}`,
    );
  };
}

/** Accents and length signs of notes. */
import { suggestedSigns } from '@nokta/core/bow';
import { STROKE_SIGNS, strokeSignsOf, type Note, type StrokeSign } from '@nokta/core/music';
import { strokeSignText } from '@nokta/core/words';
import { useDesk } from '../rooms/store.ts';

export function useSignActions() {
  const desk = useDesk();

  const noteOf = (id: string): Note | null => {
    const bars = desk.arrangement?.tune.bars ?? [];
    for (const { events } of bars)
      for (const event of events) if (event.id === id && event.kind === 'note') return event;
    return null;
  };

  /** Accents and length signs of a note, a pattern's accent with them. */
  function signsAt(id: string): readonly StrokeSign[] {
    // What was decided just now may not be worked out yet: a second key must not lose the first.
    const decidedHere = desk.record?.decisions.signs.strokeSigns[id];
    if (decidedHere) return decidedHere;
    const note = noteOf(id);
    const own = note ? strokeSignsOf(note) : [];
    return desk.arrangement?.bowing.accents.has(id) && !own.includes('accent') ? ['accent', ...own] : own;
  }

  /** Sets a sign on a note, or takes it away. */
  function toggleSign(id: string, sign: StrokeSign): Promise<void> {
    const signs = desk.record?.decisions.signs;
    if (!signs || !noteOf(id)) return Promise.resolve();
    const now = signsAt(id);
    const on = !now.includes(sign);
    const next = STROKE_SIGNS.filter((one) => (one === sign ? on : now.includes(one)));
    desk.spoken = `${strokeSignText(sign)}${on ? '' : ', taken away'}`;
    return desk.decide(
      { signs: { strokeSigns: { ...signs.strokeSigns, [id]: next } } },
      on ? 'set a sign' : 'take a sign away',
    );
  }

  /** Signs that the bowing calls for; what was set by hand stays. */
  async function suggestSigns(): Promise<void> {
    const signs = desk.record?.decisions.signs;
    if (!signs || !desk.arrangement) return;
    const found = Object.entries(suggestedSigns(desk.arrangement)).filter(([id]) => !signs.strokeSigns[id]);
    if (found.length === 0) {
      desk.spoken = 'No sign is wanted that is not there.';
      return;
    }
    desk.spoken = found.length === 1 ? 'One note has a new sign' : `${found.length} notes have new signs`;
    await desk.decide(
      { signs: { strokeSigns: { ...signs.strokeSigns, ...Object.fromEntries(found) } } },
      'set the signs that the bow calls for',
    );
  }

  return { signsAt, toggleSign, suggestSigns };
}

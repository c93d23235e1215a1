/** The Hand pass by keys: fingers, strings, places of the hand, shifts, fingers that stay down. */
import type { Alternative, FingeredNote, Finger } from '@nokta/core/hand';
import { stopsText } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import { takingTurns } from '../../turns/turns.ts';
import { useDesk } from '../rooms/store.ts';
import { useHandActions } from './actions.ts';
import { fingerOf, nearestBeyond, onOtherString, stringOf, withFinger, type OtherWay } from './choose.ts';
import { useHand } from './store.ts';
import { useLook } from '../../settings/look.ts';

export function useHandCommands() {
  const desk = useDesk();
  const actions = useHandActions();
  const look = useLook();
  const hand = useHand();
  const said = (way: Pick<Alternative, 'stops'>) => stopsText(way, desk.arrangement!.instrument, look.names);
  const lockOf = ({ id }: FingeredNote) => desk.record?.decisions.hand.locks[id];

  const inTurn = takingTurns();

  /** Takes one of the other ways of the note that is selected now; says so if there is none. */
  function take(
    choose: (ways: readonly Alternative[], now: OtherWay) => Alternative | undefined,
    none: string,
  ): Promise<void> {
    const id = desk.selected?.id;
    if (id === undefined) return Promise.resolve();
    // The note that was selected when the key was pressed, whatever is selected when its turn comes.
    return inTurn(() => takeFor(id, choose, none));
  }

  async function takeFor(
    id: string,
    choose: (ways: readonly Alternative[], now: OtherWay) => Alternative | undefined,
    none: string,
  ): Promise<void> {
    const here = () => desk.notes.find((note) => note.id === id);
    let explained = await hand.reasonsFor(id);
    while (explained === STALE && here() && !desk.trouble) explained = await hand.reasonsFor(id);
    const note = here();
    if (explained === STALE || !note || note.base === null) return;
    const found = choose(explained?.alternatives ?? [], { stops: note.stops, base: note.base });
    desk.spoken = found ? `Now ${said(found)}` : none;
    if (found) await actions.finger(note, found.stops, `finger ${said(found)}`);
  }

  const keep = (note: FingeredNote) => actions.finger(note, note.stops, `keep ${said(note)}`);

  return {
    setFinger(finger: Finger) {
      const note = desk.selected;
      if (note && fingerOf(note) === finger) return keep(note);
      return take((ways) => withFinger(ways, finger), `Finger ${finger} cannot play this note here.`);
    },
    cycleString: () => take(onOtherString, 'This note lies on one string only here.'),
    moveString: (by: 1 | -1) =>
      take(
        (ways, now) => nearestBeyond(ways, now, by, (way) => stringOf(way) ?? 0),
        `This note lies on no ${by > 0 ? 'higher' : 'lower'} string here.`,
      ),
    movePosition: (by: 1 | -1) =>
      take(
        (ways, now) => nearestBeyond(ways, now, by, ({ base }) => base),
        `The hand has no ${by > 0 ? 'higher' : 'lower'} place for this note here.`,
      ),
    nextAlternative: () => take(([first]) => first, 'There is no other way here.'),
    toggleShift() {
      const note = desk.selected;
      if (!note) return;
      desk.spoken = lockOf(note)?.shift ? 'The hand need not move here.' : 'The hand moves here.';
      void actions.toggleShift(note);
    },
    toggleHold() {
      const note = desk.selected;
      if (!note) return;
      const held = lockOf(note)?.holdUntil;
      const until = desk.againAt(note);
      if (!held && !until) return void (desk.spoken = 'This finger is not needed again soon.');
      desk.spoken = held ? 'The finger may be lifted.' : `Finger ${note.stops[0]?.finger} stays down.`;
      void actions.holdUntil(note, held ? null : until);
    },
    toggleLock() {
      const note = desk.selected;
      if (note && lockOf(note)?.stops.length) void actions.freeFinger(note);
      else if (note && note.stops.length > 0) void keep(note);
    },
  };
}

/** What is decided about the bow: the school, the first stroke, turned strokes, slurs made and cut. */
import type { BowDecisions, BowSchool, Stroke } from '@nokta/core/bow';
import type { BowMark } from '@nokta/core/music';
import { bowName } from '@nokta/core/words';
import { useDesk } from '../store.ts';

export function useBowActions() {
  const desk = useDesk();
  const decided = (): BowDecisions | undefined => desk.record?.decisions.bow;

  /** The stroke that a note is on, the first time round. */
  function strokeOf(note: string): Stroke | null {
    return desk.arrangement?.bowing.strokes.find(({ notes, time }) => time === 1 && notes.includes(note)) ?? null;
  }

  const setSchool = (school: BowSchool) => desk.decide({ bow: { school } }, 'change the school of the bow');
  const setStart = (start: BowMark | null) => desk.decide({ bow: { start } }, 'change the first stroke');

  /** Turns the stroke that a note is on; once more takes back what was decided. */
  function turn(note: string): Promise<void> {
    const [now, stroke] = [decided(), strokeOf(note)];
    if (!now || !stroke) return Promise.resolve();
    const first = stroke.notes[0]!;
    const { [first]: known, ...rest } = now.turns;
    const direction: BowMark = stroke.direction === 'down' ? 'up' : 'down';
    desk.spoken = known ? 'As it comes again' : `Now ${bowName(direction)}`;
    const turns = known ? rest : { ...rest, [first]: direction };
    return desk.decide({ bow: { turns } }, known ? 'turn the bow back' : 'turn the bow');
  }

  /** Slurs a note to the one before it, or cuts it off; says so where it cannot be slurred. */
  function toggleSlur(note: string): Promise<void> {
    const [now, stroke] = [decided(), strokeOf(note)];
    if (!now || !stroke) return Promise.resolve();
    const first = desk.notes.find(({ ids }) => ids.includes(note))?.ids[0] ?? note;
    const isSlurred = stroke.notes[0] !== first;
    const slurs = { ...now.slurs, [first]: isSlurred ? ('cut' as const) : ('joined' as const) };
    desk.spoken = isSlurred ? 'A stroke begins here' : 'Slurred to the note before';
    return desk.decide({ bow: { slurs } }, isSlurred ? 'cut the slur' : 'slur to the note before');
  }

  /** Everything that was decided here is given up: strokes and slurs are the tune's and the school's again. */
  const forget = () => desk.decide({ bow: { turns: {}, slurs: {}, start: null } }, 'forget what was set for the bow');

  return { decided, strokeOf, setSchool, setStart, turn, toggleSlur, forget };
}

/** What is decided about the bow: school, strokes turned, slurred, cut, lifted and stopped, regions, repairs. */
import type { BowDecisions, BowRepair, BowSchool, Region, Stroke } from '@nokta/core/bow';
import type { BowMark } from '@nokta/core/music';
import { bowName, repairText, standingText } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import { usePatternActions } from './patternActions.ts';
import { useSignActions } from './signActions.ts';
import { useDesk } from '../rooms/store.ts';

export function useBowActions() {
  const desk = useDesk();
  const decided = (): BowDecisions | undefined => desk.record?.decisions.bow;

  /** The stroke that a note is on, the first time round. */
  function strokeOf(note: string): Stroke | null {
    return desk.arrangement?.bowing.strokes.find(({ notes, time }) => time === 1 && notes.includes(note)) ?? null;
  }

  const decide = (bow: Partial<BowDecisions>, label: string): Promise<void> => desk.decide({ bow }, label);
  const setSchool = (school: BowSchool) => decide({ school }, 'change the school of the bow');
  const setStart = (start: BowMark | null) => decide({ start }, 'change the first stroke');

  /** @param school null leaves a part to the tune's school */
  function setPartSchool(label: string, school: BowSchool | null): Promise<void> {
    const { [label]: _, ...others } = decided()?.schools ?? {};
    return decide({ schools: school ? { ...others, [label]: school } : others }, `change the school of part ${label}`);
  }

  /** Turns the stroke that a note is on; once more takes back what was decided. */
  function turn(note: string): Promise<void> {
    const [now, stroke] = [decided(), strokeOf(note)];
    if (!now || !stroke) return Promise.resolve();
    const first = stroke.notes[0]!;
    const { [first]: known, ...rest } = now.turns;
    const direction: BowMark = stroke.direction === 'down' ? 'up' : 'down';
    desk.spoken = known ? 'As it comes again' : `Now ${bowName(direction)}`;
    const turns = known ? rest : { ...rest, [first]: direction };
    return decide({ turns }, known ? 'turn the bow back' : 'turn the bow');
  }

  /** Slurs a note to the one before it, or cuts it off; says so where it cannot be slurred. */
  async function toggleSlur(note: string): Promise<void> {
    const [now, stroke] = [decided(), strokeOf(note)];
    if (!now || !stroke) return;
    const first = desk.notes.find(({ ids }) => ids.includes(note))?.ids[0] ?? note;
    const isSlurred = stroke.notes[0] !== first;
    const slurs = { ...now.slurs, [first]: isSlurred ? ('cut' as const) : ('joined' as const) };
    // A stroke cannot both go on and be turned, lifted or stopped: the last word holds.
    const without = <Value>({ [first]: _, ...others }: Readonly<Record<string, Value>>) => others;
    const change = isSlurred ? { slurs } : { slurs, turns: without(now.turns), joints: without(now.joints) };
    desk.spoken = isSlurred ? 'A stroke begins here' : 'Slurred to the note before';
    await decide(change, isSlurred ? 'cut the slur' : 'slur to the note before');
    const against = desk.arrangement?.bowing.exceptions.find((one) => one.note === first && one.kind === 'own-rest');
    if (against && !isSlurred) desk.refused = 'A rest lies between: no bow can slur over it.';
  }

  /** Lifts or stops the bow before the stroke that a note is on; once more takes it back. */
  async function toggleJoint(note: string, how: 'lift' | 'stop'): Promise<void> {
    const [now, stroke] = [decided(), strokeOf(note)];
    if (!now || !stroke) return;
    const first = stroke.notes[0]!;
    const { [first]: known, ...rest } = now.joints;
    const on = known !== how;
    desk.spoken = on
      ? how === 'lift'
        ? 'Lifted before this stroke'
        : 'Stopped before this stroke'
      : 'As it comes again';
    await decide({ joints: on ? { ...rest, [first]: how } : rest }, how === 'lift' ? 'lift the bow' : 'stop the bow');
    const flag = desk.arrangement?.bowing.flags.find((one) => one.kind === 'no-time' && one.note === first);
    if (on && flag) desk.refused = 'There is no time to lift here: it wants a quarter of a second.';
  }

  /** @param region null takes the mark away */
  function setRegion(note: string, region: Region | null): Promise<void> {
    const { [note]: _, ...others } = decided()?.regions ?? {};
    return decide({ regions: region ? { ...others, [note]: region } : others }, 'mark a part of the bow');
  }

  /** Marks for each phrase the part of the hair that the plan uses, where it changes. */
  function markRegions(): Promise<void> {
    const found = desk.travel?.regions;
    if (!found) return Promise.resolve();
    let before: Region | null = null;
    const regions: Record<string, Region> = {};
    for (const { id, notes } of desk.phrases) {
      const region = found.get(id);
      if (region && region !== before && notes[0]) regions[notes[0]] = region;
      before = region ?? before;
    }
    return decide({ regions }, 'mark the parts of the bow');
  }

  function takeRepair(repair: BowRepair): Promise<void> {
    const text = repairText(repair, decided()?.own);
    desk.spoken = text;
    return decide(repair.change, text);
  }

  /** Works both hands out to and fro; says what came of it, or null where something else was decided meanwhile. */
  async function settleHands(): Promise<string | null> {
    const found = await desk.ask('settleHands');
    if (found === STALE) return null;
    if (found.change) await decide(found.change, 'settle both hands');
    // Told only where the hair is looked at; of the strokes that hold now.
    const travel = desk.travelWanted ? await desk.ask('travel') : STALE;
    const left = travel === STALE ? '' : standingText(true, new Set(travel.flags.map(({ note }) => note)).size);
    const done = found.change
      ? `Settled: ${(found.before - found.after).toFixed(1)} easier for both hands.`
      : 'Both hands are settled.';
    return [done, left].filter(Boolean).join(' ');
  }

  /** Everything that was decided here is given up: strokes and slurs are the tune's and the school's again. */
  const forget = () =>
    desk.decide(
      {
        bow: { turns: {}, slurs: {}, joints: {}, regions: {}, lengths: [], laid: [], pattern: null, start: null },
        signs: { strokeSigns: {} },
      },
      'forget what was set for the bow',
    );

  return {
    ...usePatternActions(),
    ...useSignActions(),
    decided,
    decide,
    strokeOf,
    setSchool,
    setPartSchool,
    setStart,
    turn,
    toggleSlur,
    toggleJoint,
    setRegion,
    markRegions,
    settleHands,
    takeRepair,
    forget,
  };
}

/** What is decided about a version: its grade and contract, what stays, what is chosen otherwise, its name. */
import type { UndoneWish } from '@nokta/core/version';
import { contractOf, type Contract, type GradeNumber, type LineRole, type VersionDecisions } from '@nokta/core/grade';
import { withChord } from '@nokta/core/harmony';
import {
  barStarts,
  transposeChord,
  transposeKey,
  transposeTune,
  type Bpm,
  type Ticks,
  type Tune,
} from '@nokta/core/music';
import { LINE_WORDS } from '@nokta/core/words';
import { useSlots } from '../rooms/slots.ts';
import { useDesk } from '../rooms/store.ts';

export function useGradeActions() {
  const desk = useDesk();
  const decided = (): VersionDecisions | undefined => desk.record?.decisions.version;
  const decide = (version: Partial<VersionDecisions>, label: string): Promise<void> => desk.decide({ version }, label);

  function makeGrade(grade: GradeNumber): Promise<void> {
    const instrument = desk.record?.decisions.key.instrument;
    desk.spoken = instrument ? `Grade ${grade} for the ${instrument}` : `Grade ${grade}`;
    return desk.showVersion(grade);
  }

  /** What goes with the tune in its place. */
  function makeLine(grade: GradeNumber, line: LineRole): Promise<void> {
    desk.spoken = `${LINE_WORDS[line].name}, grade ${grade}`;
    return desk.showVersion(grade, undefined, line);
  }

  /** The same, at a slower tempo of its own. */
  function makeSlower(grade: GradeNumber, tempo: Bpm): Promise<void> {
    desk.spoken = `Grade ${grade}, slower`;
    return desk.makeAtTempo(grade, tempo);
  }

  /** A change is not wanted: the tune is kept there. Once more, and it is made again. */
  function toggleChange(windowId: string): Promise<void> {
    const now = decided();
    if (!now) return Promise.resolve();
    const on = !now.kept.includes(windowId);
    const kept = on ? [...now.kept, windowId] : now.kept.filter((id) => id !== windowId);
    desk.spoken = on ? 'As in the tune again' : 'Changed again';
    return decide({ kept }, on ? 'drop a change' : 'take a change again');
  }

  function choose(windowId: string, key: string): Promise<void> {
    const now = decided();
    if (!now) return Promise.resolve();
    desk.spoken = 'Another way is taken';
    return decide(
      { chosen: { ...now.chosen, [windowId]: key }, kept: now.kept.filter((id) => id !== windowId) },
      'change it another way',
    );
  }

  /** A choice is taken back. */
  function chooseAgain(id: string): Promise<void> {
    const now = decided();
    if (!now) return Promise.resolve();
    const { [id]: _, ...chosen } = now.chosen;
    desk.spoken = 'As it was';
    return decide({ chosen }, 'take a choice back');
  }

  /** The selected note must stay, or need not. */
  function toggleNote(): Promise<void> {
    const [now, note] = [decided(), desk.selected?.of];
    if (!now || note === undefined) return Promise.resolve();
    const on = !now.locked.includes(note);
    desk.spoken = on ? 'This note stays in every version of this arrangement' : 'This note need not stay';
    const locked = on ? [...now.locked, note] : now.locked.filter((id) => id !== note);
    return decide({ locked }, on ? 'keep a note' : 'free a note');
  }

  /** The contract that holds, to be copied and changed. */
  const contract = (): Contract | null => {
    const hand = desk.arrangement?.instrument.hand;
    const now = decided();
    return hand && now ? contractOf(now, hand) : null;
  };
  const setContract = (next: Contract | null) =>
    decide({ contract: next }, next ? `change the contract: ${next.name}` : 'take the grade’s own contract');

  const setName = (name: string) => decide({ name: name.trim() || null }, 'name the arrangement');
  const setSung = (change: Partial<Pick<VersionDecisions, 'rhythm' | 'repeated'>>) =>
    decide(change, change.rhythm ? `as ${change.rhythm}` : 'change repeated notes');

  /** Wishes that an edit undid are let go of. */
  function forget(undone: readonly UndoneWish[]): Promise<void> {
    const now = decided();
    if (!now) return Promise.resolve();
    const gone = new Set(undone.map(({ id }) => id));
    const left = <Value>(all: Readonly<Record<string, Value>>) =>
      Object.fromEntries(Object.entries(all).filter(([id]) => !gone.has(id)));
    const { kept, locked, chosen, slots } = now;
    return decide(
      {
        kept: kept.filter((id) => !gone.has(id)),
        locked: locked.filter((id) => !gone.has(id)),
        chosen: left(chosen),
        slots: left(slots),
      },
      'forget what the tune has no place for',
    );
  }

  /**
   * A chord is corrected in the tune itself: all its arrangements have it, and it sounds and prints with it.
   * @param name in the key that is shown
   */
  function setChord(at: Ticks, name: string): Promise<void> {
    const now = desk.tune?.tune;
    const shown = desk.arrangement?.tune.bars;
    if (!now || !shown) return Promise.resolve();
    const away = (desk.record?.decisions.key.transpose ?? 0) + (desk.arrangement?.graded?.transpose ?? 0);
    const bar = Math.max(
      0,
      Math.min(
        shown.length - 1,
        barStarts(shown).findLastIndex((start) => start <= at),
      ),
    );
    const { steps } = transposeKey(shown[bar]!.key, -away);
    const { bars } = withChord(now, at, transposeChord(name, steps, -away));
    return desk.setFields({ bars }, name === '' ? 'take a chord away' : `chord ${name}`);
  }

  const setOneKey = (oneKey: boolean) =>
    decide({ oneKey }, oneKey ? 'keep the grades in one key' : 'let this grade have a key of its own');

  const setDensity = (density: number) => decide({ density }, 'change how much is added');

  /** The tune that the version was made from, in the version's key. */
  function before(): Tune | null {
    const own = desk.tune?.tune;
    const key = desk.record?.decisions.key;
    return own && key ? transposeTune(own, key.transpose + (desk.arrangement?.graded?.transpose ?? 0)) : null;
  }
  function hearBefore(): void {
    const tune = before();
    if (tune) desk.hear({ tune });
  }

  /** The line on the desk, and the tune that it goes with. */
  function hearWithTune(): void {
    const [tune, line] = [before(), desk.arrangement?.tune];
    if (tune && line) desk.hear({ tunes: [tune, line] });
  }

  return {
    decided,
    decide,
    makeGrade,
    makeSlower,
    makeLine,
    chooseAgain,
    hearWithTune,
    toggleChange,
    choose,
    toggleNote,
    contract,
    setContract,
    setName,
    setDensity,
    setOneKey,
    setSung,
    setSlot: useSlots(),
    setChord,
    forget,
    hearBefore,
  };
}

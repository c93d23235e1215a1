/** What the desk shows of an arrangement: its facts from one worker, its staves from another, phrase by phrase. */
import { ref, shallowRef } from 'vue';
import { goesOn, phraseLine } from '@nokta/core/arrange';
import { phrasesOf, type Phrase } from '@nokta/core/form';
import type { Tune } from '@nokta/core/music';
import type { EngravedLine } from '@nokta/engrave';
import { messageOf } from '../../api/client.ts';
import { engraver, startDesk } from '../../workers/index.ts';
import type { DeskFacts } from '../../workers/facts.ts';
import type { DeskClient, Workpiece } from '../../workers/deskClient.ts';
import { STALE } from '../../workers/protocol.ts';

/** A strip's staff is known by the stretch that it shows: phrases may be parted anew. */
export const staffKey = ({ from, to }: Pick<Phrase, 'from' | 'to'>): string => `${from}-${to}`;

/** @param current what there is to work on; null while nothing is open */
export function createWorking(current: () => Workpiece | null) {
  const facts = shallowRef<DeskFacts | null>(null);
  const staves = shallowRef<ReadonlyMap<string, EngravedLine>>(new Map());
  /** What went wrong in a worker; null while all is well. */
  const trouble = ref<string | null>(null);
  let client: DeskClient | null = null;
  /** The tune that was worked out last, or is being worked out. */
  let askedFrom: Tune | null = null;
  /** What the strips were engraved from. */
  let drawn: Pick<DeskFacts, 'staff' | 'instrument'> | null = null;
  let engraving = 0;
  let computing = 0;
  /** The turn that the facts came of. */
  let shown = 0;
  /** How much of a version is made, while that takes a while. */
  const making = ref<number | null>(null);
  /** Whether strips are on the desk: while the writing page stands in their place, nothing is done for them. */
  const stripsShown = ref(true);

  const desk = () =>
    (client ??= startDesk((error) => (trouble.value = `The desk could not go on: ${messageOf(error)}`)));

  /** Works out what changed; a newer call makes an older one's result void. */
  async function compute(): Promise<void> {
    const piece = current();
    if (!piece) return;
    askedFrom = piece.tune;
    const turn = (computing += 1);
    const found = await desk().work(piece, (share) => turn === computing && (making.value = share));
    if (turn === computing) making.value = null;
    if (found === STALE) return;
    facts.value = found;
    shown = turn;
    if (!stripsShown.value) return;
    const same = drawn?.staff === found.staff && drawn.instrument === found.instrument;
    if (!same || staves.value.size === 0) await engrave(found);
  }

  /** Works out what an edit left to be worked out. */
  function refresh(): Promise<void> {
    const tune = current()?.tune;
    const visible = !stripsShown.value || (drawn !== null && drawn.staff === facts.value?.staff);
    return askedFrom === tune && visible ? Promise.resolve() : compute();
  }

  /** While the writing page stands in their place, strips are not engraved: its lines come first. */
  function showStrips(shown: boolean): void {
    stripsShown.value = shown;
  }

  /** Fills the strips from the top, each as soon as it is engraved. */
  async function engrave({ staff, instrument, form }: DeskFacts): Promise<void> {
    const turn = (engraving += 1);
    drawn = { staff, instrument };
    const lines = new Map<string, EngravedLine>();
    try {
      for (const phrase of phrasesOf(form)) {
        const line = await engraver.engrave(phraseLine(staff, phrase), instrument, goesOn(staff, phrase.from));
        if (turn !== engraving) return;
        lines.set(staffKey(phrase), line);
        staves.value = new Map([...staves.value, ...lines]);
      }
      staves.value = lines;
    } catch (error) {
      if (turn !== engraving) return;
      drawn = null;
      trouble.value = `A line could not be engraved: ${messageOf(error)}`;
    }
  }

  /** Nothing is open any more. */
  function clear(): void {
    facts.value = null;
    drawn = null;
    clearStaves();
    trouble.value = null;
  }

  function clearStaves(): void {
    engraving += 1;
    staves.value = new Map();
  }

  /** After a failure: everything anew, in a new worker. */
  function restart(): Promise<void> {
    trouble.value = null;
    client = null;
    drawn = null;
    return compute();
  }

  return {
    facts,
    staves,
    trouble,
    making,
    compute,
    /** Whether the facts are what was asked for last; else newer ones are on their way. */
    isCurrent: () => shown === computing,
    refresh,
    showStrips,
    stripsShown,
    clear,
    clearStaves,
    restart,
    /** Questions about what is shown; STALE answers are about something that is gone. */
    ask: ((...asked: readonly unknown[]) =>
      (desk().ask as (...all: readonly unknown[]) => unknown)(...asked)) as DeskClient['ask'],
    /** The same for what takes long: with progress, and it can be called off. */
    askLong: ((...asked: readonly unknown[]) =>
      (desk().askLong as (...all: readonly unknown[]) => unknown)(...asked)) as DeskClient['askLong'],
  };
}

/** The desk's keyboard: one table that acts and that the help shows. */
import { onKeyStroke } from '@vueuse/core';
import type { Finger } from '@nokta/core/hand';
import type { Pass } from './passes.ts';

/** What keys do; what comes back is of no interest to them. */
export interface DeskActions {
  /** @param more adds to what is chosen */
  moveNote(by: 1 | -1, more: boolean): unknown;
  movePhrase(by: 1 | -1): unknown;
  setFinger(finger: Finger): unknown;
  cycleString(): unknown;
  /** The next string above or below on which the note can be played. */
  moveString(by: 1 | -1): unknown;
  /** The next place of the hand above or below. */
  movePosition(by: 1 | -1): unknown;
  toggleShift(): unknown;
  toggleHold(): unknown;
  nextAlternative(): unknown;
  turnBow(): unknown;
  toggleSlur(): unknown;
  toggleLock(): unknown;
  togglePlay(): unknown;
  playPhrase(): unknown;
  toggleLoop(): unknown;
  /** Runs at once, or when what is being undone is undone. */
  afterSteps(run: () => unknown): void;
  undo(): unknown;
  redo(): unknown;
  toggleHelp(): unknown;
  nextPass(by: 1 | -1): unknown;
  /** Asks for which grade and instrument a version is wanted. */
  askVersion(): unknown;
  /** Begins or ends writing. */
  write(): unknown;
  /** Some keys belong to the pass that is shown. */
  pass(): Pick<Pass, 'keys'>;
  inPass(command: string): unknown;
  /** Most keys belong to the writing page. */
  writing(): boolean;
}

interface KeyRow {
  readonly keys: readonly string[];
  readonly shown: readonly string[];
  readonly does: string;
  run(actions: DeskActions, key: string, event: KeyboardEvent): void;
}

export const KEY_ROWS: readonly KeyRow[] = [
  {
    keys: ['ArrowLeft', 'ArrowRight'],
    shown: ['←', '→'],
    does: 'note before, note after; with Shift, choose several',
    run: (actions, key, event) => actions.moveNote(key === 'ArrowRight' ? 1 : -1, event.shiftKey),
  },
  {
    keys: ['ArrowUp', 'ArrowDown'],
    shown: ['↑', '↓'],
    does: 'phrase above, phrase below',
    run: (actions, key) => actions.movePhrase(key === 'ArrowDown' ? 1 : -1),
  },
  {
    keys: ['0', '1', '2', '3', '4'],
    shown: ['0', '–', '4'],
    does: 'set the finger and keep it',
    run: (actions, key) => actions.setFinger(Number(key) as Finger),
  },
  { keys: ['s'], shown: ['S'], does: 'same note on another string', run: (actions) => actions.cycleString() },
  {
    keys: ['-', '+', '='],
    shown: ['−', '+'],
    does: 'string below, string above',
    run: (actions, key) => actions.moveString(key === '-' ? -1 : 1),
  },
  {
    keys: [',', '.'],
    shown: [',', '.'],
    does: 'the hand lower, the hand higher',
    run: (actions, key) => actions.movePosition(key === ',' ? -1 : 1),
  },
  {
    keys: ['m'],
    shown: ['M'],
    does: 'the hand moves to this note, or need not',
    run: (actions) => actions.toggleShift(),
  },
  { keys: ['d'], shown: ['D'], does: 'this finger stays down, or need not', run: (actions) => actions.toggleHold() },
  { keys: ['a'], shown: ['A'], does: 'next alternative', run: (actions) => actions.nextAlternative() },
  {
    keys: ['l'],
    shown: ['L'],
    does: 'keep this finger (in Parts, this phrase; in a grade’s version, this note), or free it',
    run: (actions) => actions.toggleLock(),
  },
  { keys: ['v'], shown: ['V'], does: 'turn the bow, or let it come', run: (actions) => actions.turnBow() },
  {
    keys: ['u'],
    shown: ['U'],
    does: 'slur to the note before, or cut the slur',
    run: (actions) => actions.toggleSlur(),
  },
  { keys: [' '], shown: ['Space'], does: 'play and stop', run: (actions) => actions.togglePlay() },
  { keys: ['p'], shown: ['P'], does: 'play this phrase', run: (actions) => actions.playPhrase() },
  { keys: ['o'], shown: ['O'], does: 'loop this phrase', run: (actions) => actions.toggleLoop() },
  {
    keys: ['[', ']'],
    shown: ['[', ']'],
    does: 'pass before, pass after',
    run: (actions, key) => actions.nextPass(key === ']' ? 1 : -1),
  },
  {
    keys: ['w'],
    shown: ['W'],
    does: 'a version for another grade or instrument',
    run: (actions) => actions.askVersion(),
  },
  {
    keys: ['e', 'Escape'],
    shown: ['E', 'Esc'],
    does: 'write and mend the tune; leave writing',
    run: (actions, key) => (key === 'e' || actions.writing()) && actions.write(),
  },
  { keys: ['?'], shown: ['?'], does: 'show these keys', run: (actions) => actions.toggleHelp() },
];

/** A pass's keys, as a table of keys shows them. */
export const passRows = ({ keys = [] }: Pick<Pass, 'keys'>): readonly KeyRow[] =>
  keys.map(({ key, command, does }) => ({
    keys: [key],
    shown: [key.toUpperCase()],
    does,
    run: (actions) => actions.inPass(command),
  }));

/** Keys of the desk that go on working while a tune is written. */
const WHILE_WRITING = new Set([' ', '[', ']', '?', 'Escape']);

/** What takes text, or has keys of its own. */
const OWN_KEYS =
  'input, textarea, select, .cm-editor, [contenteditable="true"], [role="dialog"], [role="combobox"], [role="listbox"], [role="slider"], [role="menu"]';

/** Keys belong to the desk, but space and Enter press the button that has the focus. */
function isFree(event: KeyboardEvent): boolean {
  const target = event.target instanceof Element ? event.target : null;
  if (event.altKey || target?.closest(OWN_KEYS)) return false;
  const presses = event.key === ' ' || event.key === 'Enter';
  return !presses || !target?.closest('button, a[href]');
}

/** Text fields have an undo of their own; switches, sliders and lists have not. */
export function takesText(target: EventTarget | null): boolean {
  if (target instanceof HTMLTextAreaElement) return true;
  if (!(target instanceof HTMLInputElement) || target.closest('[role="combobox"]')) return false;
  return !['checkbox', 'radio', 'range'].includes(target.type);
}

export function useDeskKeys(actions: DeskActions): void {
  onKeyStroke(true, (event) => {
    const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
    if (event.ctrlKey || event.metaKey) {
      if (key !== 'z' && key !== 'y') return;
      if (takesText(event.target)) return;
      event.preventDefault();
      return key === 'y' || event.shiftKey ? actions.redo() : actions.undo();
    }
    const rows = [...passRows(actions.pass()), ...KEY_ROWS];
    const row = rows.find(({ keys }) => keys.includes(key));
    if (!row || !isFree(event)) return;
    if (actions.writing() && !WHILE_WRITING.has(key)) return;
    event.preventDefault();
    actions.afterSteps(() => row.run(actions, key, event));
  });
}

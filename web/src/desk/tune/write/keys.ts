/** The keyboard while writing: one table that acts and that the help shows. */
import { watch } from 'vue';
import { onKeyStroke, useEventListener } from '@vueuse/core';
import { writeAbc, type readAbc } from '@nokta/core/formats';
import type { Letter, NoteType, Tune } from '@nokta/core/music';
import { takesText } from '../../shared/keys.ts';
import type { useWriter } from './writer.ts';

type Writer = ReturnType<typeof useWriter>;

interface WriteRow {
  readonly keys: readonly string[];
  readonly shown: readonly string[];
  readonly does: string;
  run(writer: Writer, event: KeyboardEvent): void;
}

const LENGTHS: Readonly<Record<string, NoteType>> = {
  '1': 'whole',
  '2': 'half',
  '4': 'quarter',
  '8': 'eighth',
  '6': '16th',
  '9': '32nd',
};

export const WRITE_ROWS: readonly WriteRow[] = [
  {
    keys: ['a', 'b', 'c', 'd', 'e', 'f', 'g'],
    shown: ['A', '–', 'G'],
    does: 'write a note; with a box, change it; with Shift, double stop',
    run: (writer, event) => {
      const letter = event.key.toUpperCase() as Letter;
      if (event.shiftKey) writer.chordLetter(letter);
      else writer.letter(letter);
    },
  },
  {
    keys: Object.keys(LENGTHS),
    shown: ['1', '2', '4', '8', '6', '9'],
    does: 'whole, half, quarter, eighth, sixteenth (6), thirty-second (9)',
    run: (writer, event) => writer.setLength(LENGTHS[event.key]!),
  },
  { keys: ['.'], shown: ['.'], does: 'dot', run: (writer) => writer.dot() },
  { keys: ['3'], shown: ['3'], does: 'triplet', run: (writer) => writer.triplet() },
  { keys: ['z'], shown: ['Z'], does: 'rest', run: (writer) => writer.rest() },
  { keys: ['t'], shown: ['T'], does: 'tie to the next note', run: (writer) => writer.tie() },
  { keys: ['s'], shown: ['S'], does: 'slur', run: (writer) => writer.slur() },
  {
    keys: ['ArrowUp', 'ArrowDown'],
    shown: ['↑', '↓'],
    does: 'a step up or down; with Shift, an octave',
    run: (writer, event) => writer.pitchBy(event.shiftKey ? 'octave' : 'step', event.key === 'ArrowUp' ? 1 : -1),
  },
  {
    keys: ['+', '-', '#'],
    shown: ['+', '−'],
    does: 'a semitone up or down',
    run: (writer, event) => writer.pitchBy('semitone', event.key === '-' ? -1 : 1),
  },
  {
    keys: ['ArrowLeft', 'ArrowRight'],
    shown: ['←', '→'],
    does: 'note before, note after; with Shift, choose; with Ctrl, by bars',
    run: (writer, event) => {
      const by = event.key === 'ArrowRight' ? 1 : -1;
      if (event.ctrlKey || event.metaKey) writer.moveBar(by, event.shiftKey);
      else writer.move(by, event.shiftKey);
    },
  },
  {
    keys: ['Home', 'End'],
    shown: ['Home', 'End'],
    does: 'first note; write on at the end',
    run: (writer, event) => writer.toEdge(event.key === 'End'),
  },
  { keys: ['Enter'], shown: ['Enter'], does: 'write after this note, or box it', run: (writer) => writer.toggleMode() },
  { keys: ['Backspace', 'Delete'], shown: ['⌫'], does: 'delete', run: (writer) => writer.erase() },
  { keys: ['|'], shown: ['|'], does: 'bar line here, for a pickup', run: (writer) => writer.barLine() },
  { keys: [':'], shown: [':'], does: 'repeat begins (at a first note) or ends', run: (writer) => writer.repeat() },
  { keys: ['w'], shown: ['W'], does: 'words under the notes', run: (writer) => (writer.entry = 'words') },
  { keys: ['h'], shown: ['H'], does: 'chord symbol', run: (writer) => (writer.entry = 'chord') },
  { keys: ['m'], shown: ['M'], does: 'next bar that wants mending', run: (writer) => writer.nextTrouble() },
  { keys: ['r'], shown: ['R'], does: 'repair it', run: (writer) => writer.mendHere() },
];

export const CLIP_ROW = { shown: ['Ctrl', 'C', 'V'], does: 'copy and paste bars; X cuts' };

/** Keys that stay free for the controls of the page. */
function isFree(event: KeyboardEvent): boolean {
  const target = event.target instanceof Element ? event.target : null;
  if (event.altKey || takesText(event.target)) return false;
  if (target?.closest('[role="dialog"], [role="combobox"], [role="listbox"], [role="menu"], .cm-editor')) return false;
  const presses = event.key === ' ' || event.key === 'Enter';
  return !presses || !target?.closest('button:not([data-note-button]), a[href]');
}

export function useWriteKeys(writer: Writer): void {
  onKeyStroke(true, (event) => {
    if (!writer.active || !isFree(event)) return;
    const arrow = event.key.startsWith('Arrow');
    if ((event.ctrlKey || event.metaKey) && !arrow) return;
    const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
    const row = WRITE_ROWS.find(({ keys }) => keys.includes(key));
    if (!row) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    row.run(writer, event);
  });
  const own = (event: Event) =>
    writer.active && !takesText(event.target) && !(event.target as Element | null)?.closest?.('.cm-editor');
  useEventListener(document, ['copy', 'cut'], (event: ClipboardEvent) => {
    if (!own(event) || window.getSelection()?.toString()) return;
    const copied = writer.copy();
    if (!copied) return;
    event.preventDefault();
    // Other programs get the bars as ABC.
    event.clipboardData?.setData('text/plain', writeAbc(copied));
    if (event.type === 'cut') writer.erase();
  });
  useEventListener(document, 'paste', (event: ClipboardEvent) => {
    if (!own(event)) return;
    event.preventDefault();
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (!text.includes('|')) writer.paste(null);
    else if (reader) writer.paste(barsIn(text, reader));
    else
      void loadReader().then((loaded) => {
        if (loaded) writer.paste(barsIn(text, loaded));
        else writer.say('Nokta’s server does not answer. Start it, and paste again.');
      });
  });
  // It is there before anything is pasted: what is pasted stands where the caret was, whatever is typed next.
  watch(
    () => writer.active,
    (active) => active && void loadReader(),
    { immediate: true },
  );
}

type Reader = typeof readAbc;
/** Large, and a desk needs it only where it is written. */
let reader: Reader | null = null;
/** @returns null where it is not there yet and the server does not answer */
async function loadReader(): Promise<Reader | null> {
  const loaded = reader ?? (await import('./reader.ts').catch(() => null))?.readAbc ?? null;
  reader = loaded;
  return loaded;
}

/** Bars that came as ABC, with or without a head. */
function barsIn(text: string, readBars: Reader): Tune | null {
  const read = readBars(/^K:/m.test(text) ? text : `X:1\nL:1/8\nK:C\n${text}\n`);
  return read.ok ? read.value.tune : null;
}

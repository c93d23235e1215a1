import { describe, expect, it, vi } from 'vitest';
import type { TuneRecord } from '@nokta/api';
import { applyChange, type TuneChange } from '@nokta/core/edit';
import { readAbc, writeAbc } from '@nokta/core/formats';
import type { Tune } from '@nokta/core/music';
import { api } from '../../../api/client.ts';
import { useDesk } from '../../rooms/store.ts';
import { linesOf } from './lines.ts';
import { useWriter } from './writer.ts';
import { freshStores } from '../../test/fresh.ts';

vi.mock('../../../workers/index.ts', async () => (await import('../../test/workers.ts')).fakeWorkers());

function tuneOf(music: string): Tune {
  const read = readAbc(`X:1\nT:Trial\nM:4/4\nL:1/8\nK:G\n${music}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.value.tune;
}

const NO_STEPS = { undo: null, redo: null, undoAt: null, redoAt: null };

/** A desk with this tune open, and a server that keeps its edits. */
async function openWriter(music: string) {
  let stored = tuneOf(music);
  let revision = 1;
  const record: TuneRecord = {
    id: 't1',
    title: 'Trial',
    revision,
    tune: stored,
    tags: [],
    ...NO_STEPS,
    arrangements: [],
    aside: 0,
  };
  vi.spyOn(api, 'tune').mockResolvedValue(record);
  const edit = vi.spyOn(api, 'edit').mockImplementation((id, _, change: TuneChange) => {
    stored = applyChange(stored, change);
    revision += 1;
    return Promise.resolve({ id, revision, made: revision, others: false, tune: stored, ...NO_STEPS });
  });
  const desk = useDesk();
  await desk.open('t1');
  const writer = useWriter();
  const music_ = () => writeAbc(writer.tune!).split('K:G\n')[1]!.trim().replaceAll('\n', ' ');
  return { desk, writer, edit, music: music_, stored: () => writeAbc(stored).split('K:G\n')[1]!.trim() };
}

freshStores();

describe('a MIDI keyboard', () => {
  it('writes what is pressed at its own pitch, spelled as the key has it, or changes the note in the box', async () => {
    const { writer, music } = await openWriter('G8 |]');
    writer.toEdge(true);
    writer.setLength('quarter');
    for (const key of [66, 71, 79]) writer.strike(key);
    expect(music()).toBe('G8 | F2 B2 g2 |]');
    writer.goTo(writer.events[1]!.id);
    writer.strike(64);
    expect(music()).toBe('G8 | E2 B2 g2 |]');
  });
});

describe('over rests', () => {
  it('fills an empty bar note by note, with the length that was set', async () => {
    const { writer, music } = await openWriter('G8 | z8 | A8 |]');
    writer.goTo(writer.events[1]!.id);
    writer.setLength('quarter');
    for (const letter of ['A', 'B', 'C'] as const) writer.letter(letter);
    expect(music()).toBe('G8 | A2 B2 c2 z2 | A8 |]');
    expect(writer.mode).toBe('box');
    writer.letter('D');
    expect(music()).toBe('G8 | A2 B2 c2 d2 | A8 |]');
    expect(writer.mode).toBe('caret');
  });

  it('takes the value of a rest that is shorter than the note, and signs of its place', async () => {
    const { writer, music } = await openWriter('G6 "D"z | A8 |]');
    writer.goTo(writer.events[1]!.id);
    writer.length = 'half';
    writer.letter('A');
    expect(music()).toBe('G6 "D"A | A8 |]');
  });
});

describe('a tie', () => {
  it('goes to the next note, to the one before, or to the one that is written next', async () => {
    const { writer, music } = await openWriter('G4 |]');
    writer.start();
    writer.setLength('quarter');
    writer.letter('A');
    writer.tie();
    expect(music()).toBe('G4 A2 |]');
    writer.letter('A');
    expect(music()).toBe('G4 A2- A2 |]');
    writer.letter('A');
    writer.tie();
    expect(music()).toBe('G4 A2- A2- | A2 |]');
    writer.tie();
    writer.letter('B');
    expect(music()).toBe('G4 A2- A2- | A2 B2 |]');
    writer.goTo(writer.events[0]!.id);
    writer.tie();
    expect(writer.current!.kind === 'note' && writer.current!.heads[0]!.tied).toBeFalsy();
  });
});

it('says why a key does nothing', async () => {
  const { desk, writer } = await openWriter('G4 z4 |]');
  writer.goTo(writer.events[1]!.id);
  const silent: [string, () => void, RegExp][] = [
    ['tie', () => writer.tie(), /begins at a note/],
    ['rest', () => writer.rest(), /already/],
    ['step', () => writer.pitchBy('step', 1), /no pitch/],
    ['double stop', () => writer.chordLetter('E'), /needs a note/],
    ['paste', () => writer.paste(), /Nothing is copied/],
    ['slur', () => writer.slur(), /two notes/],
  ];
  for (const [key, press, why] of silent) {
    desk.spoken = '';
    press();
    expect(desk.spoken, key).toMatch(why);
  }
});

describe('at the end of the tune', () => {
  it('writes on behind the last note, with the length that was set', async () => {
    const { writer, music } = await openWriter('G8 |]');
    writer.start();
    expect(writer.mode).toBe('caret');
    writer.setLength('quarter');
    writer.letter('A');
    writer.dot();
    writer.letter('B');
    writer.rest();
    expect(music()).toBe('G8 | A2 B3 z3 |]');
  });

  it('takes an unfinished bar for wrong only once writing is over', async () => {
    const { writer } = await openWriter('G8 |]');
    writer.start();
    writer.letter('A');
    expect(writer.troubles).toEqual([]);
    writer.move(-1, false);
    expect(writer.troubles).toHaveLength(1);
  });

  it('goes back to plain notes after a triplet', async () => {
    const { writer, music } = await openWriter('G8 |]');
    writer.start();
    writer.triplet();
    for (const letter of ['A', 'B', 'C', 'D'] as const) writer.letter(letter);
    expect(music()).toContain('(3:2:3ABc d');
  });

  it('opens a new bar where a bar line is asked for, once', async () => {
    const { writer, music } = await openWriter('D |]');
    writer.start();
    writer.barLine();
    writer.letter('G');
    writer.letter('A');
    expect(music()).toBe('D | GA |]');
  });

  it('takes back what was written last', async () => {
    const { writer, music } = await openWriter('G4 A4 |]');
    writer.start();
    writer.erase();
    expect(music()).toBe('G4 |]');
    writer.letter('B');
    expect(music()).toBe('G4 B |]');
  });
});

describe('with a box', () => {
  it('changes pitch and length of what is there', async () => {
    const { writer, music } = await openWriter('G4 A4 | B8 |]');
    writer.start('n1');
    writer.letter('D');
    writer.setLength('quarter');
    expect(music()).toBe('D2 A4 | B8 |]');
    writer.pitchBy('octave', 1);
    expect(music()).toBe('d2 A4 | B8 |]');
  });

  it('chooses a run of notes and changes all of it', async () => {
    const { writer, music } = await openWriter('G2A2 B2c2 |]');
    writer.start('n1');
    writer.move(1, true);
    writer.move(1, true);
    expect([...writer.chosen]).toEqual(['n1', 'n2', 'n3']);
    writer.setLength('eighth');
    expect(music()).toBe('GA Bc2 |]');
    writer.erase();
    expect(music()).toBe('c2 |]');
  });

  it('sets words and chords, repeats, ties and slurs', async () => {
    const { writer, music } = await openWriter('G4 G4 | A4 B4 |]');
    writer.start('n1');
    writer.writeSyllable({ text: 'oh' });
    writer.writeChord('Em');
    writer.tie();
    writer.repeat();
    writer.goTo('n3');
    writer.slur();
    const text = music();
    expect(text).toContain('|: "Em"G4- G4');
    expect(text).toContain('(A4 B4)');
    expect(text).toContain('w:oh');
  });

  it('makes a double stop above the note', async () => {
    const { writer, music } = await openWriter('G8 |]');
    writer.start('n1');
    writer.chordLetter('D');
    expect(music()).toBe('[Gd]8 |]');
    writer.chordLetter('D');
    expect(music()).toBe('G8 |]');
  });
});

describe('bars', () => {
  it('are copied and pasted behind the chosen ones', async () => {
    const { writer, music } = await openWriter('G8 | A8 | B8 |]');
    writer.start('n1');
    writer.move(1, true);
    writer.copy();
    writer.toEdge(true);
    writer.paste();
    expect(music()).toBe('G8 | A8 | B8 | G8 | A8 |]');
  });

  it('that want mending are found one after the other, and mended', async () => {
    const { writer, music } = await openWriter('G8 | A6 | B8 | c6 | d8 |]');
    writer.start('n1');
    writer.nextTrouble();
    expect(writer.barIndex).toBe(1);
    writer.mendHere();
    writer.nextTrouble();
    expect(writer.barIndex).toBe(3);
    writer.mendHere();
    expect(writer.troubles).toEqual([]);
    expect(music()).toBe('G8 | A8 | B8 | c8 | d8 |]');
  });
});

it('saves every step in order, however fast they come', async () => {
  const { desk, writer, edit, stored } = await openWriter('G8 |]');
  writer.start();
  for (const letter of ['A', 'B', 'C', 'D', 'E'] as const) writer.letter(letter);
  await vi.waitFor(() => {
    expect(edit).toHaveBeenCalledTimes(5);
    // It is saved between two of them as well.
    expect(desk.saveState).toBe('saved');
  });
  expect(edit.mock.calls.map(([, revision]) => revision)).toEqual([1, 2, 3, 4, 5]);
  expect(edit.mock.calls.map(([, , , label]) => label)).toEqual([
    'write A',
    'write B',
    'write C',
    'write D',
    'write E',
  ]);
  expect(stored()).toBe(writeAbc(writer.tune!).split('K:G\n')[1]!.trim());
});

it('stands somewhere that is still there when an undo takes its note away', async () => {
  const { desk, writer } = await openWriter('G8 |]');
  writer.start();
  const before = writer.tune!;
  writer.letter('A');
  desk.editTune(before, 'as it was');
  await vi.waitFor(() => expect(writer.at).toBe('n1'));
});

describe('lines', () => {
  it('hold four bars, pickups beside them, and begin anew with a part', () => {
    const { bars } = tuneOf('D | G8 | G8 | G8 | G8 | G8 |: A8 | A8 :|');
    expect(linesOf(bars)).toEqual([
      { from: 0, to: 4 },
      { from: 5, to: 5 },
      { from: 6, to: 7 },
    ]);
  });
});

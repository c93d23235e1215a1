import { describe, expect, it, vi } from 'vitest';
import { decided } from '@nokta/core/arrange';
import { useDesk } from '../rooms/store.ts';
import { fakeServer } from '../test/server.ts';
import { useGradeActions } from './actions.ts';
import { freshStores } from '../test/fresh.ts';

vi.mock('../../workers/index.ts', async () => (await import('../test/workers.ts')).fakeWorkers());

async function openDesk() {
  fakeServer();
  const desk = useDesk();
  await desk.open('t1');
  vi.spyOn(desk, 'editTune');
  return { desk, actions: useGradeActions() };
}
const chords = (desk: ReturnType<typeof useDesk>) =>
  desk.tune!.tune.bars.flatMap(({ events }) => events.flatMap(({ chordSymbol }) => chordSymbol ?? []));

freshStores();

describe('chords', () => {
  it('are corrected in the key that is shown, and written in the tune’s own with the found ones', async () => {
    const { desk, actions } = await openDesk();
    await desk.decide({ key: { transpose: 2 } }, 'key');
    await actions.setChord(0, 'F#m');
    expect(chords(desk)[0]).toBe('Em');
    expect(chords(desk).length).toBeGreaterThan(1);
  });

  it('that stand already are not spelled anew by a correction elsewhere', async () => {
    const { desk, actions } = await openDesk();
    await actions.setChord(0, 'Bb');
    await desk.decide({ key: { transpose: 6 } }, 'key');
    const second = 4 * 3360;
    await actions.setChord(second, 'C#m');
    expect(chords(desk)[0]).toBe('Bb');
  });
});

describe('slots', () => {
  it('are set and let go of by phrase and time, and the view goes back to the first time', async () => {
    const { desk, actions } = await openDesk();
    const [phrase] = desk.phrases;
    await actions.setSlot(phrase!, 2, 'octave-up');
    expect(desk.record!.decisions.version.slots).toEqual({ [phrase!.notes[0]!]: { 2: 'octave-up' } });
    await desk.showRound(2);
    await actions.setSlot(phrase!, 2, null);
    expect(desk.record!.decisions.version.slots).toEqual({});
    expect(desk.round).toBe(1);
  });
});

describe('wishes that an edit undid', () => {
  it('are let go of, and no others', async () => {
    const { desk, actions } = await openDesk();
    const bar = desk.tune!.tune.bars[0]!.id;
    await desk.decide(
      {
        version: {
          grade: 1,
          kept: ['key', `${bar}@0`, 'gone@0'],
          locked: ['gone', 'n1'],
          slots: { gone: { 2: 'bare' } },
        },
      },
      'wishes',
    );
    await actions.forget(desk.arrangement!.graded!.undone);
    const { kept, locked, slots } = decided(desk.record!.decisions, {}).version;
    expect([kept, locked, slots]).toEqual([['key', `${bar}@0`], ['n1'], {}]);
  });
});

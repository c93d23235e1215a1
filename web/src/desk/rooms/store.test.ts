import { describe, expect, it, vi } from 'vitest';
import { splitPhrase } from '@nokta/core/form';
import { UnreachableError, api } from '../../api/client.ts';
import { useHandActions } from '../hand/actions.ts';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from './store.ts';
import { tellNotice } from '../../notices/notices.ts';
import { NO_STEPS, fakeServer, tune } from '../test/server.ts';
import { failNext } from '../test/workers.ts';
import { freshStores } from '../test/fresh.ts';

vi.mock('../../workers/index.ts', async () => (await import('../test/workers.ts')).fakeWorkers());

const settled = () => new Promise((resolve) => setTimeout(resolve, 5));

async function openDesk() {
  const desk = useDesk();
  await desk.open('t1');
  return desk;
}

freshStores();

describe('opening', () => {
  it('shows the tune worked out, with its first note selected', async () => {
    fakeServer();
    const desk = await openDesk();
    expect(desk.phrases.map(({ label }) => label)).toEqual(['A1']);
    expect(desk.selected?.id).toBe('n1');
    expect(desk.staves.size).toBe(1);
  });

  it('says what went wrong and can try again', async () => {
    fakeServer();
    vi.spyOn(api, 'tune').mockRejectedValueOnce(new UnreachableError());
    const desk = await openDesk();
    expect(desk.problem).toContain('does not answer');
    await desk.open('t1');
    expect(desk.problem).toBeNull();
    expect(desk.arrangement).not.toBeNull();
  });
});

describe('deciding', () => {
  it('shows at once, saves in the background, and saves quick decisions one after the other', async () => {
    const server = fakeServer();
    const desk = await openDesk();
    void desk.decide({ pace: { tempo: 70 } }, 'tempo');
    void desk.decide({ key: { transpose: 2 } }, 'key');
    expect(desk.saveState).toBe('saving');
    expect(desk.record!.decisions).toMatchObject({ pace: { tempo: 70 }, key: { transpose: 2 } });
    await settled();
    expect(desk.saveState).toBe('saved');
    expect(server.stored()).toMatchObject({ pace: { tempo: 70 }, key: { transpose: 2 } });
    expect(server.decide.mock.calls.map(([, revision]) => revision)).toEqual([1, 2]);
    expect(desk.record).toMatchObject({ revision: 3, undo: 'key' });
  });

  it('locks the finger of a note and frees it again', async () => {
    const server = fakeServer();
    const desk = await openDesk();
    const note = desk.selected!;
    const explained = await desk.ask('explain', note.id);
    if (explained === STALE) throw new Error('stale');
    await useHandActions().finger(note, explained!.alternatives[0]!.stops, 'open A');
    expect(desk.selected).toMatchObject({ locked: true, stops: [{ finger: 0 }] });
    await useHandActions().freeFinger(note);
    await settled();
    expect(server.stored().hand.locks).toEqual({});
    expect(desk.selected!.locked).toBe(false);
  });

  it('engraves nothing anew for a finger, but does for a key', async () => {
    fakeServer();
    const desk = await openDesk();
    const { engraver } = await import('../../workers/index.ts');
    vi.mocked(engraver.engrave).mockClear();
    await useHandActions().finger(desk.selected!, desk.selected!.stops, 'x');
    expect(engraver.engrave).not.toHaveBeenCalled();
    await desk.decide({ key: { transpose: 2 } }, 'key');
    expect(engraver.engrave).toHaveBeenCalled();
  });

  it('engraves no strips while they are not shown, and all of them when they are again', async () => {
    fakeServer();
    vi.spyOn(api, 'edit').mockResolvedValue({ id: 't1', revision: 2, made: 2, others: false, tune, ...NO_STEPS });
    const desk = await openDesk();
    const { engraver } = await import('../../workers/index.ts');
    vi.mocked(engraver.engrave).mockClear();
    desk.showStrips(false);
    desk.editTune({ ...tune, bars: tune.bars.slice(0, 1) }, 'delete a bar');
    await desk.refresh();
    expect(desk.notes).toHaveLength(8);
    expect(engraver.engrave).not.toHaveBeenCalled();
    desk.showStrips(true);
    await desk.refresh();
    expect(engraver.engrave).toHaveBeenCalledTimes(1);
    await desk.refresh();
    expect(engraver.engrave).toHaveBeenCalledTimes(1);
  });

  it('parts the tune as one step of its history, and says why where it cannot', async () => {
    fakeServer();
    const edit = vi
      .spyOn(api, 'edit')
      .mockResolvedValue({ id: 't1', revision: 2, made: 2, others: false, tune, ...NO_STEPS });
    const desk = await openDesk();
    const note = desk.notes[4]!.id;
    expect(await desk.part((now) => splitPhrase(now, note), 'split a phrase')).toBe(true);
    expect(desk.phrases.map(({ label, held }) => `${label} ${held}`)).toEqual(['A1 true', 'A2 true']);
    await vi.waitFor(() => expect(edit).toHaveBeenCalledTimes(1));
    expect(edit.mock.calls[0]![2]).toMatchObject({ fields: { before: { parting: null } } });
    expect(await desk.part((now) => splitPhrase(now, note), 'split a phrase')).toBe(false);
    expect(desk.refused).toBe('A phrase begins here already.');
    expect(edit).toHaveBeenCalledTimes(1);
  });

  it('chooses several notes, to and fro', async () => {
    fakeServer();
    const desk = await openDesk();
    expect(desk.range).toEqual([]);
    desk.rangeFrom = desk.notes[3]!.id;
    desk.selectedId = desk.notes[1]!.id;
    expect(desk.range.map(({ id }) => id)).toEqual(desk.notes.slice(1, 4).map(({ id }) => id));
  });

  it('undoes and does again', async () => {
    const server = fakeServer();
    const desk = await openDesk();
    await desk.decide({ pace: { tempo: 70 } }, 'tempo');
    await desk.step('undo');
    expect(server.stored().pace.tempo).toBeNull();
    expect(desk.arrangement!.tempo).toBe(120);
    expect(desk.spoken).toBe('Undone: tempo');
    await desk.step('redo');
    expect(desk.arrangement!.tempo).toBe(70);
    await desk.step('redo');
    expect(desk.spoken).toBe('Done again: tempo');
  });

  it('lets what is decided during an undo build on what is undone', async () => {
    const server = fakeServer();
    const desk = await openDesk();
    await desk.decide({ pace: { tempo: 70 } }, 'tempo');
    void desk.step('undo');
    await new Promise<void>((resolve) =>
      desk.afterSteps(() => {
        expect(desk.record!.decisions.pace.tempo).toBeNull();
        void desk.decide({ key: { transpose: 2 } }, 'key').then(resolve);
      }),
    );
    await settled();
    expect(server.stored()).toMatchObject({ pace: { tempo: null }, key: { transpose: 2 } });
    let ran = false;
    desk.afterSteps(() => (ran = true));
    expect(ran).toBe(true);
  });

  it('undoes once where the answer was lost, however often it is asked for', async () => {
    const server = fakeServer();
    const desk = await openDesk();
    await desk.decide({ pace: { tempo: 70 } }, 'tempo');
    await desk.decide({ pace: { tempo: 80 } }, 'tempo again');
    await settled();
    const undo = server.undo.getMockImplementation()!;
    const lose = async (...asked: Parameters<typeof undo>) => {
      await undo(...asked);
      throw new UnreachableError();
    };
    server.undo.mockImplementationOnce(lose).mockImplementationOnce(lose);
    await desk.step('undo');
    expect(desk.problem).toContain('does not answer');
    await desk.step('undo');
    expect(server.stored().pace.tempo).toBe(70);
    expect(desk.record!.decisions.pace.tempo).toBe(70);
    expect(desk.problem).toBeNull();
    await desk.step('undo');
    expect(desk.record!.decisions.pace.tempo).toBeNull();
  });

  describe('when another window was quicker', () => {
    async function late() {
      const server = fakeServer();
      const desk = await openDesk();
      server.elsewhere({ key: { ...server.stored().key, transpose: -3 }, pace: { tempo: 50 } });
      void desk.decide({ key: { transpose: 2 } }, 'key');
      void desk.decide({ key: { transpose: 4 } }, 'key again');
      await settled();
      return { server, desk };
    }

    it('lays what does not touch it over it, and shows both', async () => {
      const server = fakeServer();
      const desk = await openDesk();
      server.elsewhere({ pace: { tempo: 50 } });
      void desk.decide({ key: { transpose: 2 } }, 'key');
      void desk.decide({ key: { transpose: 4 } }, 'key again');
      await settled();
      expect(desk.saveState).toBe('saved');
      expect(desk.conflict).toBeNull();
      expect(server.stored()).toMatchObject({ pace: { tempo: 50 }, key: { transpose: 4 } });
      expect(desk.record!.decisions).toMatchObject({ pace: { tempo: 50 }, key: { transpose: 4 } });
    });

    it('shows both sides of what collides, and loses neither', async () => {
      const { server, desk } = await late();
      expect(desk.saveState).toBe('held');
      expect(desk.conflict!.entries.map(({ label }) => label)).toEqual(['key', 'key again']);
      expect(desk.conflict!.held).toMatchObject({ why: 'stale', theirs: { decisions: { pace: { tempo: 50 } } } });
      expect(desk.record!.decisions).toMatchObject({ key: { transpose: 4 } });
      expect(server.stored()).toMatchObject({ pace: { tempo: 50 }, key: { transpose: -3 } });
    });

    it('keeps what is here on top of what is there, and what was decided elsewhere with it', async () => {
      const { server, desk } = await late();
      desk.keepMine();
      await settled();
      expect(desk.saveState).toBe('saved');
      expect(server.stored()).toMatchObject({ key: { transpose: 4 }, pace: { tempo: 50 } });
      expect(desk.record).toMatchObject({ undo: '2 changes', revision: 3, decisions: { pace: { tempo: 50 } } });
    });

    it('or takes what is there', async () => {
      const { server, desk } = await late();
      await desk.takeTheirs();
      expect(desk.saveState).toBe('saved');
      expect(desk.record!.decisions).toMatchObject({ pace: { tempo: 50 }, key: { transpose: -3 } });
      expect(server.decide).toHaveBeenCalledTimes(1);
    });
  });

  it('keeps a decision that did not reach the server and sends it when asked', async () => {
    const server = fakeServer();
    const desk = await openDesk();
    server.decide.mockRejectedValueOnce(new UnreachableError());
    await desk.decide({ pace: { tempo: 70 } }, 'tempo');
    await settled();
    expect(desk.saveState).toBe('waiting');
    expect(desk.problem).toContain('does not answer');
    expect(desk.record!.decisions.pace.tempo).toBe(70);
    desk.retry();
    await settled();
    expect(desk.saveState).toBe('saved');
    expect(desk.problem).toBeNull();
    expect(server.stored().pace.tempo).toBe(70);
  });

  it('is not saved while one of two kinds of change waits, whatever else has arrived', async () => {
    const server = fakeServer();
    const desk = await openDesk();
    vi.spyOn(api, 'edit').mockResolvedValue({
      id: 't1',
      revision: 2,
      made: 2,
      others: false,
      tune: { ...tune, title: 'New' },
      ...NO_STEPS,
    });
    server.decide.mockRejectedValueOnce(new UnreachableError()).mockRejectedValueOnce(new UnreachableError());
    await desk.decide({ pace: { tempo: 70 } }, 'tempo');
    await desk.setFields({ title: 'New' }, 'rename');
    await settled();
    expect(desk.tune!.revision).toBe(2);
    expect(desk.saveState).toBe('waiting');
    desk.retry();
    await settled();
    expect(desk.saveState).toBe('saved');
    expect(server.stored().pace.tempo).toBe(70);
  });

  it('undoes nothing while something waits, and says why', async () => {
    const server = fakeServer();
    const desk = await openDesk();
    server.decide.mockRejectedValueOnce(new UnreachableError());
    await desk.decide({ pace: { tempo: 70 } }, 'tempo');
    await settled();
    await desk.step('undo');
    expect(desk.problem).toContain('not saved yet');
    expect(desk.record!.decisions.pace.tempo).toBe(70);
  });
});

it('sets the tune for another instrument in its usual tuning and best octave', async () => {
  fakeServer();
  const desk = await openDesk();
  await desk.decide({ key: { tuning: 'low-pair-up' } }, 'tuning');
  await desk.setInstrument('cello');
  expect(desk.record!.decisions).toMatchObject({
    key: { instrument: 'cello', tuning: 'standard', transpose: -12 },
  });
  expect(desk.notes.every(({ stops }) => stops.length > 0)).toBe(true);
});

it('makes the bare version once and finds it again', async () => {
  fakeServer();
  const make = vi
    .spyOn(api, 'arrange')
    .mockImplementation((_, decisions) =>
      Promise.resolve({ id: 'a2', tuneId: 't1', decisions, revision: 1, ...NO_STEPS }),
    );
  const desk = await openDesk();
  await desk.showVersion('bare');
  expect(desk.notes.length).toBeLessThan(9);
  expect(desk.arrangement!.changes.length).toBeGreaterThan(0);
  await desk.showVersion('tune');
  expect(desk.notes).toHaveLength(9);
  await desk.showVersion('bare');
  expect(make).toHaveBeenCalledTimes(1);
});

it('has an arrangement once that it hears of before it is answered', async () => {
  fakeServer();
  const desk = await openDesk();
  const made = { id: 'a2', tuneId: 't1', decisions: desk.record!.decisions, revision: 1, ...NO_STEPS };
  vi.spyOn(api, 'arrangement').mockResolvedValue(made);
  vi.spyOn(api, 'arrange').mockImplementation(async () => {
    tellNotice({ kind: 'arrangement', id: 'a2', family: 't1', revision: 1, entry: null });
    await settled();
    expect(desk.records.map(({ id }) => id)).toEqual(['a1', 'a2']);
    return made;
  });
  await desk.makeArrangement({});
  expect(desk.records.map(({ id }) => id)).toEqual(['a1', 'a2']);
  expect(desk.record!.id).toBe('a2');
});

describe('when the worker fails', () => {
  it('says so, and goes on in a new one', async () => {
    fakeServer();
    const desk = await openDesk();
    failNext('out of memory');
    await desk.decide({ key: { transpose: 2 } }, 'key');
    expect(desk.trouble).toContain('out of memory');
    expect(desk.record!.decisions.key.transpose).toBe(2);
    await desk.restart();
    expect(desk.trouble).toBeNull();
    expect(desk.arrangement!.tune.bars[0]!.key.tonic.letter).toBe('A');
  });
});

describe('versions', () => {
  it('makes a grade for another instrument in one step, in its octave, and shows it again without making it twice', async () => {
    const server = fakeServer();
    const desk = await openDesk();
    const arranged = vi.spyOn(api, 'arrange');
    await desk.showVersion(2, 'cello');
    expect(desk.record!.decisions).toMatchObject({
      version: { grade: 2 },
      key: { instrument: 'cello', transpose: -12 },
    });
    expect(desk.arrangement!.instrument.id).toBe('cello');
    const [first] = desk.records;
    await desk.switchTo(first!.id);
    await desk.showVersion(2, 'cello');
    expect(desk.record!.decisions.key.instrument).toBe('cello');
    expect(arranged).toHaveBeenCalledTimes(1);
    expect(server.stored()).toBeDefined();
  });

  it('finds a version by what it is: size, hand, tuning, name and contract, never only grade and instrument', async () => {
    fakeServer();
    const desk = await openDesk();
    const arranged = vi.spyOn(api, 'arrange');
    const MIA = { id: 'l1', name: 'Mia', limits: {} };
    const half = {
      name: 'Half-size violin',
      length: 280,
      strings: null,
      clef: null,
      tensions: null,
      gauge: null,
      reach: null,
    };
    // A grade 2 for the violin is there already.
    await desk.showVersion(2);
    const full = desk.record!.id;
    await desk.switchTo('a1');
    const forMia = { key: { make: half }, hand: { learner: MIA } };
    await desk.decide(forMia, 'the hand of Mia');
    expect(desk.versionState(2, 'violin')).toBeNull();
    await desk.showVersion(2);
    const hers = desk.record!;
    expect(hers.id).not.toBe(full);
    expect(hers.decisions).toMatchObject({ key: { make: half }, hand: { learner: MIA }, version: { grade: 2 } });
    expect(desk.names.map(({ name }) => name)).toEqual([
      'The tune, half-size violin, Mia',
      'Grade 2, violin',
      'Grade 2, half-size violin, Mia',
    ]);
    // Named, it is a version of its own; so is one with another tuning.
    await desk.decide({ version: { name: 'For the concert' } }, 'name');
    expect(desk.versionState(2, 'violin')).toBeNull();
    await desk.switchTo(full);
    await desk.decide({ key: { tuning: 'low-pair-up' } }, 'tuning');
    expect(desk.versionState('tune', 'violin')).toBeNull();
    expect(arranged).toHaveBeenCalledTimes(2);
  });

  it('goes back to what was there when a version is called off', async () => {
    fakeServer();
    const desk = await openDesk();
    const own = desk.record!.id;
    expect(desk.canCallOff()).toBe(false);
    const making = desk.showVersion(1, 'bass');
    await vi.waitFor(() => expect(desk.record!.id).not.toBe(own));
    await desk.callOff();
    await making;
    expect(desk.record!.id).toBe(own);
    expect(desk.arrangement!.instrument.id).toBe('violin');
  });

  it('shows another time round without deciding anything', async () => {
    const server = fakeServer();
    const desk = await openDesk();
    const first = desk.phrases[0]!.notes[0]!;
    await desk.decide({ version: { slots: { [first]: { 2: 'octave-up' } } } }, 'octave');
    const before = desk.notes[0]!.pitches[0]!.octave;
    await desk.showRound(2);
    expect(desk.notes[0]!.pitches[0]!.octave).toBe(before + 1);
    await settled();
    expect(server.decide).toHaveBeenCalledTimes(1);
  });
});

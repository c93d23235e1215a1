/** The desk's keys without a browser: what each does to the desk, and what it says. */
import { describe, expect, it, vi } from 'vitest';
import { useDeskCommands } from './commands.ts';
import { PASSES } from './passes.ts';
import { passRows, type DeskActions } from './shared/keys.ts';
import { PASS_IDS, lanesIn, pass, type DeskPlaces, type PassId } from './shared/passes.ts';
import { useHand } from './hand/store.ts';
import { useDesk } from './rooms/store.ts';
import { NO_STEPS, fakeServer, tune } from './test/server.ts';
import { api } from '../api/client.ts';
import { freshStores } from './test/fresh.ts';

vi.mock('../workers/index.ts', async () => (await import('./test/workers.ts')).fakeWorkers());

async function openDesk(pass: PassId = 'hand') {
  const server = fakeServer();
  const desk = useDesk();
  await desk.open('t1');
  const places = {
    pass: () => pass,
    goTo: vi.fn(),
    select: (id: string, _focus?: boolean, more?: boolean) => desk.choose(id, more),
    toggleHelp: vi.fn(),
    askVersion: vi.fn(),
    askName: vi.fn(),
  } satisfies DeskPlaces;
  const transport = { toggle: vi.fn(), playPhrase: vi.fn(), toggleLoop: vi.fn() };
  const writer = { active: false, at: 'n3', start: vi.fn(), stop: vi.fn() };
  const commands = useDeskCommands(places, transport, writer as unknown as Parameters<typeof useDeskCommands>[2]);
  return { server, desk, places, transport, writer, commands };
}

freshStores();

describe('walking', () => {
  it('goes from note to note, stops at the ends, and chooses several', async () => {
    const { desk, commands } = await openDesk();
    commands.moveNote(-1, false);
    expect(desk.selected!.id).toBe('n1');
    commands.moveNote(1, false);
    commands.moveNote(1, true);
    commands.moveNote(1, true);
    expect(desk.range.map(({ id }) => id)).toEqual(['n2', 'n3', 'n4']);
    commands.moveNote(1, false);
    expect(desk.range).toEqual([]);
    commands.movePhrase(1);
    expect(desk.selected!.id).toBe('n5');
  });

  it('goes from pass to pass, not beyond the last', async () => {
    const { places, commands } = await openDesk('grades');
    commands.nextPass(1);
    expect(places.goTo).toHaveBeenLastCalledWith('sheet');
    const last = await openDesk('teach');
    last.commands.nextPass(1);
    expect(last.places.goTo).not.toHaveBeenCalled();
  });

  it('writes at the selected note, in the Tune pass', async () => {
    const { places, writer, commands } = await openDesk('hand');
    commands.write();
    expect(places.goTo).toHaveBeenCalledWith('tune');
    expect(writer.start).toHaveBeenCalledWith('n1');
    writer.active = true;
    commands.write();
    expect(writer.stop).toHaveBeenCalled();
    commands.togglePlay();
  });
});

describe('fingers', () => {
  it('are set by number, kept, and freed', async () => {
    const { desk, commands } = await openDesk();
    const now = desk.selected!.stops[0]!.finger;
    await commands.setFinger(now === 4 ? 0 : 4);
    expect(desk.selected).toMatchObject({ locked: true });
    expect(desk.selected!.stops[0]!.finger).not.toBe(now);
    expect(desk.spoken).toMatch(/^Now /);
    commands.toggleLock();
    await vi.waitFor(() => expect(desk.selected!.locked).toBe(false));
    await commands.setFinger(now);
    expect(desk.selected).toMatchObject({ locked: true, stops: [{ finger: now }] });
  });

  it('are set one after the other, however quickly the keys come', async () => {
    const { desk, commands } = await openDesk();
    const other = desk.selected!.stops[0]!.finger === 4 ? 0 : 4;
    const string = desk.selected!.stops[0]!.string;
    const decide = vi.spyOn(desk, 'decide');
    const pressed = [commands.cycleString(), commands.cycleString(), commands.setFinger(other)];
    commands.moveNote(1, false);
    await Promise.all(pressed);
    const [first, second] = desk.notes;
    const strings = decide.mock.calls.map(([{ hand }]) => hand!.locks!['n1']!.stops[0]!.string);
    expect(strings[0]).not.toBe(string);
    expect(strings[1]).toBe(string);
    expect(first).toMatchObject({ locked: true, stops: [{ finger: other }] });
    expect(second!.locked).toBe(false);
  });

  it('cost one trip to the worker where the reasons of the note stand already, and two where they do not', async () => {
    const { desk, commands } = await openDesk();
    const ask = vi.spyOn(desk, 'ask');
    await useHand().explain();
    expect(ask).toHaveBeenCalledTimes(1);
    await commands.cycleString();
    expect(desk.selected!.locked).toBe(true);
    expect(ask).toHaveBeenCalledTimes(1);
    // Its reasons are those of before: this key has to ask.
    await commands.cycleString();
    expect(ask).toHaveBeenCalledTimes(2);
  });

  it('are refused in words where the note cannot be played so', async () => {
    const { desk, commands } = await openDesk();
    desk.choose('n2');
    await commands.setFinger(4);
    if (desk.selected!.locked) return;
    expect(desk.spoken).toBe('Finger 4 cannot play this note here.');
  });

  it('go to another string, and to another place of the hand', async () => {
    const { desk, commands } = await openDesk();
    const { string } = desk.selected!.stops[0]!;
    await commands.cycleString();
    expect(desk.selected!.stops[0]!.string).not.toBe(string);
    const { base } = desk.selected!;
    await commands.movePosition(1);
    expect(desk.selected!.base).toBeGreaterThan(base!);
    desk.choose('n1');
    await commands.moveString(1);
    await commands.moveString(1);
    expect(desk.spoken).toMatch(/no higher string|^Now/);
  });

  it('stay down, and the hand moves, where it is told', async () => {
    const { desk, server, commands } = await openDesk();
    desk.choose('n2');
    commands.toggleShift();
    expect(desk.spoken).toBe('The hand moves here.');
    await vi.waitFor(() => expect(server.stored().hand.locks['n2']).toMatchObject({ shift: true }));
    desk.choose('n9');
    commands.toggleHold();
    expect(desk.spoken).toBe('This finger is not needed again soon.');
  });
});

describe('parts', () => {
  it('have their keys only in their pass', async () => {
    const { commands } = await openDesk('hand');
    expect(commands.pass().keys).toBeUndefined();
    const parts = await openDesk('parts');
    expect(parts.commands.pass().keys!.map(({ key }) => key)).toContain('b');
    parts.commands.inPass('name');
    expect(parts.places.askName).toHaveBeenCalled();
  });

  it('are split at the selected note, and joined again', async () => {
    const { desk, commands } = await openDesk('parts');
    vi.spyOn(api, 'edit').mockResolvedValue({
      id: 't1',
      revision: 2,
      made: 2,
      others: false,
      tune: desk.tune!.tune,
      ...NO_STEPS,
    });
    desk.choose('n5');
    commands.inPass('split');
    await vi.waitFor(() => expect(desk.phrases).toHaveLength(2));
    commands.inPass('join');
    await vi.waitFor(() => expect(desk.phrases).toHaveLength(1));
    expect(desk.spoken).toContain('joined');
  });

  it('move by one note for each key, however quickly the keys come', async () => {
    const { desk, commands } = await openDesk('parts');
    vi.spyOn(api, 'edit').mockImplementation(() =>
      Promise.resolve({ id: 't1', revision: 2, made: 2, others: false, tune, ...NO_STEPS }),
    );
    desk.choose('n5');
    await Promise.all([commands.inPass('split'), commands.inPass('later'), commands.inPass('later')]);
    expect(desk.phrases.map(({ notes }) => notes[0])).toEqual(['n1', 'n7']);
    expect(desk.selectedId).toBe('n7');
    const going = commands.inPass('earlier');
    desk.choose('n1');
    await going;
    expect(desk.phrases[1]!.notes[0]).toBe('n6');
    expect(desk.selectedId).toBe('n1');
  });
});

describe('passes', () => {
  it('say what they are in an entry of their own, with a command for each of their keys', async () => {
    const { places } = await openDesk();
    expect(PASSES.map(({ id }) => id)).toEqual([...PASS_IDS]);
    for (const { keys = [], commands, label, hint } of PASSES) {
      expect(label && hint).toBeTruthy();
      const known = commands?.(places) ?? {};
      for (const { command } of keys) expect(known[command], `${label}: ${command}`).toBeTypeOf('function');
      expect(new Set(keys.map(({ key }) => key)).size).toBe(keys.length);
    }
  });

  it('that are new need an entry and nothing else: its lanes, its keys', () => {
    const entry = pass({
      id: 'teach',
      label: 'Humming',
      hint: 'What is hummed',
      panel: { render: () => null },
      without: ['bow'],
      with: ['hair'],
      keys: [{ key: 'q', command: 'hum', does: 'hum it' }],
      commands: () => ({ hum: () => 'hummed' }),
    });
    expect(lanesIn(entry, ['bow', 'tab'])).toEqual(['tab', 'hair']);
    expect(passRows(entry)).toMatchObject([{ keys: ['q'], shown: ['Q'], does: 'hum it' }]);
    const inPass = vi.fn((command: string) => entry.commands!({} as DeskPlaces)[command]!());
    passRows(entry)[0]!.run({ inPass } as unknown as DeskActions, 'q', {} as KeyboardEvent);
    expect(inPass).toHaveReturnedWith('hummed');
  });
});

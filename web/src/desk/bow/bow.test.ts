/** The Bow pass by its keys, on a desk with a server that keeps what it is told. */
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, expect, it, vi } from 'vitest';
import { useDesk } from '../store.ts';
import { fakeServer } from '../test/server.ts';
import { useBowActions } from './actions.ts';
import { useBowCommands } from './commands.ts';

vi.mock('../../workers/index.ts', async () => (await import('../test/workers.ts')).fakeWorkers());

const settled = () => new Promise((resolve) => setTimeout(resolve, 5));

beforeEach(() => {
  setActivePinia(createPinia());
  vi.restoreAllMocks();
});

async function openDesk() {
  const server = fakeServer();
  const desk = useDesk();
  await desk.open('t1');
  return { server, desk, keys: useBowCommands(), actions: useBowActions() };
}

it('turns the stroke of the selected note, and lets it come again', async () => {
  const { server, desk, keys, actions } = await openDesk();
  desk.select(desk.notes[2]!.id);
  expect(actions.strokeOf('n3')!.direction).toBe('down');
  await keys.turnBow();
  expect(actions.strokeOf('n3')).toMatchObject({ direction: 'up', hook: true });
  expect(desk.spoken).toBe('Now up-bow');
  await keys.turnBow();
  expect(actions.strokeOf('n3')).toMatchObject({ direction: 'down', hook: false });
  await settled();
  expect(server.stored().bow.turns).toEqual({});
});

it('slurs to the note before, and cuts again', async () => {
  const { server, desk, keys, actions } = await openDesk();
  desk.select(desk.notes[1]!.id);
  await keys.toggleSlur();
  expect(actions.strokeOf('n2')!.notes).toEqual(['n1', 'n2']);
  await keys.toggleSlur();
  expect(actions.strokeOf('n2')!.notes).toEqual(['n2']);
  await settled();
  expect(server.stored().bow.slurs).toEqual({ n2: 'cut' });
});

it('changes school and first stroke, undoes, and forgets what was set', async () => {
  const { server, desk, keys, actions } = await openDesk();
  await actions.setSchool('down-on-the-beat');
  await actions.setStart('up');
  desk.select(desk.notes[2]!.id);
  await keys.turnBow();
  await settled();
  expect(server.stored().bow).toMatchObject({ school: 'down-on-the-beat', start: 'up' });
  await actions.forget();
  expect(desk.record!.decisions.bow).toEqual({ school: 'down-on-the-beat', start: null, turns: {}, slurs: {} });
  await desk.step('undo');
  expect(desk.record!.decisions.bow.start).toBe('up');
});

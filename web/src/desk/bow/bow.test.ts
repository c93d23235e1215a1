/** The Bow pass by its keys, on a desk with a server that keeps what it is told. */
import { expect, it, vi } from 'vitest';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../rooms/store.ts';
import { fakeServer } from '../test/server.ts';
import { useBowActions } from './actions.ts';
import { groupsOf, sameAs } from './patternActions.ts';
import { useBowCommands, usePassCommands } from './commands.ts';
import type { PassCommands } from '../shared/passes.ts';
import { useRepairs } from './repairs.ts';
import { freshStores } from '../test/fresh.ts';

vi.mock('../../workers/index.ts', async () => (await import('../test/workers.ts')).fakeWorkers());

const settled = () => new Promise((resolve) => setTimeout(resolve, 5));

freshStores();

async function openDesk() {
  const server = fakeServer();
  const desk = useDesk();
  await desk.open('t1');
  return {
    server,
    desk,
    keys: { ...usePassCommands(), ...useBowCommands() } as PassCommands,
    actions: useBowActions(),
  };
}

it('turns the stroke of the selected note, and lets it come again', async () => {
  const { server, desk, keys, actions } = await openDesk();
  desk.select(desk.notes[2]!.id);
  expect(actions.strokeOf('n3')!.direction).toBe('down');
  await keys['turnBow']!();
  expect(actions.strokeOf('n3')).toMatchObject({ direction: 'up', hook: true });
  expect(desk.spoken).toBe('Now up-bow');
  await keys['turnBow']!();
  expect(actions.strokeOf('n3')).toMatchObject({ direction: 'down', hook: false });
  await settled();
  expect(server.stored().bow.turns).toEqual({});
});

it('slurs to the note before, and cuts again', async () => {
  const { server, desk, keys, actions } = await openDesk();
  desk.select(desk.notes[1]!.id);
  await keys['toggleSlur']!();
  expect(actions.strokeOf('n2')!.notes).toEqual(['n1', 'n2']);
  await keys['toggleSlur']!();
  expect(actions.strokeOf('n2')!.notes).toEqual(['n2']);
  await settled();
  expect(server.stored().bow.slurs).toEqual({ n2: 'cut' });
});

it('changes school and first stroke, undoes, and forgets what was set', async () => {
  const { server, desk, keys, actions } = await openDesk();
  await actions.setSchool('down-on-the-beat');
  await actions.setStart('up');
  desk.select(desk.notes[2]!.id);
  await keys['turnBow']!();
  await settled();
  expect(server.stored().bow).toMatchObject({ school: 'down-on-the-beat', start: 'up' });
  await actions.forget();
  expect(desk.record!.decisions.bow).toMatchObject({ school: 'down-on-the-beat', start: null, turns: {}, slurs: {} });
  await desk.step('undo');
  expect(desk.record!.decisions.bow.start).toBe('up');
});

it('lifts and stops, and says where there is no time to lift', async () => {
  const { server, desk, keys } = await openDesk();
  desk.select(desk.notes[1]!.id);
  await keys['stop']!();
  expect(desk.spoken).toBe('Stopped before this stroke');
  expect(desk.arrangement!.bowing.strokes[1]).toMatchObject({ direction: 'down', hook: true });
  await keys['lift']!();
  expect(desk.refused).toContain('no time to lift');
  expect(desk.arrangement!.bowing.strokes[1]).toMatchObject({ direction: 'down', retake: true });
  await keys['lift']!();
  await settled();
  expect(server.stored().bow.joints).toEqual({});
});

it('lays a pattern on a phrase, on all like it, on chosen notes and on the tune, and takes it away again', async () => {
  const { server, desk, keys, actions } = await openDesk();
  const phrase = desk.phrases[0]!;
  desk.select(phrase.notes[0]!);
  await actions.layPattern('pairs', 'phrase');
  expect(desk.record!.decisions.bow.laid).toEqual([
    { from: phrase.notes[0], to: phrase.notes.at(-1), pattern: 'pairs' },
  ]);
  expect(actions.patternAt(phrase)).toBe('pairs');
  await keys['pattern']!();
  expect(actions.patternAt(phrase)).toBe('pairs-across');
  expect(desk.record!.decisions.bow.laid).toHaveLength(1);
  await actions.layPattern(null, 'phrase');
  expect(desk.record!.decisions.bow.laid).toEqual([]);
  await actions.layPattern('one-and-three', 'same');
  expect(desk.record!.decisions.bow.laid).toHaveLength(sameAs(desk.phrases, phrase).length);
  desk.choose(phrase.notes[0]!);
  desk.choose(phrase.notes[3]!, true);
  await actions.layPattern('pairs', 'selection');
  expect(desk.record!.decisions.bow.laid.at(-1)).toEqual({
    from: phrase.notes[0],
    to: phrase.notes[3],
    pattern: 'pairs',
  });
  await actions.layPattern('four-to-a-bow', 'tune');
  await settled();
  expect(server.stored().bow.pattern).toBe('four-to-a-bow');
});

it('keeps the strokes of chosen notes as a pattern, and gives it up everywhere', async () => {
  const { desk, actions } = await openDesk();
  const { notes } = desk.phrases[0]!;
  desk.select(notes[1]!);
  await actions.toggleSlur(notes[1]!);
  desk.choose(notes[0]!);
  desk.choose(notes[2]!, true);
  await actions.recordPattern('Two and one');
  expect(desk.record!.decisions.bow.own).toEqual([expect.objectContaining({ id: 'own-1', name: 'Two and one' })]);
  const own = desk.record!.decisions.bow.own[0]!;
  expect(own.groups).toHaveLength(2);
  expect(groupsOf('own-1', [own]).slice(0, 2)).toEqual(own.groups);
  await actions.layPattern('own-1', 'tune');
  await actions.dropPattern('own-1');
  expect(desk.record!.decisions.bow).toMatchObject({ own: [], pattern: null });
});

it('marks parts of the bow by hand and from the plan, and takes what brings the bow back', async () => {
  const { desk, keys, actions } = await openDesk();
  const [first] = desk.phrases[0]!.notes;
  await actions.setRegion(first!, 'middle');
  expect(desk.arrangement!.bowing.regions).toEqual({ [first!]: 'middle' });
  await actions.setRegion(first!, null);
  expect(desk.record!.decisions.bow.regions).toEqual({});
  desk.travelWanted = true;
  await vi.waitFor(() => expect(desk.travel).not.toBeNull());
  await actions.markRegions();
  expect(Object.keys(desk.record!.decisions.bow.regions).length).toBeGreaterThan(0);
  const before = desk.travel!.flags.length;
  await vi.waitFor(() => expect(useRepairs().found).not.toBeNull());
  await keys['repair']!();
  await vi.waitFor(() => expect(desk.travel?.flags.length ?? 0).toBeLessThan(Math.max(1, before)));
});

it('sets accents and length signs by keys, on the note itself, and takes a pattern’s accent away', async () => {
  const { server, desk, keys, actions } = await openDesk();
  const [first] = desk.notes;
  desk.select(first!.id);
  await keys['accent']!();
  await keys['staccato']!();
  expect(actions.signsAt(first!.id)).toEqual(['accent', 'staccato']);
  const written = desk.arrangement!.tune.bars.flatMap(({ events }) => events).find(({ id }) => id === first!.id);
  expect(written).toMatchObject({ decorations: ['accent', 'staccato'] });
  await keys['accent']!();
  await settled();
  expect(server.stored().signs.strokeSigns).toEqual({ [first!.id]: ['staccato'] });
  await actions.layPattern('long-short-shuffle', 'tune');
  const [accented] = desk.arrangement!.bowing.accents;
  await actions.toggleSign(accented!, 'accent');
  expect(desk.arrangement!.bowing.accents.has(accented!)).toBe(false);
  expect(actions.signsAt(accented!)).toEqual([]);
  await desk.step('undo');
  expect(desk.arrangement!.bowing.accents.has(accented!)).toBe(true);
});

it('sets the signs that the bow calls for, and leaves those set by hand', async () => {
  const { desk, keys, actions } = await openDesk();
  desk.select(desk.notes[1]!.id);
  await keys['stop']!();
  await actions.suggestSigns();
  expect(actions.signsAt('n2')).toEqual(['staccato']);
  await keys['staccato']!();
  await actions.suggestSigns();
  expect(actions.signsAt('n2')).toEqual([]);
});

it('settles both hands, once', async () => {
  const { desk, actions } = await openDesk();
  await actions.setSchool('down-on-the-beat');
  const told = await actions.settleHands();
  expect(told).toMatch(/settled/i);
  expect(await actions.settleHands()).toBe('Both hands are settled.');
  expect(desk.refused).toBeNull();
});

it('plans the strokes of a phrase, and leaves the others', async () => {
  const { desk } = await openDesk();
  const phrase = desk.phrases[0]!;
  const planned = await desk.ask('planBowFor', phrase.notes);
  if (planned === STALE) throw new Error('stale');
  expect(planned.after).toBeLessThanOrEqual(planned.before);
  for (const id of Object.keys(planned.change?.slurs ?? {})) expect(phrase.notes).toContain(id);
});

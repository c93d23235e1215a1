/** What the desk shows after many changes is what working it out from the start gives; and little crosses over. */
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange, decided, type DecisionChange, type Decisions } from '@nokta/core/arrange';
import { deleteBars } from '@nokta/core/edit';
import { readAbc } from '@nokta/core/formats';
import { lockOf } from '@nokta/core/hand';
import type { Tune } from '@nokta/core/music';
import { deskClient } from './deskClient.ts';
import { makeDeskService, type DeskChange } from './deskService.ts';
import type { DeskFacts, FactsPatch } from './facts.ts';
import { STALE, type DeskPort } from './protocol.ts';

const REEL = `X:1
T:Trial
M:4/4
L:1/8
Q:1/4=120
K:G
D2|:G2BG dGBG|ABcA BGAB|c2ec B2dB|ABAG FDEF|G2BG dGBG|ABcA BGAB|c2ec B2dB|A2AF G2D2:|
|:g2gf edBd|g2gf e2ge|d2dB c2ce|dBAG A2D2|g2gf edBd|g2gf e2ge|d2dB cAFA|G2GF G4:|`;

function tuneFrom(abc: string): Tune {
  const read = readAbc(abc);
  if (!read.ok) throw new Error('unreadable');
  return read.value.tune;
}
const tune = tuneFrom(REEL);

/** A worker in the same thread, behind the same wall as a real one: everything is copied. */
function walled() {
  const service = makeDeskService();
  const failures: unknown[] = [];
  const crossed: { change: DeskChange; patch: FactsPatch }[] = [];
  const port: DeskPort<DeskChange> = {
    ...service,
    async derive(revision, change) {
      await Promise.resolve();
      const patch = structuredClone(await service.derive(revision, structuredClone(change)));
      crossed.push({ change, patch });
      return patch;
    },
  };
  return { client: deskClient(port, (error) => failures.push(error)), crossed, failures };
}

const size = (value: unknown) =>
  JSON.stringify(value, (_, one: unknown) => (one instanceof Map ? [...(one as Map<unknown, unknown>)] : one)).length;

function expectSame(facts: DeskFacts | typeof STALE, source: Tune, decisions: Decisions): void {
  if (facts === STALE) throw new Error('stale');
  const whole = arrange(source, decisions);
  expect(facts.tune).toEqual(whole.tune);
  expect(facts.form).toEqual(whole.form);
  expect(facts.bowing).toEqual(whole.bowing);
  expect(facts.counts).toEqual(whole.counts);
  expect(facts.instrument).toEqual(whole.instrument);
  expect(facts.fingering).toEqual({
    ...whole.fingering,
    notes: whole.fingering.notes.map((note) => ({ ...note, alternatives: [] })),
  });
}

const { notes } = arrange(tune).fingering;
const LOCK: DecisionChange = {
  hand: { locks: { [notes[5]!.id]: lockOf({ stops: [{ ...notes[5]!.stops[0]!, finger: 0 }] }, 'violin') } },
};

describe('the desk’s facts', () => {
  it('are the same after any change as when all is worked out at once', async () => {
    const { client } = walled();
    const changes: readonly DecisionChange[] = [
      {},
      LOCK,
      { key: { transpose: 5 } },
      { version: { grade: 'bare' } },
      { key: { instrument: 'cello', transpose: -12 } },
      { version: { grade: 'tune' }, hand: { locks: {} } },
      { key: { instrument: 'violin', transpose: 0 } },
    ];
    let decisions = FIRST_DECISIONS;
    for (const change of changes) {
      decisions = decided(decisions, change);
      expectSame(await client.work({ tune, decisions }), tune, decisions);
    }
    const shorter = deleteBars(tune, { from: 3, to: 3 });
    expectSame(await client.work({ tune: shorter, decisions }), shorter, decisions);
  });

  it('take little to cross over after a decision', async () => {
    const { client, crossed } = walled();
    await client.work({ tune, decisions: FIRST_DECISIONS });
    await client.work({ tune, decisions: decided(FIRST_DECISIONS, LOCK) });
    const [first, second] = crossed;
    expect(second!.change.tune).toBeUndefined();
    expect(Object.keys(second!.change.decisions!)).toEqual(['hand']);
    expect(size(second!.patch)).toBeLessThan(size(first!.patch) / 10);
    expect(size(second!.patch)).toBeLessThan(8_000);
    expect(Object.keys(second!.patch.facts)).toEqual([]);
  });

  it('are shown for the last of quick changes only, with all of them in', async () => {
    const { client } = walled();
    const first = client.work({ tune, decisions: FIRST_DECISIONS });
    const second = client.work({ tune, decisions: decided(FIRST_DECISIONS, LOCK) });
    const last = decided(decided(FIRST_DECISIONS, LOCK), { key: { transpose: 2 } });
    const third = client.work({ tune, decisions: last });
    expect(await Promise.all([first, second])).toEqual([STALE, STALE]);
    expectSame(await third, tune, last);
  });

  it('answer questions about what is shown', async () => {
    const { client, failures } = walled();
    await client.work({ tune, decisions: FIRST_DECISIONS });
    const explained = await client.ask('explain', notes[0]!.id);
    expect(explained !== STALE && explained!.alternatives.length).toBeGreaterThan(0);
    const second = await client.ask('secondBest');
    if (second === STALE || !second) throw new Error('no second');
    const { differing, extra } = second.comparison;
    expect(differing.length).toBeGreaterThan(0);
    expect(extra).toBeGreaterThanOrEqual(0);
    // A fingering of its own: where it differs its positions go with its fingers.
    for (const note of second.fingering.notes) expect(note.base === null).toBe(note.stops.length === 0);
    expect(await client.ask('beside', decided(FIRST_DECISIONS, LOCK))).toMatchObject({
      comparison: { differing: expect.any(Array) as string[] },
    });
    expect(failures).toEqual([]);
  });
});

it('begins with a version, though the next change comes before that is made', async () => {
  const { client, failures } = walled();
  const decisions = decided(FIRST_DECISIONS, { version: { grade: 1 } });
  const first = client.work({ tune, decisions });
  const again = client.work({ tune, decisions: decided(decisions, { pace: { tempo: 90 } }) });
  expect(await first).toBe(STALE);
  expectSame(await again, tune, decided(decisions, { pace: { tempo: 90 } }));
  expect(failures).toEqual([]);
});

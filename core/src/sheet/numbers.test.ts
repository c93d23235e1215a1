/** No drawing ever gets a number that is none, whatever was decided: every lane, on random tunes and decisions. */
import { readFileSync, readdirSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange, decided, type DecisionChange } from '../arrange/index.ts';
import { readAbc } from '../formats/index.ts';
import { isNote, type Tune } from '../music/index.ts';
import { arbitraryTune } from '../test/arbitrary.ts';
import { LANE_IDS, hairLine, lanesOf, sheetFacts } from './index.ts';

const DEMO = new URL('../../../server/src/demo/tunes/', import.meta.url);
const tunes = readdirSync(DEMO)
  .filter((name) => name.endsWith('.abc'))
  .map((name): [string, Tune] => {
    const read = readAbc(readFileSync(new URL(name, DEMO), 'utf8'));
    if (!read.ok) throw new Error(name);
    return [name, read.value.tune];
  });

/** What a teacher may do to some notes, one after the other; the numbers pick notes and what is done. */
type Deed = readonly [note: number, what: number, other: number];
const DEEDS = fc.array(fc.tuple(fc.nat(), fc.nat(7), fc.nat()), { maxLength: 14 });

function decisionsFrom(tune: Tune, deeds: readonly Deed[]): DecisionChange {
  const notes = tune.bars.flatMap(({ events }) => events.filter(isNote)).map(({ id }) => id);
  const [turns, joints, slurs, regions]: Record<string, never>[] = [{}, {}, {}, {}];
  const lengths: { from: string; to: string; share: number }[] = [];
  for (const [at, what, other] of deeds) {
    const note = notes[at % notes.length]!;
    const put = (into: Record<string, unknown> | undefined, value: unknown) => void (into![note] = value);
    if (what < 2) put(turns, what === 0 ? 'down' : 'up');
    else if (what < 4) put(joints, what === 2 ? 'lift' : 'stop');
    else if (what < 6) put(slurs, what === 4 ? 'joined' : 'cut');
    else if (what === 6) put(regions, (['lower half', 'middle', 'upper half'] as const)[other % 3]);
    else
      lengths.push({
        from: note,
        to: notes[Math.min(notes.length - 1, (at % notes.length) + (other % 5))]!,
        share: 0.5,
      });
  }
  return { bow: { turns, joints, slurs, regions, lengths } as DecisionChange['bow'] & object };
}

/** Every number in what is drawn, text of paths included. */
function* numbersIn(value: unknown, path = ''): Generator<readonly [string, number]> {
  if (typeof value === 'number') yield [path, value];
  else if (typeof value === 'string') {
    if (/NaN|Infinity|undefined/.test(value)) yield [`${path} ${value.slice(0, 80)}`, Number.NaN];
  } else if (value && typeof value === 'object')
    for (const [key, inner] of Object.entries(value)) yield* numbersIn(inner, `${path}.${key}`);
}

function faultIn(tune: Tune, change: DecisionChange): string | null {
  const arrangement = arrange(tune, decided(FIRST_DECISIONS, change));
  const events = arrangement.tune.bars.flatMap((bar) => bar.events.map(({ id }) => id));
  const place = new Map(events.map((id, index) => [id, 50 + 20 * index]));
  const x = (id: string) => place.get(arrangement.fingering.notes.find((note) => note.id === id)?.of ?? id);
  const travel = arrangement.travel();
  const hair = hairLine(arrangement.bowing, travel, new Set(events));
  const width = 60 + 20 * events.length;
  const lanes = lanesOf({ ...sheetFacts(arrangement), hair, x, width, barlines: [200] }, LANE_IDS);
  for (const [path, number] of numbersIn({ strokes: travel.strokes, lanes })) if (!Number.isFinite(number)) return path;
  return null;
}

function expectNumbers(tune: Tune, deeds: readonly Deed[]): void {
  expect(faultIn(tune, decisionsFrom(tune, deeds))).toBeNull();
}

describe('every number that is drawn is one', () => {
  it.each(tunes)('%s', (_, tune) =>
    fc.assert(
      fc.property(DEEDS, (deeds) => expectNumbers(tune, deeds)),
      { numRuns: 25 },
    ),
  );

  it('random tunes', () => fc.assert(fc.property(arbitraryTune(), DEEDS, expectNumbers), { numRuns: 150 }));

  it('all strokes one way, more of them than the hair has room for', () => {
    const [, tune] = tunes.find(([name]) => name.startsWith('foghorn'))!;
    const notes = tune.bars.flatMap(({ events }) => events.filter(isNote)).map(({ id }) => id);
    const turns = Object.fromEntries(notes.map((id) => [id, 'down' as const]));
    expect(faultIn(tune, { bow: { turns } })).toBeNull();
  });

  it('a lift without time, and the bow turned there', () => {
    const [, hornpipe] = tunes.find(([name]) => name.startsWith('foghorn'))!;
    const note = hornpipe.bars.flatMap(({ events }) => events.filter(isNote))[3]!.id;
    for (const direction of ['down', 'up'] as const)
      expect(faultIn(hornpipe, { bow: { joints: { [note]: 'lift' }, turns: { [note]: direction } } })).toBeNull();
  });
});

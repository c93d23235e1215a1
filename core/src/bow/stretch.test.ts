/** Strokes planned freely: against every way there is on small cases, and what a player would say on real ones. */
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { arrange, crossesIn } from '../arrange/index.ts';
import { tuneOf } from '../test/testing.ts';
import type { BowMark } from '../music/index.ts';
import { bowSlice, bowTune, planStretch, travelOf } from './index.ts';
import { FOLLOWS, cheapestStretch, type Follows, type StretchProblem } from './stretch.ts';

/** Every grouping, direction, way to follow and place; a search of its own. */
function everyWay(problem: StretchProblem): number {
  const { count, places, step, before } = problem;
  const from = (at: number, direction: BowMark | null, place: number): number => {
    if (at === count) return problem.after(direction!);
    let best = Infinity;
    for (const next of ['down', 'up'] as const) {
      for (const how of FOLLOWS) {
        const first = at === 0 && !before;
        if (first && (how !== 'turn' || next !== problem.first)) continue;
        if (!first && (how === 'turn') === (next === direction)) continue;
        const price = first ? 0 : problem.follows(at, how);
        const starts = first || how === 'lift' ? Array.from({ length: places }, (_, index) => index) : [place];
        for (let to = at + 1; to <= Math.min(count, at + problem.most); to += 1) {
          const stroke = problem.stroke(at, to, next);
          for (const start of starts) {
            for (let end = 0; end < places; end += 1) {
              if (next === 'down' ? end <= start : end >= start) continue;
              const strain = problem.strain((Math.abs(end - start) * step) / problem.natural(at, to, next));
              const here = price + stroke + strain + problem.outside(at, start) + problem.outside(at, end);
              if (here < best) best = Math.min(best, here + from(to, next, end));
            }
          }
        }
      }
    }
    return best;
  };
  return from(0, before?.direction ?? null, before?.place ?? 0);
}

describe('the cheapest strokes of a stretch', () => {
  const price = fc.constantFrom(0, 0.5, 1, 3, 7, Infinity);
  it('are those of a search through all of them', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 4 }),
        fc.array(price, { minLength: 40, maxLength: 40 }),
        fc.array(fc.integer({ min: 40, max: 300 }), { minLength: 8, maxLength: 8 }),
        fc.option(fc.record({ direction: fc.constantFrom('down' as const, 'up' as const), place: fc.nat(4) })),
        (count, prices, lengths, before) => {
          const at = (...key: number[]) => prices[key.reduce((sum, one) => (sum * 7 + one) % 40, 3)]!;
          const problem: StretchProblem = {
            count,
            most: 3,
            places: 5,
            step: 100,
            before,
            first: 'down',
            stroke: (from, to, direction) => at(from, to, Number(direction === 'up')),
            follows: (sound, how: Follows) => (how === 'turn' ? 0 : at(sound, how === 'stop' ? 5 : 6)),
            natural: (from, to) => lengths[(from * 3 + to) % 8]!,
            strain: (ratio) => 2 * Math.log(ratio) ** 2,
            outside: (sound, place) => (place === (sound + 1) % 5 ? 1 : 0),
            after: (direction) => (direction === 'down' ? 0 : 0.7),
          };
          const found = cheapestStretch(problem);
          const expected = everyWay(problem);
          if (expected === Infinity) expect(found).toBeNull();
          else expect(found!.cost).toBeCloseTo(expected, 9);
        },
      ),
      { numRuns: 150 },
    );
  });
});

const REEL = tuneOf('|: GABc dBGB | cBAG FADF | GABc dBGB | cAFA G4 :|', { key: 'G', tempo: '1/4=120' });
const facts = arrange(REEL);
const context = { ...facts, crosses: crossesIn(facts.fingering) };
const notesOf = (one: typeof facts) => one.form.parts.flatMap(({ phrases }) => phrases.flatMap(({ notes }) => notes));
const under = (one: typeof facts, change: object) => {
  const decided = { ...bowSlice.first, ...change };
  const bowing = bowTune(one.tune, one.form, decided, one.tempo);
  return { bowing, travel: travelOf(bowing, one.tune, one.form, one.tempo, one.instrument, decided) };
};

describe('a bowing planned for a stretch', () => {
  it('is never worse than what stands, and leaves nothing to plan', () => {
    const planned = planStretch(context, bowSlice.first, notesOf(facts));
    expect(planned.after).toBeLessThanOrEqual(planned.before);
    if (!planned.change) return;
    const again = planStretch(context, { ...bowSlice.first, ...planned.change }, notesOf(facts));
    expect(again.after).toBeGreaterThan(planned.after - 2);
  });

  it('brings a dotted run back to the hair: separate long and short strokes walk to the tip', () => {
    const dotted = arrange(
      tuneOf('| G3A B3c | d3c B3A | G3A B3c | d3B A3F | G3A B3c | d3c B3A | B3G A3F | G8 |', {
        key: 'G',
        tempo: '1/4=100',
      }),
    );
    const notes = notesOf(dotted);
    const before = under(dotted, {}).travel.flags.filter(({ kind }) => kind === 'sticks-out').length;
    const { change } = planStretch({ ...dotted, crosses: crossesIn(dotted.fingering) }, bowSlice.first, notes);
    expect(change).not.toBeNull();
    const after = under(dotted, change!).travel.flags.filter(({ kind }) => kind === 'sticks-out').length;
    expect(after).toBeLessThan(before);
  });

  it('keeps what the teacher set: cuts, slurs and turned strokes', () => {
    const [one, two, three, four] = notesOf(facts);
    const decided = {
      ...bowSlice.first,
      school: 'down-on-the-beat' as const,
      slurs: { [two!]: 'joined' as const, [four!]: 'cut' as const },
    };
    const { change } = planStretch(context, decided, notesOf(facts));
    const { bowing } = under(facts, { ...decided, ...change });
    expect(bowing.strokes[0]!.notes.slice(0, 2)).toEqual([one, two]);
    expect(bowing.strokes.some(({ notes }) => notes[0] === four)).toBe(true);
    expect(three).toBeDefined();
  });

  it('slurs no more than the learner may, and nothing over a phrase or a repeat', () => {
    for (const maxSlur of [1, 2, 3]) {
      const decided = { ...bowSlice.first, maxSlur };
      const { change } = planStretch(context, decided, notesOf(facts));
      const { bowing } = under(facts, { ...decided, ...change });
      expect(Math.max(...bowing.strokes.map(({ notes }) => notes.length))).toBeLessThanOrEqual(maxSlur);
      const starts = new Set(facts.form.parts.flatMap(({ phrases }) => phrases.map(({ notes }) => notes[0]!)));
      for (const { notes } of bowing.strokes) expect(notes.slice(1).some((id) => starts.has(id))).toBe(false);
    }
  });

  it('gives a song a stroke to each syllable, and slurs what one is held over', () => {
    const song = arrange(
      tuneOf(
        '| G2 A2 (B2 A2) | G2 F2 G4 | B2 c2 (d2 B2) | A4 G4 |\nw: the lamp is_ lit at home and see the_ road home',
        {
          key: 'G',
          tempo: '1/4=72',
        },
      ),
    );
    const { change } = planStretch(
      { ...song, crosses: crossesIn(song.fingering) },
      { ...bowSlice.first, tuneSlurs: 'ignore' },
      notesOf(song),
    );
    const { bowing } = under(song, { tuneSlurs: 'ignore', ...change });
    const slurred = bowing.strokes.filter(({ notes }) => notes.length > 1).map(({ notes }) => notes);
    expect(slurred).toContainEqual(['n3', 'n4']);
    expect(slurred.every((notes) => ['n3', 'n10'].includes(notes[0]!))).toBe(true);
  });

  it('plans a phrase alone: other phrases keep their slurs', () => {
    const phrase = facts.form.parts[0]!.phrases[0]!;
    const { change } = planStretch(context, { ...bowSlice.first, school: 'down-on-the-beat' }, phrase.notes);
    for (const id of Object.keys({ ...change?.slurs, ...change?.joints })) expect(phrase.notes).toContain(id);
  });
});

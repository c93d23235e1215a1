/** Grades, versions and lines as the command line makes them. */
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { DEMO_REEL, nokta, usesFolder } from './test/nokta.ts';

const folder = usesFolder();

describe('nokta grade', () => {
  it('says what a grade may ask', async () => {
    const { out } = await nokta('contract', '--instrument', 'cello', '--grade', '3', '--json');
    const json = JSON.parse(out) as { limits: Record<string, unknown>; words: string[]; name: string };
    expect(json).toMatchObject({ instrument: 'cello', grade: 3, name: 'Extensions' });
    expect(json.limits).toMatchObject({ maxSlur: 4, triplets: false, maxPosition: 'II' });
    expect(json.words).toContain('No double stops.');
    expect((await nokta('contract', '--grade', '1')).out).toContain('A bow to each note.');
    expect((await nokta('contract')).err).toContain('Say which grade');
    expect((await nokta('contract', '--grade', '7')).code).toBe(2);
  });

  it('grade makes a version, says what it changes and breaks, and writes it with fingers and bows', async () => {
    const out = join(folder.directory, 'grade2.musicxml');
    const { out: text, code } = await nokta('grade', DEMO_REEL, '--grade', '2', '--json', '-o', out);
    expect(code).toBe(0);
    const json = JSON.parse(text) as {
      contract: { limits: { maxSlur: number } };
      breaches: unknown[];
      changes: { kind: string; direction: string; bar: number; beat: number; notes: string[]; reason: string }[];
      likeness: number;
      difficulty: { total: number; breakdown: Record<string, { share: number }> };
    };
    expect(json).toMatchObject({ grade: 2, contract: { name: 'All strings', limits: { maxSlur: 2 } }, breaches: [] });
    expect(json.changes.length).toBeGreaterThan(0);
    expect(json.changes[0]).toMatchObject({ direction: 'easier' });
    expect(json.likeness).toBeGreaterThan(0.4);
    expect(Object.values(json.difficulty.breakdown).reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 6);
    expect(await readFile(out, 'utf8')).toContain('<fingering');
    expect((await nokta('grade', DEMO_REEL)).err).toContain('Say which grade');
    expect((await nokta('grade', DEMO_REEL, '--grade', '1')).out).toContain('It fits the contract.');
    expect((await nokta('grade', DEMO_REEL, '--grade', '1', '-o', 'x.doc')).code).toBe(2);
  });

  it('grade makes a line that goes with the tune, and says what each note is to its chord', async () => {
    const { out, code } = await nokta('grade', DEMO_REEL, '--grade', '1', '--line', 'drone', '--json');
    expect(code).toBe(0);
    const json = JSON.parse(out) as {
      likeness: number | null;
      breaches: unknown[];
      line: { role: string; notes: { bar: number; beat: number; pitches: string[]; tone: string; reason: string }[] };
    };
    expect(json).toMatchObject({ likeness: null, breaches: [], line: { role: 'drone' } });
    expect(json.line.notes[0]).toMatchObject({ bar: 1, beat: 1, pitches: ['G3'], tone: 'root' });
    expect(json.line.notes[0]!.reason).toContain('G, the root of G; an octave under the tune.');
    expect((await nokta('grade', DEMO_REEL, '--grade', '2', '--line', 'bass')).out).toContain('to go with the tune');
    expect((await nokta('finger', DEMO_REEL, '--line', 'bass')).err).toContain('--line goes with --grade');
  });

  it('difficulty says by what it is difficult, phrase by phrase, and what keeps it from an easier grade', async () => {
    const { out } = await nokta('difficulty', DEMO_REEL, '--json');
    const json = JSON.parse(out) as {
      total: number;
      grade: number;
      keptFrom: string[];
      phrases: { total: number; easyTempo: number; hardest: { bar: number } }[];
    };
    expect(json.total).toBeGreaterThan(1);
    expect(json.grade).toBe(3);
    expect(json.keptFrom.length).toBeGreaterThan(0);
    const easiest = Math.min(...json.phrases.map(({ total }) => total));
    for (const { total, easyTempo } of json.phrases) expect(total === easiest || easyTempo <= 168).toBe(true);
    const slow = JSON.parse((await nokta('difficulty', DEMO_REEL, '--json', '--tempo', '60')).out) as { total: number };
    expect(slow.total).toBeLessThan(json.total);
    expect((await nokta('difficulty', DEMO_REEL)).out).toContain('Speed:');
  });
});

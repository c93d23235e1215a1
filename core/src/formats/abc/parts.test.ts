import { describe, expect, it } from 'vitest';
import { playedOrder } from '../../music/index.ts';
import { tuneSchema } from '../../music/index.ts';
import { readOrder } from './parts.ts';
import { readAbc } from './read.ts';

function played(order: string, music: string): string {
  const read = readAbc(`X:1\nT:t\nP:${order}\nM:4/4\nL:1/8\nK:C\n${music}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  const { tune } = read.value;
  expect(tuneSchema.safeParse(tune).success).toBe(true);
  return playedOrder(tune.bars)
    .map(({ index }) => {
      const [first] = tune.bars[index]!.events;
      return first?.kind === 'note' ? first.heads[0]!.pitch.letter : 'z';
    })
    .join('');
}

const TWO = 'P:A\nc8 |\nP:B\nd8 |';

describe('the order of parts', () => {
  it.each([
    ['AABB', TWO, 'CCDD'],
    ['A2B', TWO, 'CCD'],
    ['(AB)2A', TWO, 'CDCDC'],
    ['A.B.A', TWO, 'CDC'],
    ['AB', TWO, 'CD'],
    ['ABA', 'P:A\n|: c8 :|\nP:B\nd8 |', 'CCDCC'],
    ['AC', TWO, 'CD'],
  ])('%s', (order, music, sounds) => {
    expect(played(order, music)).toBe(sounds);
  });

  it('keeps slurs and graces of a part that comes back, under ids of their own', () => {
    const read = readAbc('X:1\nT:t\nP:ABA\nL:1/8\nM:4/4\nK:C\nP:A\n({d}c4 d4) |\nP:B\nd8 |\n');
    expect(read.ok && read.value.tune.slurs).toHaveLength(2);
    expect(read.ok && new Set(read.value.tune.bars.map(({ id }) => id)).size).toBe(3);
  });

  it('is reported where it is none', () => {
    expect(readOrder('A(B')).toBeNull();
    expect(readOrder('A&B')).toBeNull();
    expect(readOrder('(A999)999')).toBeNull();
    const read = readAbc('X:1\nT:t\nP:A(B\nK:C\nP:A\nc8 |\n');
    expect(read.ok && read.notices[0]!.message).toMatch(/order of parts/);
  });
});

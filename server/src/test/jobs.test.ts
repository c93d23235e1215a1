/** Work in the background: each piece is done once, whoever looks for it. */
import { afterEach, expect, it, vi } from 'vitest';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { openStore, type Store } from '../db/open.ts';
import { Jobs, type JobKind } from '../jobs/jobs.ts';

const opened: { store: Store; directory: string }[] = [];
afterEach(async () => {
  for (const { store, directory } of opened.splice(0)) {
    await store.close();
    await rm(directory, { recursive: true, force: true });
  }
});

/** A store with twenty pieces of work, and what two processes did of them. */
async function twoProcesses(work: (subject: string) => Promise<void> = () => Promise.resolve()) {
  const directory = await mkdtemp(join(tmpdir(), 'nokta-jobs-'));
  const store = await openStore(directory);
  opened.push({ store, directory });
  await store.db.execute(sql`create table wanted (id text primary key)`);
  await store.db.execute(sql`insert into wanted select 'w' || n from generate_series(1, 20) as n`);
  const done: string[] = [];
  const kind: JobKind = {
    id: 'form',
    missing: sql`select id from wanted`,
    async work(subject) {
      await work(subject);
      done.push(subject);
      await store.db.execute(sql`delete from wanted where id = ${subject}`);
    },
  };
  const problem = vi.fn();
  return { store, done, problem, one: new Jobs(store.db, [kind], problem), other: new Jobs(store.db, [kind], problem) };
}

it('does each piece once, though two look for it at the same time', async () => {
  const { done, one, other, problem } = await twoProcesses();
  await Promise.all([one.settle(), other.settle()]);
  expect(done.toSorted()).toEqual(Array.from({ length: 20 }, (_, index) => `w${index + 1}`).toSorted());
  expect(await one.waiting('form')).toBe(0);
  expect(await one.claimed()).toBe(0);
  expect(problem).not.toHaveBeenCalled();
});

it('claims nothing that another has, until its lease is over', async () => {
  const { store, one, other } = await twoProcesses();
  const first = await one.claim('form');
  const second = await other.claim('form');
  expect(first.length).toBeGreaterThan(0);
  expect(first.filter((subject) => second.includes(subject))).toEqual([]);
  // Whoever had the first ones is gone without a word.
  await store.db.execute(sql`update jobs set claimed_at = now() - interval '1 hour' where subject = ${first[0]!}`);
  const third = await other.claim('form');
  expect(third).toContain(first[0]);
  expect(third.filter((subject) => first.includes(subject))).toEqual([first[0]]);
  // What was lost to another is not given back by the one who lost it.
  await one.release('form', first);
  expect(await other.claimed()).toBe(second.length + third.length);
});

it('gives back what it was stopped at, and tells what failed', async () => {
  let left = 3;
  const { done, one, other, problem } = await twoProcesses(async () => {
    left -= 1;
    if (left === 0) throw new Error('this one cannot be done');
    await Promise.resolve();
  });
  await one.settle().catch(() => undefined);
  expect(problem).toHaveBeenCalledWith(expect.objectContaining({ message: 'this one cannot be done' }));
  expect(await one.claimed()).toBe(0);
  await other.settle();
  expect(new Set(done).size).toBe(20);
});

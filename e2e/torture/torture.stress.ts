/** In small what `npm run torture` does for as long as wanted. */
import { expect, it } from 'vitest';
import { callServer } from '../../server/src/torture/calls.ts';
import { twoWindows } from './windows.ts';

it('two windows whose answers are lost or late lose no edit, and make none twice', async () => {
  const { edits, conflicts, lost } = await twoWindows({ most: 3 });
  expect(lost).toEqual([]);
  expect(edits).toBe(180);
  expect(conflicts).toBeGreaterThan(0);
}, 120_000);

it('nearly valid calls are answered in words, soon', async () => {
  const { answers, faults } = await callServer({ most: 400 });
  expect(faults.filter((fault) => !/^\d+ ms/.test(fault))).toEqual([]);
  expect(Object.keys(answers).sort()).toEqual(['2xx', '4xx']);
}, 120_000);

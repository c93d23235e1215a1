/** Hostile requests: whatever comes, the answer is a refusal with words, nothing is stored, and the server lives on. */
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { ApiError, TuneList } from '@nokta/api';
import { startHarness, tuneFrom, type Harness } from './harness.ts';

const TUNE = tuneFrom('X:1\nT:Tar and Twine\nM:4/4\nL:1/8\nK:G\nG2BG dGBG | ABcA G4 |\n');

let server: Harness;
beforeAll(async () => {
  server = await startHarness();
}, 60_000);
afterAll(() => server.stop());

const total = async () => (await server.call<TuneList>('GET', '/tunes')).body.total;

/** Puts something else in the place of one member, however deep. */
function spoiled(value: unknown, path: readonly number[], other: unknown): unknown {
  if (typeof value !== 'object' || value === null || path.length === 0) return other;
  const keys = Object.keys(value);
  if (keys.length === 0) return other;
  const key = keys[path[0]! % keys.length]!;
  const inner = spoiled((value as Record<string, unknown>)[key], path.slice(1), other);
  if (Array.isArray(value)) return value.map((one: unknown, index) => (String(index) === key ? inner : one));
  return { ...value, [key]: inner };
}

it('a tune spoiled anywhere is refused or sound, never half kept', async () => {
  const junk = fc.oneof(
    fc.constantFrom<unknown>(
      null,
      -1,
      1e300,
      '',
      'x'.repeat(5000),
      [],
      {},
      true,
      { __proto__: 1 },
      Number.MAX_SAFE_INTEGER,
    ),
    fc.anything({ maxDepth: 1 }).filter((value) => typeof value !== 'bigint' && typeof value !== 'symbol'),
  );
  await fc.assert(
    fc.asyncProperty(fc.array(fc.nat(30), { minLength: 1, maxLength: 8 }), junk, async (path, other) => {
      const before = await total();
      const { status, body } = await server.call<ApiError>('POST', '/tunes', { tune: spoiled(TUNE, path, other) });
      expect([201, 400]).toContain(status);
      if (status === 400) {
        expect(body.error).toBeTruthy();
        expect(await total()).toBe(before);
      }
    }),
    { numRuns: 120 },
  );
}, 60_000);

it('any body at any address gets an answer in the usual shape', async () => {
  const addresses = [
    '/tunes',
    '/tunes/batch',
    '/tunes/alike',
    '/tunes/x/versions',
    '/tunes/x/undo',
    '/backup/compare',
    '/backup/restore',
  ];
  await fc.assert(
    fc.asyncProperty(fc.constantFrom(...addresses), fc.json({ maxDepth: 4 }), async (address, json) => {
      const response = await fetch(`${server.url}/api${address}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: json,
      });
      expect(response.status).toBeGreaterThanOrEqual(400);
      expect(response.status).toBeLessThan(500);
      expect(((await response.json()) as ApiError).error).toBeTruthy();
    }),
    { numRuns: 120 },
  );
}, 60_000);

it('any query is answered, and the server is still there', async () => {
  await fc.assert(
    fc.asyncProperty(fc.string({ maxLength: 60 }), fc.string({ maxLength: 60 }), async (words, melody) => {
      const query = new URLSearchParams({ words, melody });
      const { status } = await server.call('GET', `/tunes?${query.toString()}`);
      expect([200, 400, 422]).toContain(status);
    }),
    { numRuns: 100 },
  );
  expect((await server.call('GET', '/health')).status).toBe(200);
}, 60_000);

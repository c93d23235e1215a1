/** Books over HTTP: one for all, one for each of a group, what is not there, and what is no book. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { unzipSync } from 'fflate';
import type { ApiError, ArrangementRecord, BookRequest, SheetPages, TuneRecord } from '@nokta/api';
import { FIRST_DECISIONS, decided } from '@nokta/core/arrange';
import { learnerNamed, learnerRecord } from '@nokta/core/learner';
import { USUAL_STYLE } from '@nokta/core/paper';
import { makeBook } from '../library/books.ts';
import { startHarness, tuneFrom, type Harness } from './harness.ts';

const abc = (title: string, key: string) =>
  `X:1\nT:${title}\nM:4/4\nL:1/8\nK:${key}\n|: G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG F2D2 :|\n`;

let server: Harness;
let ids: readonly string[];
beforeAll(async () => {
  server = await startHarness();
  const added: string[] = [];
  for (const [title, key] of [
    ['Tar and Twine', 'G'],
    ['Two Buoys', 'C'],
  ] as const)
    added.push((await server.call<TuneRecord>('POST', '/tunes', { tune: tuneFrom(abc(title, key)) })).body.id);
  ids = added;
}, 60_000);
afterAll(() => server.stop());

const asked = (more: Partial<BookRequest> = {}): BookRequest => ({
  run: randomUUID(),
  title: 'Spring term',
  line: '',
  tunes: [...ids],
  players: [],
  style: USUAL_STYLE,
  binding: 'pages',
  warmUps: false,
  ...more,
});
const player = (instrument: 'violin' | 'cello', grade: 1 | null = null) => ({
  name: '',
  instrument,
  make: null,
  grade,
  hand: null,
});

describe('a book', () => {
  it('comes as one PDF, called by its title', async () => {
    const response = await fetch(`${server.url}/api/books`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(asked()),
    });
    expect(response.status).toBe(200);
    expect(response.headers.get('content-disposition')).toContain('Spring term.pdf');
    expect(
      Buffer.from(await response.arrayBuffer())
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-');
  }, 60_000);

  it('comes as a zip with an edition for each of a group, and says how far it is', async () => {
    const told: string[] = [];
    const made = await makeBook(
      server.library,
      asked({ players: [player('violin'), player('cello', 1)], binding: 'booklet' }),
      {
        signal: new AbortController().signal,
        progress: ({ done, total }) => told.push(`${done} of ${total}`),
      },
    );
    expect(made.ending).toBe('zip');
    expect(Object.keys(unzipSync(made.content)).sort()).toEqual([
      'Spring term - Grade 1, cello.pdf',
      'Spring term - Violin.pdf',
    ]);
    expect(told).toEqual(['0 of 4', '1 of 4', '2 of 4', '3 of 4', '4 of 4']);
  }, 60_000);

  it('is given up where nobody waits for it any more', async () => {
    const over = new AbortController();
    const making = makeBook(server.library, asked(), {
      signal: over.signal,
      progress: ({ done }) => done === 1 && over.abort(new Error('called off')),
    });
    await expect(making).rejects.toThrow('called off');
  }, 60_000);

  it('says what is missing, and what is no book', async () => {
    const gone = await server.call<ApiError>('POST', '/books', asked({ tunes: [randomUUID()] }));
    expect([gone.status, gone.body.error]).toEqual([404, 'This tune is not here any more.']);
    expect((await server.call('POST', '/books', asked({ tunes: [] }))).status).toBe(400);
    expect((await server.call('POST', '/books', asked({ title: ' ' }))).status).toBe(400);
    expect((await server.call('GET', `/books/${randomUUID()}`)).status).toBe(404);
  });
});

it('calls a learner on their sheet as they are called now', async () => {
  const id = randomUUID();
  await server.call('POST', '/learners', { id, value: learnerNamed('Ada') });
  const learner = { id, name: 'Ada', limits: {} };
  const decisions = decided(FIRST_DECISIONS, { hand: { learner } });
  const { body: made } = await server.call<ArrangementRecord>('POST', `/tunes/${ids[0]}/arrangements`, { decisions });
  const change = learnerRecord.between(learnerNamed('Ada'), learnerNamed('Ada May'));
  await server.call('PATCH', `/learners/${id}`, { revision: 1, change, label: 'rename', entry: randomUUID() });
  const style = encodeURIComponent(JSON.stringify({ lesson: true }));
  const { body } = await server.call<SheetPages>('GET', `/arrangements/${made.id}/sheet?style=${style}`);
  expect(body.pages[0]).toContain('Ada May');
}, 60_000);

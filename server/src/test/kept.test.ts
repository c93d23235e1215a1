/** What a teacher keeps beside the tunes: instruments, tunings, groups, tapes, looks. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ApiError } from '@nokta/api';
import { LIKE_USUAL } from '@nokta/core/instrument';
import { openBackup, type Kept } from '@nokta/core/files';
import { USUAL_STYLE } from '@nokta/core/paper';
import { kept } from '../db/schema.ts';
import { startHarness, type Harness } from './harness.ts';

let server: Harness;
beforeAll(async () => {
  server = await startHarness();
});
afterAll(() => server.stop());

const ODD = '0d6c1f7e-5f1a-4f38-9d3c-5a8f4f0c9b11';
const TUNING = { kind: 'tuning', name: 'Evening', value: { instrument: 'violin', pitches: ['F3', 'D4', 'A4', 'D5'] } };

describe('what else is kept', () => {
  const player = { name: 'Second row', instrument: 'viola', make: null, grade: 2, hand: null };
  it.each([
    TUNING,
    {
      kind: 'instrument',
      name: 'Keyed fiddle',
      value: { like: 'violin', make: { ...LIKE_USUAL, name: 'K', reach: 12 } },
    },
    { kind: 'group', name: 'Tuesday', value: { players: [player] } },
    { kind: 'style', name: 'Big tab', value: { style: { ...USUAL_STYLE, layout: 'big' } } },
    { kind: 'tapes', name: 'First tapes', value: { tapes: [{ semitones: 2, colour: '#aa3311', label: '1' }] } },
  ])('$kind is kept, renamed and removed', async (one) => {
    const { status, body } = await server.call<Kept>('POST', '/kept', one);
    expect(status).toBe(201);
    expect((await server.call('PUT', `/kept/${body.id}`, { ...one, name: 'Another name' })).status).toBe(200);
    const listed = (await server.call<Kept[]>('GET', '/kept')).body;
    expect(listed.find(({ id }) => id === body.id)).toEqual({ ...one, id: body.id, name: 'Another name' });
    expect((await server.call('DELETE', `/kept/${body.id}`)).status).toBe(204);
    expect((await server.call('DELETE', `/kept/${body.id}`)).status).toBe(404);
  });

  it.each([
    ['no name', { ...TUNING, name: ' ' }, 'needs a name'],
    ['strings out of order', { ...TUNING, value: { ...TUNING.value, pitches: ['D4', 'G3', 'A4'] } }, 'low to high'],
    ['a kind that there is not', { ...TUNING, kind: 'rosin' }, ''],
    ['a group without members', { kind: 'group', name: 'Nobody', value: { players: [] } }, 'Add one first'],
    [
      'a tape below the nut',
      { kind: 'tapes', name: 'T', value: { tapes: [{ semitones: 0, colour: '#aa3311', label: '' }] } },
      'above the nut',
    ],
    [
      'an instrument of no length',
      { kind: 'instrument', name: 'Flat', value: { like: 'violin', make: { ...LIKE_USUAL, name: 'Flat', length: 0 } } },
      '100 to 1300 mm',
    ],
  ])('is refused with %s', async (_, one, message) => {
    const { status, body } = await server.call<ApiError>('POST', '/kept', one);
    expect(status).toBe(400);
    expect(JSON.stringify(body)).toContain(message);
  });

  it('comes along in a backup, and what cannot be read stands aside', async () => {
    await server.call('POST', '/kept', TUNING);
    await server.library.db.insert(kept).values({ id: ODD, kind: 'rosin', name: 'Dark', value: {} });
    expect((await server.call<Kept[]>('GET', '/kept')).body.map(({ name }) => name)).toEqual(['Evening']);
    const response = await fetch(`${server.url}/api/backup`);
    const backup = openBackup(new Uint8Array(await response.arrayBuffer()));
    if (!backup?.ok) throw new Error('no backup');
    expect(backup.value.kept).toMatchObject([TUNING]);
    expect(backup.value.aside).toMatchObject([{ id: ODD, title: 'Dark' }]);
  });
});

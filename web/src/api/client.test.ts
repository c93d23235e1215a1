import { USUAL_STYLE } from '@nokta/core/sheet';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { FIRST_DECISIONS } from '@nokta/core/arrange';
import { RefusedError, UnreachableError, api, fileUrl, messageOf } from './client.ts';

const answer = (status: number, body?: unknown) =>
  vi
    .spyOn(globalThis, 'fetch')
    .mockResolvedValue(new Response(body === undefined ? null : JSON.stringify(body), { status }));

afterEach(() => vi.restoreAllMocks());

describe('api', () => {
  it('sends what it is given as JSON and gives back the answer', async () => {
    const fetch = answer(200, { id: 'a1', revision: 2 });
    await expect(api.decide('a1', 1, FIRST_DECISIONS, 'tempo', 'e1')).resolves.toMatchObject({ revision: 2 });
    const [url, init] = fetch.mock.calls[0]!;
    expect(url).toBe('/api/arrangements/a1');
    expect(init).toMatchObject({ method: 'PUT', headers: { 'content-type': 'application/json' } });
    expect(JSON.parse(String(init!.body))).toMatchObject({
      revision: 1,
      label: 'tempo',
      entry: 'e1',
      decisions: { key: { instrument: 'violin' } },
    });
  });

  it('sends no body where there is none, and expects none back', async () => {
    const fetch = answer(204);
    await expect(api.remove('t1')).resolves.toBeUndefined();
    expect(fetch.mock.calls[0]![1]).toEqual({ method: 'DELETE' });
  });

  it('keeps the words, places and remedy of a refusal', async () => {
    const problems = [{ severity: 'error', message: 'A chord is not closed.', line: 4, column: 9 }];
    answer(422, { error: 'Not read.', remedy: 'Mend it.', problems });
    const error: unknown = await api.alike(['']).catch((caught: unknown) => caught);
    expect(error).toBeInstanceOf(RefusedError);
    expect(error).toMatchObject({ status: 422, body: { problems }, message: 'Not read. Mend it.' });
  });

  it('tells a silent server from one that refuses, and survives an answer that is no JSON', async () => {
    vi.spyOn(globalThis, 'fetch').mockRejectedValueOnce(new TypeError('failed'));
    await expect(api.tunes({})).rejects.toBeInstanceOf(UnreachableError);
    vi.spyOn(globalThis, 'fetch').mockResolvedValueOnce(new Response('<html>', { status: 502 }));
    await expect(api.tunes({})).rejects.toThrow('not understood');
  });

  it('takes a change that is not answered in time, or not to the end, for unanswered', async () => {
    const late = new DOMException('late', 'TimeoutError');
    const patience = vi.spyOn(AbortSignal, 'timeout').mockReturnValue(AbortSignal.abort(late));
    vi.spyOn(globalThis, 'fetch').mockRejectedValueOnce(late);
    await expect(api.decide('a1', 1, FIRST_DECISIONS, 'tempo', 'e1')).rejects.toBeInstanceOf(UnreachableError);
    expect(patience.mock.calls[0]![0]).toBeGreaterThan(10_000);
    patience.mockRestore();
    vi.spyOn(globalThis, 'fetch').mockResolvedValueOnce(new Response('{"id":"a1","revi', { status: 200 }));
    await expect(api.decide('a1', 1, FIRST_DECISIONS, 'tempo', 'e1')).rejects.toBeInstanceOf(UnreachableError);
  });

  it('leaves what was called off to whoever called it off', async () => {
    const off = new AbortController();
    off.abort();
    vi.spyOn(globalThis, 'fetch').mockRejectedValueOnce(off.signal.reason);
    await expect(api.tunes({}, off.signal)).rejects.toMatchObject({ name: 'AbortError' });
  });
});

it('names files by arrangement and paper', () => {
  const style = { ...USUAL_STYLE, paper: 'letter', lanes: ['bow', 'tab'] } as const;
  const address = new URL(fileUrl.pdf('a1', style), 'http://here');
  expect(address.pathname).toBe('/api/arrangements/a1/sheet.pdf');
  expect(address.searchParams.get('round')).toBe('1');
  expect(JSON.parse(address.searchParams.get('style')!)).toEqual(style);
  expect(new URL(fileUrl.png('a1', style, 2), 'http://here').searchParams.get('page')).toBe('2');
  expect([fileUrl.tune('a1', 'musicxml', { tab: true }), fileUrl.tune('a1', 'abc')]).toEqual([
    '/api/arrangements/a1/tune.musicxml?tab=true',
    '/api/arrangements/a1/tune.abc',
  ]);
});

it('has words for anything that went wrong', () => {
  expect(messageOf(new UnreachableError())).toContain('What was saved is safe');
  expect(messageOf('odd')).toBe('odd');
});

import { afterEach, describe, expect, it, vi } from 'vitest';
import { openZip } from '@nokta/core/formats';
import { USUAL_STYLE } from '@nokta/core/sheet';
import { folderFiles, packFolder } from './folder.ts';

const input = {
  title: 'Tar: and Twine',
  arrangements: [
    { id: 'a1', name: 'The tune, violin' },
    { id: 'a2', name: 'Grade 1, violin' },
    { id: 'a3', name: 'Grade 1: violin' },
  ],
  style: USUAL_STYLE,
};

afterEach(() => vi.unstubAllGlobals());

describe('a folder for a group', () => {
  it('names every file once, by its arrangement, as file systems allow', () => {
    const names = folderFiles(input).map(({ name }) => name);
    expect(names).toEqual([
      'Tar and Twine - The tune, violin.pdf',
      'Tar and Twine - The tune, violin.musicxml',
      'Tar and Twine - Grade 1, violin.pdf',
      'Tar and Twine - Grade 1, violin.musicxml',
      'Tar and Twine - Grade 1 violin.pdf',
      'Tar and Twine - Grade 1 violin.musicxml',
    ]);
  });

  it('packs what it gets, and tells how far it is', async () => {
    vi.stubGlobal('fetch', (url: string) =>
      Promise.resolve(new Response(`from ${url.includes('a2') ? 'two' : 'other'}`)),
    );
    const shares: number[] = [];
    const zip = await packFolder(input, {
      signal: new AbortController().signal,
      progress: (share) => shares.push(share),
    });
    const opened = openZip(zip);
    if (!opened.ok) throw new Error('It cannot be opened.');
    const { names, entry } = opened.value;
    expect(names).toHaveLength(6);
    const one = entry('Tar and Twine - Grade 1, violin.pdf');
    expect(one.ok && new TextDecoder().decode(one.value)).toBe('from two');
    expect(shares.at(-1)).toBe(1);
  });

  it('says which file could not be made', async () => {
    vi.stubGlobal('fetch', () => Promise.resolve(new Response('', { status: 500 })));
    const made = packFolder(input, { signal: new AbortController().signal, progress: () => undefined });
    await expect(made).rejects.toThrow('The tune, violin.pdf could not be made');
  });
});

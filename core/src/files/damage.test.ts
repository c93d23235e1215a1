/** Damaged archives: nothing comes back altered, and what is whole comes back. */
import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS } from '../arrange/index.ts';
import { openZip, packMxl, writeMusicXml } from '../formats/index.ts';
import { numbersFrom } from '../test/fuzz.ts';
import { tuneOf } from '../test/testing.ts';
import { BACKUP_LIST, backupList, openBackup, openFile, writeNokta } from './index.ts';

const TEXTS = ['B8 | c8 |', 'd4 e4 | f8 |', 'A2 B2 c2 d2 | e8 |'].map((music, index) =>
  writeNokta({
    tune: { ...tuneOf(music), title: `Tune ${index}` },
    arrangements: [FIRST_DECISIONS],
    tags: [],
    versions: [],
  }),
);
const ids = TEXTS.map((_, index) => `5f0c2f5e-9a53-4b9e-8f9c-0d3c1f1d2a1${index}`);
const LIST = backupList({
  madeAt: '2026-03-01T10:00:00Z',
  learners: [],
  kept: [],
  tunes: ids.map((id, index) => ({
    id,
    title: `Tune ${index}`,
    updatedAt: '2026-03-01T10:00:00Z',
    file: `tunes/${id}.nokta.json`,
  })),
});
const BACKUP = zipSync({
  [BACKUP_LIST]: strToU8(LIST),
  ...Object.fromEntries(ids.map((id, index) => [`tunes/${id}.nokta.json`, strToU8(TEXTS[index]!)])),
});

describe('a backup', () => {
  it('in which any one bit has turned gives back each tune as it was, or names it as damaged', () => {
    const pick = numbersFrom(11);
    let named = 0;
    for (let turn = 0; turn < 1_500; turn += 1) {
      const bytes = Uint8Array.from(BACKUP);
      bytes[pick(bytes.length)]! ^= 1 << pick(8);
      const opened = openBackup(bytes);
      if (!opened?.ok) continue;
      for (const { id, file } of opened.value.tunes) {
        const text = opened.value.text(file);
        if (text.ok) expect(text.value).toBe(TEXTS[ids.indexOf(id)]);
        else named += 1;
      }
    }
    expect(named).toBeGreaterThan(100);
  });

  it('is one whatever its first bytes have become: it is told by the list at its end', () => {
    const bytes = Uint8Array.from(BACKUP);
    bytes[0] = 0;
    expect(openBackup(bytes)?.ok).toBe(true);
  });

  it('with one bad entry gives the others back, and names the bad one', () => {
    const bytes = Uint8Array.from(BACKUP);
    const name = strToU8(ids[1]!);
    const at = bytes.findIndex((_, index) => name.every((byte, offset) => bytes[index + offset] === byte));
    // Behind the name in the local header the entry's own bytes begin.
    bytes.fill(0xff, at + name.length + 20, at + name.length + 60);
    const opened = openBackup(bytes);
    if (!opened?.ok) throw new Error('not opened');
    const texts = opened.value.tunes.map(({ file }) => opened.value.text(file));
    expect(texts.map(({ ok }) => ok)).toEqual([true, false, true]);
    const [, bad] = texts;
    expect(!bad!.ok && bad!.problems[0]!.message).toContain(ids[1]);
  });
});

describe('an archive', () => {
  it('of archives is unpacked from one budget', () => {
    const large = packMxl(writeMusicXml(tuneOf('B8 |')) + ' '.repeat(51_000_000));
    const opened = openFile(zipSync(Object.fromEntries([...'abcd'].map((name) => [`${name}.mxl`, large]))), 'book.zip');
    if (!opened.ok) throw new Error('not opened');
    const begin = process.memoryUsage().rss;
    const reads = opened.value.tunes.map(({ number }) => opened.value.read({ tune: number }));
    const said = reads.map((read) => !read.ok && read.problems[0]!.message);
    // Each alone could be unpacked, and is no score; the fourth is more than all may be together.
    expect(said.slice(0, 3)).toEqual(Array(3).fill('The file is larger than any score.'));
    expect(said[3]).toContain('larger than any library');
    // What is looked at again is counted once, and what was refused is refused again.
    for (const tune of [1, 4]) {
      const again = opened.value.read({ tune });
      expect(again.ok || again.problems[0]!.message).toBe(said[tune - 1]);
    }
    expect(process.memoryUsage().rss - begin).toBeLessThan(900_000_000);
  }, 60_000);

  it('is unpacked a little at a time', () => {
    // More than is held at a time, though no entry is.
    const opened = openZip(zipSync({ a: new Uint8Array(9_000_000), b: new Uint8Array(9_000_000), c: strToU8('c') }));
    if (!opened.ok) throw new Error('not opened');
    for (const name of opened.value.names) expect(opened.value.entry(name).ok).toBe(true);
  });
});

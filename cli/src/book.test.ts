/** `book`: several files in one, for one or for a group; what it refuses. */
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { openZip } from '@nokta/core/formats';
import { nokta, usesFolder } from './test/nokta.ts';

const folder = usesFolder();
const tune = (number: number, title: string) => `X:${number}\nT:${title}\nM:4/4\nL:1/4\nK:G\nG A B c | d2 G2 |]\n`;

describe('nokta book', () => {
  it('puts the tunes of several files into one, each on the page that is told', async () => {
    const two = join(folder.directory, 'two.abc');
    await writeFile(two, `${tune(1, 'One')}\n${tune(2, 'Two')}`);
    const out = join(folder.directory, 'book.pdf');
    const made = await nokta('book', two, folder.file, '-o', out, '--title', 'Spring', '--json');
    expect(made.code).toBe(0);
    const told = JSON.parse(made.out) as { pages: number; contents: { title: string; page: number }[] };
    expect(told.contents.map(({ title }) => title)).toEqual(['One', 'Two', 'Tar and Twine']);
    expect(told.contents[0]!.page).toBe(told.contents[1]!.page);
    expect((await readFile(out)).subarray(0, 5).toString()).toBe('%PDF-');
  }, 60_000);

  it('has an edition for each of a group, as booklets', async () => {
    const out = join(folder.directory, 'books.zip');
    const made = await nokta('book', folder.file, '-o', out, '--for', 'violin,cello:1', '--paper', 'a5-booklet');
    expect(made.out).toContain('2 books written');
    const zip = openZip(await readFile(out));
    expect(zip.ok && [...zip.value.names].sort()).toEqual(['Tunes - Grade 1, cello.pdf', 'Tunes - Violin.pdf']);
  }, 60_000);

  it.each([
    [['book', '-o', 'book.pdf'], 'Name the files'],
    [['book', 'tune.abc', '-o', 'book.svg'], 'must end in .pdf or .zip'],
    [['book', 'tune.abc', '-o', 'book.zip'], 'A book for one is a .pdf'],
    [['book', 'tune.abc', '-o', 'book.pdf', '--paper', 'a6'], '--paper'],
    [['book', 'nowhere.abc', '-o', 'book.pdf'], 'cannot be read'],
    [['sheet', 'a.abc', 'b.abc', '-o', 'a.pdf'], 'One file at a time'],
  ])('refuses %j', async (args, said) => {
    const { code, out, err } = await nokta(...args);
    expect([code, out]).toEqual([2, '']);
    expect(err).toContain(said);
  });
});

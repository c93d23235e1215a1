/** A book as it is read: every tune on the page that the contents name, none lost, none cut, short ones together. */
import { readFileSync, readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange, decided, openingOctave } from '@nokta/core/arrange';
import { readAbc } from '@nokta/core/formats';
import { USUAL_STYLE, bookPages, type Chapter } from '@nokta/core/sheet';
import { bookPdf, sidesOf } from './pdf.ts';
import { engraveChapter } from './sheet.ts';

const TUNES = new URL('../../server/src/demo/tunes/', import.meta.url);
const SHORT = 'X:1\nT:A Short One\nM:4/4\nL:1/4\nK:G\nG A B c | d2 G2 |]\n';

async function chapterFor(abc: string, warmUps = false): Promise<Chapter> {
  const read = readAbc(abc);
  if (!read.ok) throw new Error(read.problems[0]?.message);
  const { tune } = read.value;
  const decisions = decided(FIRST_DECISIONS, { key: { transpose: openingOctave(tune, FIRST_DECISIONS) } });
  return engraveChapter(arrange(tune, decisions), USUAL_STYLE, { warmUps });
}
const demo = () =>
  Promise.all(readdirSync(TUNES).map((file) => chapterFor(readFileSync(new URL(file, TUNES), 'utf8'))));
const input = (chapters: readonly Chapter[]) => ({ title: 'Spring term', edition: 'Violin', line: '', chapters });
const textOf = (page: string) => page.replace(/<[^>]+>/g, ' ').replace(/&\w+;/g, "'");

describe('a book', () => {
  it('has every tune where its contents say, titles in the order that was asked for', async () => {
    const chapters = await demo();
    const { pages, contents } = bookPages(input(chapters), USUAL_STYLE);
    expect(contents.map(({ title }) => title)).toEqual(chapters.map(({ title }) => title));
    for (const { title, page } of contents) {
      expect(textOf(pages[page - 1]!)).toContain(title.replaceAll("'", "'"));
      expect(textOf(pages[1]!)).toContain(title);
    }
    expect(textOf(pages[0]!)).toContain('14 tunes');
    expect(textOf(pages.at(-1)!)).toContain('From easy to hard');
    // Each page but the cover tells its number.
    pages.slice(1).forEach((page, index) => expect(textOf(page)).toContain(String(index + 2)));
  }, 60_000);

  it('opens a tune of two pages on the left', async () => {
    const chapters = await demo();
    const { pages, contents } = bookPages(input(chapters), USUAL_STYLE);
    const starts = new Set(contents.map(({ page }) => page));
    // Its second page is a page of music that no tune begins on.
    const long = contents.filter(({ page }) => !starts.has(page + 1) && /A\d/.test(textOf(pages[page]!)));
    expect(long.length).toBeGreaterThan(0);
    for (const { page } of long) expect(page % 2).toBe(0);
  }, 60_000);

  it('puts short tunes on one page together', async () => {
    const short = await chapterFor(SHORT);
    const { contents } = bookPages(input([short, short, short]), USUAL_STYLE);
    expect(new Set(contents.map(({ page }) => page)).size).toBe(1);
  });

  it('has a drill that two tunes share once, with both named', async () => {
    const tune = (title: string) =>
      readFileSync(new URL('salt-on-the-sill.abc', TUNES), 'utf8').replace(/T:.*/, `T:${title}`);
    const chapters = [await chapterFor(tune('First Jig'), true), await chapterFor(tune('Second Jig'), true)];
    const { pages } = bookPages(input(chapters), USUAL_STYLE);
    const warmUps = pages.map(textOf).join('\n');
    expect(warmUps).toContain('For First Jig, Second Jig');
    expect(warmUps.match(/Scale of D major/g)).toHaveLength(1);
  });
});

describe('a booklet', () => {
  it.each([
    [
      1,
      [
        [null, 0],
        [null, null],
      ],
    ],
    [
      4,
      [
        [3, 0],
        [1, 2],
      ],
    ],
    [
      8,
      [
        [7, 0],
        [1, 6],
        [5, 2],
        [3, 4],
      ],
    ],
    [
      6,
      [
        [null, 0],
        [1, null],
        [5, 2],
        [3, 4],
      ],
    ],
  ] as const)('of %i pages is folded so that they follow each other', (count, sides) => {
    expect(sidesOf(count, 'booklet')).toEqual(sides);
  });

  it('has two pages on each side of a sheet, all of them once', async () => {
    const short = await chapterFor(SHORT);
    const { pages } = bookPages(input([short]), USUAL_STYLE);
    const pdf = await bookPdf(pages, USUAL_STYLE, 'booklet', 'Spring term');
    const sides = sidesOf(pages.length, 'booklet');
    expect(pdf.toString('latin1').match(/\/Type \/Page\b/g)).toHaveLength(sides.length);
    expect(
      sides
        .flat()
        .filter((page) => page !== null)
        .sort((one, other) => one - other),
    ).toEqual(pages.map((_, index) => index));
  }, 60_000);
});

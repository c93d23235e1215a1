import { describe, expect, it } from 'vitest';
import { analyseForm } from '../form/index.ts';
import { FIRST_DECISIONS, arrange } from '../arrange/index.ts';
import { deciding } from '../test/setups.ts';
import { tuneOf } from '../test/testing.ts';
import { songOf, type SungLine } from './song.ts';
import { USUAL_STYLE, sheetPages, type SheetStyle } from './index.ts';

/** A line as it would be typed: chords in brackets before what they stand over. */
const typed = (line: SungLine): string =>
  line
    .map(({ chord, text, joins }) => `${chord ? `[${chord}]` : ''}${text}${joins || text === '' ? '' : ' '}`)
    .join('')
    .trim();

const songIn = (body: string, head: Parameters<typeof tuneOf>[1] = { key: 'G' }) => {
  const tune = tuneOf(body, head);
  return songOf(tune, analyseForm(tune)).map(({ verse, refrain, times, lines }) => ({
    name: refrain ? 'refrain' : verse,
    times,
    text: lines.map(typed).join(' / '),
  }));
};
const words = (...lines: readonly string[]) => lines.join('\n');

describe('the words of a song', () => {
  it('stand verse by verse, each with the chords over it', () => {
    expect(
      songIn(words('"G"G2 A2 | "D"A2 F2 | "C"E2 "D"F2 | "G"G4 |]', 'w:down the hill we go', 'w:up a-gain we come')),
    ).toEqual([
      { name: 1, times: 1, text: '[G]down the [D]hill we [C]go [D][G]' },
      { name: 2, times: 1, text: '[G]up a[D]gain we [C]come [D][G]' },
    ]);
  });

  it('follow a repeat: the first verse the first time, the second the second', () => {
    expect(
      songIn(words('|: "G"G2 A2 | "D"A2 F2 | "G"G4 :|', 'w:one two three four five', 'w:six sev-en eight nine')),
    ).toEqual([
      { name: 1, times: 1, text: '[G]one two [D]three four [G]five' },
      { name: 2, times: 1, text: '[G]six sev[D]en eight [G]nine' },
    ]);
  });

  it('tell once what is repeated with the same words', () => {
    expect(songIn(words('|: "G"G2 A2 | "D"A2 F2 | "G"G4 :|', 'w:one two three four five'))).toEqual([
      { name: null, times: 2, text: '[G]one two [D]three four [G]five' },
    ]);
  });

  it('tell apart the verses and a refrain that all of them share', () => {
    const song = songIn(
      words(
        '"G"G2 A2 | "D"A4 | "G"B2 c2 | "G"B4 ||',
        'w:one two three four five six',
        'w:sev-en eight nine ten then',
        '"C"c2 e2 | "D"d4 | "D"F2 F2 | "G"G4 |]',
        'w:sing with us now and then',
      ),
    );
    expect(song.map(({ name }) => name)).toEqual([1, 'refrain', 2, 'refrain']);
    expect(song[1]!.text).toBe('[C]sing with [D]us now and [G]then');
    expect(song[3]!.text).toBe(song[1]!.text);
  });

  it('sing a repeated part twice with its two verses, then the part that comes once', () => {
    const song = songIn(
      words(
        '|: "G"G2 A2 | "G"B4 :|',
        'w:one two three',
        'w:four five six',
        '|: "C"c2 e2 | "G"d4 :|',
        'w:one more time',
      ),
    );
    expect(song.map(({ text, times }) => [text, times])).toEqual([
      ['[G]one two three', 1],
      ['[G]four five six', 1],
      ['[C]one more [G]time', 2],
    ]);
  });

  it('take the words of each ending when it is sung', () => {
    const song = songIn(words('|: "G"G2 A2 |1 "D"A4 :|2 "G"G4 |]', 'w:sail a-way home'));
    expect(song.map(({ text }) => text)).toEqual(['[G]sail a[D]way', '[G]sail ahome']);
  });

  it('put a chord that comes while a syllable is held behind it', () => {
    expect(songIn(words('"G"G2 "C"A2 | "D"B2 "G"G2 |]', 'w:low_ and slow')).at(0)!.text).toBe(
      '[G]low [C][D]and [G]slow',
    );
  });

  it('begin with the word of a pickup, before the first chord', () => {
    expect(songIn(words('D2 | "G"G2 A2 | "D"A2 D2 |]', 'w:the boats are in at'))).toEqual([
      { name: null, times: 1, text: 'the [G]boats are [D]in at' },
    ]);
  });

  it('have found chords where none is written, each only where it changes', () => {
    const [stanza] = songIn(words('G4 B4 | d4 B4 | A4 F4 | G8 |]', 'w:one two three four five six sev'));
    expect(stanza!.text).toBe('[G]one two three four [D]five six [G]sev');
  });

  it('are none where nothing is sung', () => expect(songIn('GABc | d4 |]')).toEqual([]));

  it('leave out a verse that stops before the others, and keep the rest of it', () => {
    const song = songIn(words('"G"G2 A2 | "D"A2 F2 |]', 'w:one two three four', 'w:five six'));
    expect(song[1]!.text).toBe('[G]five six [D]');
  });
});

describe('the page of words', () => {
  const page = (body: string, style: Partial<SheetStyle> = {}) =>
    sheetPages([{ arrangement: arrange(tuneOf(body, { key: 'G' }), deciding({})), engraved: { lines: [] } }], {
      ...USUAL_STYLE,
      pages: ['words'],
      ...style,
    });

  it('says so where there are none', () => expect(page('G4 A4 |]').join('')).toContain('This tune has no words.'));

  it('goes on in the next line where one is too wide, and never over the edge', () => {
    const long = Array.from({ length: 40 }, () => 'lanternkeepers').join(' ');
    const [only] = page(words(`${'GABc dedB '.repeat(5)}|]`, `w:${long}`), { size: 'largest' });
    const starts = [...only!.matchAll(/<text x="([\d.]+)"/g)].map(([, x]) => Number(x));
    expect(Math.max(...starts)).toBeLessThan(595 - 40);
  });

  it('keeps a stanza together on a page', () => {
    const verse = 'w:one two three four five six sev-en eight';
    const pages = page(
      words(
        '"G"GABc dedB |]',
        ...Array.from({ length: 30 }, (_, at) => verse.replace('one', 'oh').replace('two', `no${at}`)),
      ),
      {
        size: 'large',
      },
    );
    expect(pages.length).toBeGreaterThan(1);
    expect(pages.join('').match(/>oh</g)).toHaveLength(30);
  });

  it('is the arrangement’s: another key has other chords', () => {
    const tune = tuneOf(words('"G"G2 A2 | "D"A4 |]', 'w:one two three'), { key: 'G' });
    const [up] = sheetPages(
      [
        {
          arrangement: arrange(tune, { ...FIRST_DECISIONS, key: { ...FIRST_DECISIONS.key, transpose: 2 } }),
          engraved: { lines: [] },
        },
      ],
      { ...USUAL_STYLE, pages: ['words'] },
    );
    expect(up).toContain('>A<');
    expect(up).toContain('>E<');
    expect(up).not.toContain('>D<');
  });
});

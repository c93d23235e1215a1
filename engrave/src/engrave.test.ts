import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { inflateSync } from 'node:zlib';
import createVerovioModule from 'verovio/wasm';
import { VerovioToolkit } from 'verovio/esm';
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange, arrangementXml, decided, phraseLine, type Decisions } from '@nokta/core/arrange';
import { phrasesOf } from '@nokta/core/form';
import { readAbc, writeMusicXml, writeScore } from '@nokta/core/formats';
import { takeApart } from '../build/engine.ts';
import { engraveLine, type Staff } from './index.ts';
import { sheetPdf } from './pdf.ts';
import { USUAL_STYLE } from '@nokta/core/sheet';
import { engraveSheet, engraveSheets, phraseXml } from './sheet.ts';

const LETTER = { ...USUAL_STYLE, paper: 'letter' as const };

function arrangementOf(music: string, change: Partial<Decisions['key']> = {}, title = 'Trial') {
  const read = readAbc(`X:1\nT:${title}\nM:4/4\nL:1/8\nK:Bb\n${music}\n`);
  if (!read.ok) throw new Error('unreadable');
  return arrange(read.value.tune, decided(FIRST_DECISIONS, { key: change }));
}

async function firstLine(music: string, change: Partial<Decisions['key']> = {}) {
  const arrangement = arrangementOf(music, change);
  const [phrase] = phrasesOf(arrangement.form);
  return { line: await engraveLine(phraseXml(arrangement, phrase!), 'desk'), phrase: phrase!, arrangement };
}

describe('engraveLine', () => {
  it('knows where every head stands, chords and graces too, left to right', async () => {
    const { line, phrase } = await firstLine('B2 {c}d2 [Bd]2 (3efg | B8 |');
    const places = phrase.notes.map((id) => line.heads[id]!.x);
    expect(places.every((x, index) => index === 0 || x > places[index - 1]!)).toBe(true);
    expect(line.heads['n2g1']!.x).toBeLessThan(line.heads['n2']!.x);
    expect(line.heads['n3-2']!.x).toBeCloseTo(line.heads['n3']!.x, 1);
    expect(line.heads['n3-2']!.y).toBeLessThan(line.heads['n3']!.y);
  });

  it('draws five lines, a bar line for each bar, and stays inside its width', async () => {
    const { line } = await firstLine('B8 | c8 | d8 |]');
    expect(line.staffBottom - line.staffTop).toBeCloseTo(4, 5);
    expect(line.barlines).toHaveLength(3);
    expect(line.barlines.at(-1)!).toBeLessThanOrEqual(line.width + 0.1);
  });

  it('puts accidentals of chord symbols into letters that ordinary fonts have, and keeps no foreign ids', async () => {
    const { line } = await firstLine('"Bb"B4 "F#m"c4 |');
    expect(line.markup).toContain('♭');
    expect(line.markup).toContain('♯');
    expect(line.markup).not.toMatch(/[\uE000-\uF8FF]/);
    expect(line.markup).toContain('data-note="n1"');
    expect(line.markup).not.toContain('id="n1"');
    expect(line.markup).not.toContain('<style');
  });

  it('writes words as plain text, whatever they hold', async () => {
    const { line } = await firstLine('B4 c4 |\nw: <b> &amp\n');
    expect(line.markup).not.toContain('<b>');
    expect(line.markup).toContain('&lt;b&gt;');
  });

  it('spreads notes wider on the desk than on paper', async () => {
    const { phrase, arrangement, line } = await firstLine('B2c2 d2e2 | B2c2 d2e2 |');
    expect((await engraveLine(phraseXml(arrangement, phrase), 'paper')).width).toBeLessThan(line.width);
  });

  it('throws where a note has no place in the picture', async () => {
    const { phrase, arrangement } = await firstLine('B4 c4 |');
    const hidden = phraseXml(arrangement, phrase).replace('<note id="n2"', '<note id="n2" print-object="no"');
    await expect(engraveLine(hidden, 'desk')).rejects.toThrow('no place for n2');
  });

  it('throws on what is no music', async () => {
    await expect(engraveLine('<nothing/>', 'paper')).rejects.toThrow();
  });

  it.each([
    ['viola', -7],
    ['cello', -12],
    ['bass', -24],
  ] as const)('engraves for the %s in its own clef', async (instrument, transpose) => {
    const { line, phrase } = await firstLine('B2c2 d2e2 |', { instrument, transpose });
    // In its own clef the tune lies on or near the staff.
    for (const id of phrase.notes) {
      expect(line.heads[id]!.y).toBeGreaterThan(line.staffTop - 4);
      expect(line.heads[id]!.y).toBeLessThan(line.staffBottom + 4);
    }
  });
});

/** All text of a PDF's content, as far as its character maps tell. */
function streams(pdf: Buffer): string {
  const text = pdf.toString('latin1');
  return [...text.matchAll(/stream\r?\n([\s\S]*?)\r?\nendstream/g)]
    .map(([, body]) => {
      try {
        return inflateSync(Buffer.from(body!, 'latin1')).toString('latin1');
      } catch {
        return '';
      }
    })
    .join('\n');
}

describe('sheets', () => {
  it('hold every phrase once, and the notes of each', async () => {
    const arrangement = arrangementOf('B8 | c8 | d8 | e8 | f8 | e8 | d8 | B8 |]');
    const pages = await engraveSheet(arrangement);
    expect(pages).toHaveLength(1);
    expect(pages[0]!.match(/>A1</g)).toHaveLength(1);
    expect(pages[0]!.match(/data-note="[^"]+" class="note"/g)).toHaveLength(8);
  });

  it('become a vector PDF whose letters can be read back', async () => {
    const arrangement = arrangementOf('B8 | c8 |]', {}, 'Şeker Łąka Ďas ḟ');
    const pdf = await sheetPdf(await engraveSheet(arrangement, LETTER), LETTER, arrangement.tune.title);
    const text = pdf.toString('latin1');
    expect(text).toContain('[0 0 612 792]');
    expect(text).not.toContain('/Subtype /Image');
    // The fonts' maps to Unicode name the letters: Ş 015E, Ł 0141, Ď 010E, ḟ 1E1F.
    const maps = streams(pdf).toLowerCase();
    for (const code of ['015e', '0141', '010e', '1e1f']) expect(maps).toContain(code);
  }, 30_000);
});

describe('the program taken out of the package', () => {
  const MODULE = fileURLToPath(import.meta.resolve('verovio/wasm'));

  it('draws what the package draws', async () => {
    const { program, script } = takeApart(readFileSync(MODULE, 'utf8'), MODULE);
    const place = mkdtempSync(join(tmpdir(), 'nokta-engine-'));
    writeFileSync(join(place, 'engine.wasm'), program);
    writeFileSync(
      join(place, 'engine.mjs'),
      `import { readFileSync } from 'node:fs';\n${script("readFileSync(new URL('./engine.wasm', import.meta.url))")}`,
    );
    const { default: create } = (await import(join(place, 'engine.mjs'))) as { default: () => Promise<object> };
    const [taken, whole] = [await create(), await createVerovioModule()].map((module) => {
      const toolkit = new VerovioToolkit(module);
      toolkit.setOptions({ svgViewBox: true, xmlIdSeed: 1 });
      toolkit.loadData(arrangementXml(arrangementOf('B2 {c}d2 [Bd]2 (3efg | B8 |')));
      return toolkit.renderToSVG(1).replace(/id="[^"]*"|#[\w-]+/g, '');
    });
    expect(taken).toContain('class="note"');
    expect(taken).toBe(whole);
    rmSync(place, { recursive: true });
  });

  it('is missed loudly where another release is built in another way', () => {
    expect(() => takeApart('export default 1;', 'verovio-module.mjs')).toThrow('not built as expected');
  });
});

it('draws our MusicXML with its tablature staff: every note of both staves has its place', async () => {
  const arrangement = arrangementOf('|: (G2BG) dGBG | ABcA (BG-)GB | [DB]4 z4 :|');
  const line = await engraveLine(arrangementXml(arrangement, { tab: true }), 'paper');
  const { notes } = arrangement.fingering;
  for (const { id } of notes) expect(line.heads[id], id).toBeDefined();
  // Frets stand as numbers on their lines.
  expect(line.markup).toMatch(/class="tabGrp"/);
});

describe('several voices', () => {
  it('stand under each other, every note in its place, and bar lines at one', async () => {
    const { staff, form } = arrangementOf('B4 d4 | f8 |');
    const [phrase] = phrasesOf(form);
    const low = { ...staff, bars: staff.bars.map((bar) => ({ ...bar })) };
    const xml = writeScore([
      { tune: phraseLine(staff, phrase!), partName: 'Violin' },
      { tune: phraseLine(low, phrase!), partName: 'Cello', clef: { sign: 'F', line: 4 } },
    ]);
    const line = await engraveLine(xml, 'paper');
    expect(line.staves).toHaveLength(2);
    const [upper, lower] = line.staves as [Staff, Staff];
    expect(lower.top).toBeGreaterThan(upper.bottom);
    expect([line.staffTop, line.staffBottom]).toEqual([upper.top, upper.bottom]);
    for (const id of phrase!.notes) {
      expect(line.heads[`P2-${id}`]!.x).toBeCloseTo(line.heads[id]!.x, 1);
      expect(line.heads[`P2-${id}`]!.y).toBeGreaterThan(line.heads[id]!.y);
    }
    expect(line.barlines).toHaveLength(2);
  });

  it('of one are written as one always was', () => {
    const { staff } = arrangementOf('B4 {c}d4 | (f4 B4) |');
    const options = { partName: 'Violin', positions: new Map([['n2', 'II']]) };
    expect(writeScore([{ tune: staff, ...options }])).toBe(writeMusicXml(staff, options));
  });

  it('of a group go home together: sheets one after the other', async () => {
    const all = [
      arrangementOf('B4 d4 | f8 |', {}, 'One'),
      arrangementOf('B4 d4 | f8 |', { instrument: 'cello' }, 'Two'),
    ];
    const [one, two] = await Promise.all(all.map((arrangement) => engraveSheet(arrangement, LETTER)));
    const together = await engraveSheets(all, LETTER);
    expect(together).toHaveLength(one!.length + two!.length);
    expect(together[1]).toContain('Two');
  });
});

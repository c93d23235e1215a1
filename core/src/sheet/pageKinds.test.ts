/** Pages beside the music: where the fingers go, the chords, the square of an address. */
import { describe, expect, it } from 'vitest';
import { arrange, bestOctave, type Arrangement } from '../arrange/index.ts';
import { FIRST_DECISIONS, decided } from '../arrange/index.ts';
import { INSTRUMENTS } from '../instrument/index.ts';
import { linkSchema } from '../paper/index.ts';
import { climbTo, lessonSteps } from '../practice/index.ts';
import { tuneOf } from '../test/testing.ts';
import { placesUsed } from './chartPage.ts';
import { chordFields } from './chordPage.ts';
import { squareOf } from './linkBlock.ts';
import { USUAL_STYLE, sheetPages, type PageKind } from './index.ts';

const pages = (arrangement: Arrangement, kind: PageKind, more = {}) =>
  sheetPages([{ arrangement, engraved: { lines: [] } }], { ...USUAL_STYLE, pages: [kind], ...more });
const onInstrument = (body: string, instrument: (typeof INSTRUMENTS)[number], key = 'G') => {
  const tune = tuneOf(body, { key });
  const own = decided(FIRST_DECISIONS, { key: { instrument } });
  return arrange(tune, decided(own, { key: { transpose: bestOctave(tune, own) } }));
};
const reel = '|: "G"G2BG dGBG | "Am"ABcA "D"FGAB | "C"c2ec "G"B2dB | "D"ABAG "G"G4 :|';

describe('the chart of fingers', () => {
  it.each(INSTRUMENTS.map((instrument) => [instrument]))('shows each place that the %s plays, once', (instrument) => {
    const arrangement = onInstrument(reel, instrument);
    const places = placesUsed(arrangement);
    const keys = places.map(({ stop }) => `${stop.string} ${stop.semitones}`);
    expect(new Set(keys).size).toBe(keys.length);
    const played = arrangement.fingering.notes.flatMap(({ stops }) => stops);
    expect(new Set(played.map(({ string, semitones }) => `${string} ${semitones}`))).toEqual(new Set(keys));
    expect(places.reduce((sum, { times }) => sum + times, 0)).toBe(played.length);
  });

  it('joins the fingers that touch: second and third on the D string of a G major tune, first and second on A', () => {
    const [page] = pages(onInstrument('DEFG ABcd | efgf edcB | AGFE D4 |]', 'violin'), 'chart');
    // Joined places are heavy lines; on the E string first and second touch too.
    expect(page!.match(/stroke-width="13.5"/g)).toHaveLength(3);
    expect(page).toContain('these fingers touch');
    expect(page).toContain('low finger');
  });

  it('says which finger else plays a place, and shows the key’s other notes small', () => {
    const [page] = pages(onInstrument(reel, 'violin'), 'chart');
    expect(page).toContain('in the key, not in this tune');
    const [all] = pages(onInstrument('G,A,B,C | DEFG | ABcd | efga | b2 a2 |]', 'violin'), 'chart');
    expect(all).toContain('Where the fingers go');
  });

  it('has no sign in its legend that does not stand on it', () => {
    const [page] = pages(onInstrument('D2E2 | F2A2 |]', 'violin', 'D'), 'chart');
    expect(page).not.toContain('low finger');
    expect(page).not.toContain('finger reaches up');
  });

  it('keeps its fingers apart high up the strings', () => {
    const arrangement = onInstrument("e2fg | a2bc' | d'2e'2 | e'2d'2 |]", 'violin');
    const [page] = pages(arrangement, 'chart');
    const circles = [
      ...page!.matchAll(
        /<circle cx="([\d.]+)" cy="([\d.]+)" r="([\d.]+)" fill="#ffffff" stroke="#1d1a16" stroke-width="1.1"/g,
      ),
    ].map(([, x, y, r]) => [Number(x), Number(y), Number(r)] as const);
    for (const [x, y, r] of circles)
      for (const [x2, y2] of circles) if (x === x2 && y2 > y) expect(y2 - y).toBeGreaterThan(1.5 * r);
  });
});

describe('the chords to play along', () => {
  const fieldsOf = (body: string, head = {}) =>
    chordFields(arrange(tuneOf(body, { key: 'G', ...head }))).map(({ number, chords, beats }) => ({
      number,
      chords: chords.map(({ at, name, goesOn }) => `${name}@${Math.round(at * 100)}${goesOn ? '…' : ''}`),
      beats: beats.length,
    }));

  it('have a field for each bar: a chord goes on until another comes', () => {
    expect(fieldsOf('"G"G8 | A8 | "D"A4 "G"G4 |]')).toEqual([
      { number: 1, chords: ['G@0'], beats: 3 },
      { number: 2, chords: ['G@0…'], beats: 3 },
      { number: 3, chords: ['D@0', 'G@50'], beats: 2 },
    ]);
  });

  it('give a pickup a field only where a chord is written over it', () => {
    expect(fieldsOf('D2 | "G"G8 | "D"A8 |]').map(({ number }) => number)).toEqual([1, 2]);
    expect(fieldsOf('"D"D2 | "G"G8 | "D"A8 |]').map(({ number }) => number)).toEqual([0, 1, 2]);
  });

  it('count the beats of 6/8 in two', () =>
    expect(fieldsOf('"G"G3 A3 | "D"A6 |]', { metre: '6/8' }).map(({ beats }) => beats)).toEqual([1, 1]));

  it('find chords where none are written, and say so', () => {
    const arrangement = arrange(tuneOf('G4 B4 | d4 B4 | A4 F4 | G8 |]', { key: 'G' }));
    expect(chordFields(arrangement).map(({ chords }) => chords[0]!.name)).toEqual(['G', 'G', 'D', 'G']);
    expect(pages(arrangement, 'chords')[0]).toContain('found from the notes');
  });

  it('say what each chord is made of, and what it is in the key', () => {
    const [page] = pages(arrange(tuneOf(reel, { key: 'G' })), 'chords');
    expect(page).toContain('(I) G B D');
    expect(page).toMatch(/\(V\) D F.*A</s);
    expect(page).toContain('(ii) A C E');
  });

  it('stand in the row of their part, with repeats and endings', () => {
    const [page] = pages(
      arrange(tuneOf('|: "G"G8 | "C"c8 |1 "D"A8 :|2 "G"G8 |] "Em"E8 | "D"D8 |]', { key: 'G' })),
      'chords',
    );
    expect(page).toContain('>1.<');
    expect(page).toContain('>2.<');
  });

  it('fit a long name into its field', () => {
    const [page] = pages(
      arrange(tuneOf('"F#m7b5"A2 "Bbmaj7"A2 "G#dim7"A2 "C#m7"A2 | "D"A8 |]', { key: 'G' })),
      'chords',
    );
    const sizes = [...page!.matchAll(/font-size="([\d.]+)" font-weight="bold"[^>]*><tspan[^>]*>F/g)].map(([, size]) =>
      Number(size),
    );
    expect(Math.max(...sizes)).toBeLessThan(12);
  });
});

describe('the lesson on paper', () => {
  it('has a row for each step that is taught, its bars, and a box for each tempo', () => {
    const own = arrange(tuneOf(reel, { key: 'G', tempo: '1/4=100' }));
    const [page] = pages(own, 'plan');
    const steps = lessonSteps(own.tune, own.form, own.tempo);
    expect(page!.match(/<rect [^>]*rx="2"/g)).toHaveLength(steps.length * climbTo(own.tempo).tempos.length);
    for (const { label } of steps) expect(page).toContain(`>${label}<`);
    expect(page).toContain('to quarter = 100');
  });

  it('leaves out what is left out, and says so where nothing is left', () => {
    const own = arrange(tuneOf(reel, { key: 'G' }));
    const out = Object.fromEntries(lessonSteps(own.tune, own.form, own.tempo).map(({ id }) => [id, true as const]));
    const [page] = pages(arrange(own.tune, decided(FIRST_DECISIONS, { lesson: { out } })), 'plan');
    expect(page).toContain('Every step is left out.');
  });
});

describe('an address on paper', () => {
  it('is http or https, and short enough to be read from a square', () => {
    expect(linkSchema.safeParse('https://strings.example/lantern').success).toBe(true);
    expect(linkSchema.safeParse('javascript:alert(1)').success).toBe(false);
    expect(linkSchema.safeParse('lantern').error?.issues[0]?.message).toBe(
      'An address begins with https:// or http://',
    );
    expect(linkSchema.safeParse(`https://a.example/${'x'.repeat(300)}`).error?.issues[0]?.message).toMatch(
      'at most 200',
    );
  });

  it('stands under the tune with its square, and never under other pages', () => {
    const link = 'https://strings.example/lantern?a=1&b=2';
    const arrangement = arrange(tuneOf(reel, { key: 'G' }), decided(FIRST_DECISIONS, { sheet: { link } }));
    expect(pages(arrangement, 'tune').join('')).toContain('data-square="link"');
    expect(pages(arrangement, 'tune').join('')).toContain('a=1&amp;b=2');
    expect(pages(arrangement, 'chart').join('')).not.toContain('data-square');
  });

  it('has modules of half a millimetre and more, at the longest too', () => {
    const link = `https://a.example/${'x'.repeat(182)}`;
    const { side, svg } = squareOf(link);
    const module = Number(/scale\(([\d.]+)\)/.exec(svg)![1]);
    expect(module * (25.4 / 72)).toBeGreaterThan(0.5);
    expect(side).toBeLessThan(150);
  });
});

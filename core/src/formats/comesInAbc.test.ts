/** ABC comes in as it was written: small tunes, with what sounds stated before they were read. */
import { describe, expect, it } from 'vitest';
import { TICKS_PER_QUARTER, playedOrder, type Tune } from '../music/index.ts';
import { abc, metres, soundsOf } from '../test/comesIn.ts';
import { readAbc, readMusicXml, writeAbc, writeMusicXml } from './index.ts';

describe('ABC: what holds from its line on', () => {
  it.each([
    ['M: on a line of its own', 'CDEF|\nM:3/4\nCDE|CDE|', '4/4 3/4 3/4'],
    ['M: twice', 'CDEF|\nM:3/4\nCDE|\nM:2/4\nCD|CD|', '4/4 3/4 2/4 2/4'],
    ['M: before a change of key', 'CDEF|\nM:3/4\nK:G\nCDE|', '4/4 3/4'],
    ['M: after a comment', 'CDEF|\nM:3/4 % a waltz\nCDE|', '4/4 3/4'],
    ['M: in brackets', 'CDEF|[M:3/4]CDE|', '4/4 3/4'],
    ['M:C| in mid-tune', 'CDE|\nM:C|\nC2D2|', '3/4 2/2'],
  ])('%s', (_, body, expected) => {
    const { tune, notices } = abc(body, body.startsWith('CDE|') ? 'M:3/4\nL:1/4\nK:C' : undefined);
    expect(metres(tune)).toBe(expected);
    expect(notices).toEqual([]);
  });

  it.each([
    ['between systems of voices', 'V:1\nCDEF|\nV:2\nC,D,E,F,|\nM:3/4\nV:1\nCDE|\nV:2\nC,D,E,|'],
    ['between systems of voices in brackets', '[V:1]CDEF|\n[V:2]C,D,E,F,|\nM:3/4\n[V:1]CDE|\n[V:2]C,D,E,|'],
    ['in each voice', 'V:1\nCDEF|\nM:3/4\nCDE|\nV:2\nC,D,E,F,|\nM:3/4\nC,D,E,|'],
  ])('M: %s holds for every voice', (_, body) => {
    for (const voice of [1, 2]) {
      const read = readAbc(`X:1\nT:Test\nM:4/4\nL:1/4\nK:C\n${body}\n`, { voice });
      expect(read.ok && metres(read.value.tune)).toBe('4/4 3/4');
    }
  });

  it('Q: in mid-tune is the tempo from there on', () => {
    const { tune } = abc('CDEF|\nQ:1/4=80\nCDEF|', 'M:4/4\nL:1/4\nQ:1/4=120\nK:C');
    expect(tune.tempo).toMatchObject({ bpm: 120 });
    expect(tune.bars[1]!.tempo).toMatchObject({ bpm: 80 });
  });

  it('Q: in mid-tune alone does not become the first tempo', () => {
    const { tune } = abc('CDEF|\nQ:1/4=80\nCDEF|');
    expect(tune.tempo).toBeNull();
    expect(tune.bars[1]!.tempo).toMatchObject({ bpm: 80 });
  });

  it('L: and K: on lines of their own', () => {
    expect(soundsOf(abc('CDEF|\nL:1/8\nCDEFGABc|\nK:G\nF8|').tune)).toBe(
      'C4 1 D4 1 E4 1 F4 1 | C4 0.5 D4 0.5 E4 0.5 F4 0.5 G4 0.5 A4 0.5 B4 0.5 C5 0.5 | F#4 4',
    );
  });
});

describe('ABC: lines that go on', () => {
  it('+: in the header goes on with its field', () => {
    const { tune, notices } = abc('CDEF|', 'N:one\n+:two\nM:3/4\nL:1/4\nK:G');
    expect(tune.notes).toEqual(['one two']);
    expect(metres(tune)).toBe('3/4');
    expect(soundsOf(tune)).toBe('C4 1 D4 1 E4 1 F#4 1');
    expect(notices.map(({ message }) => message).join()).not.toMatch(/sign/);
  });

  it('+: below words goes on with the words', () => {
    const { tune } = abc('CDEF|\nw:one two\n+:three four\n');
    const words = tune.bars[0]!.events.map((event) => (event.kind === 'note' ? event.words?.[0]?.text : null));
    expect(words).toEqual(['one', 'two', 'three', 'four']);
  });

  it('+: below music is told, and is no music', () => {
    const { tune, notices } = abc('CDEF|\n+:GABc|\nCDEF|');
    expect(soundsOf(tune)).toBe('C4 1 D4 1 E4 1 F4 1 | C4 1 D4 1 E4 1 F4 1');
    expect(notices).toMatchObject([{ line: 7, severity: 'notice' }]);
  });

  it('s: lays signs, texts and chords over its notes, rests and graces left out', () => {
    const { tune, notices } = abc(
      'CD z {g}E | F2 G2 |\ns: !upbow! v !trill! | !fermata! "Am"\nw: one two three four five\nc2 B2|\ns:!f! "^slow" % as it was\n',
    );
    const signs = tune.bars.map(({ events }) =>
      events.map((event) =>
        event.kind === 'note'
          ? [event.bow, ...(event.decorations ?? []), event.dynamic, event.chordSymbol, event.annotation]
              .filter(Boolean)
              .join(' ')
          : 'rest',
      ),
    );
    expect(signs).toEqual([
      ['up', 'down', 'rest', 'trill'],
      ['fermata', 'Am'],
      ['f', 'slow'],
    ]);
    expect(notices).toEqual([]);
  });

  it('s: goes on at a bar line, leaves out what it steps over, and belongs to its own voice', () => {
    const { tune } = abc('CDEF|GABc|\ns: * v | u * ~ .\n');
    const bows = tune.bars.map(({ events }) =>
      events.map((event) => (event.kind === 'note' ? (event.bow ?? '-') : '')),
    );
    expect(bows).toEqual([
      ['-', 'down', '-', '-'],
      ['up', '-', '-', '-'],
    ]);
    const two = abc('V:1\nCDEF|\ns: v\nV:2\nG,A,B,C|\ns: * u\n').tune;
    expect(two.bars[0]!.events.map((event) => (event.kind === 'note' ? (event.bow ?? '-') : ''))).toEqual([
      'down',
      '-',
      '-',
      '-',
    ]);
  });

  it('s: tells what it does not know, with its place', () => {
    const { tune, notices } = abc('CDEF|\ns: !p! !wiggle! Q\n');
    expect(notices).toMatchObject([
      { line: 7, column: 8, message: expect.stringContaining('!wiggle!') as string },
      { line: 7, column: 17, message: expect.stringContaining('Q') as string },
    ]);
    expect(tune.bars[0]!.events[0]).toMatchObject({ dynamic: 'p' });
  });
});

it('ABC: a second chord over one note is told, and words over it stand together', () => {
  const { tune, notices } = abc('"C""G"C2 "^soft""^slow"DE|');
  const texts = tune.bars[0]!.events.map(({ chordSymbol, annotation }) => chordSymbol ?? annotation ?? '-');
  expect(texts).toEqual(['C', 'soft slow', '-']);
  expect(notices).toMatchObject([{ line: 6, message: expect.stringContaining('“G”') as string }]);
});

it('ABC: thousands of continued lines and metres are read in a moment, or refused', () => {
  const many = (line: string) => readAbc(`X:1\nT:Test\nN:a\n${`${line}\n`.repeat(20_000)}M:4/4\nK:C\nCDEF|\n`);
  const start = performance.now();
  many('+:more words');
  readAbc(`X:1\nT:Test\nK:C\nCDEF|\n${'M:3/4\n'.repeat(20_000)}CDE|\n`);
  expect(performance.now() - start).toBeLessThan(5_000);
});

describe('ABC: repeats and the way through', () => {
  const timesPlayed = (tune: Tune) => playedOrder(tune.bars).length;
  it.each([
    ['|: :|', '|:CDEF:|', 2],
    ['|:: ::|', '|::CDEF::|', 3],
    ['|::: :::|', '|:::CDEF:::|', 4],
    [':: in the middle', '|:CDEF::GABc:|', 4],
    ['::| at the end alone', 'CDEF::|', 3],
    [':|: in the middle', '|:CDEF:|:GABc:|', 4],
    ['|| is no repeat', 'CDEF||GABc|]', 2],
  ])('%s', (_, body, bars) => {
    expect(timesPlayed(abc(body).tune)).toBe(bars);
    expect(timesPlayed(abc(writeAbc(abc(body).tune).split('K:C\n')[1]!, 'M:4/4\nL:1/8\nK:C').tune)).toBe(bars);
  });

  it('!dacoda! says where to leave, and !coda! where to go on', () => {
    const { tune, notices } = abc('CDEF|!dacoda!CDEF|GABc !D.C.alcoda!|!coda!cBAG|');
    expect(tune.bars.map(({ toCoda, coda }) => (toCoda ? 'to' : coda ? 'coda' : '-')).join(' ')).toBe('- to - coda');
    expect(notices).toEqual([]);
  });

  it('two !coda! signs still say the same', () => {
    const { tune } = abc('CDEF|!coda!CDEF|GABc !D.C.alcoda!|!coda!cBAG|');
    expect(tune.bars.map(({ toCoda, coda }) => (toCoda ? 'to' : coda ? 'coda' : '-')).join(' ')).toBe('- to - coda');
  });
});

describe('ABC: free metre', () => {
  const free = () => abc('CDEFGA|CD|E3|', 'M:none\nL:1/4\nK:C');
  it('has bars as long as their notes, and nothing to complain of', () => {
    const { tune, notices } = free();
    expect(metres(tune)).toBe('6/4 2/4 3/4');
    expect(tune.bars[0]!.metre.symbol).toBe('free');
    expect(notices).toEqual([]);
  });

  it('is written to ABC and MusicXML as free metre', () => {
    const { tune } = free();
    expect(writeAbc(tune)).toContain('M:none');
    expect(writeAbc(tune)).not.toContain('[M:');
    const again = readAbc(writeAbc(tune));
    expect(again.ok && metres(again.value.tune)).toBe('6/4 2/4 3/4');
    const xml = readMusicXml(writeMusicXml(tune));
    expect(xml.ok && metres(xml.value.tune)).toBe('6/4 2/4 3/4');
    expect(xml.ok && xml.value.tune.bars[2]!.metre.symbol).toBe('free');
  });
});

describe('ABC: pitch and time', () => {
  it.each([
    ['transpose= in K:', 'K:C transpose=-2', 'CDEF|', 'A#3 1|Bb3 1'],
    ['transpose=-12 in K:', 'K:C transpose=-12', 'CDEF|', 'C3 1 D3 1 E3 1 F3 1'],
    ['a clef with an 8 below', 'K:C clef=treble-8', 'CDEF|', 'C3 1 D3 1 E3 1 F3 1'],
    ['a clef with an 8 above', 'K:C clef=treble+8', 'CDEF|', 'C5 1 D5 1 E5 1 F5 1'],
    ['octave=', 'K:C octave=-1', 'CDEF|', 'C3 1 D3 1 E3 1 F3 1'],
  ])('%s', (name, key, body, expected) => {
    const { tune, notices } = abc(body, `M:4/4\nL:1/4\n${key}`);
    expect(soundsOf(tune)).toMatch(new RegExp(`^(${expected.replaceAll('+', '\\+')})`));
    expect(notices.length).toBe(name === 'octave=' ? 0 : 1);
  });

  it.each([
    ['(5 in 6/8 is five in three', '6/8', '(5CDEFG C3|', 'C4 0.3 D4 0.3 E4 0.3 F4 0.3 G4 0.3 C4 1.5'],
    ['(5 in 4/4 is five in two', '4/4', '(5CDEFG C6|', 'C4 0.2 D4 0.2 E4 0.2 F4 0.2 G4 0.2 C4 3'],
    [
      '(7 in 9/8 is seven in three',
      '9/8',
      '(7CDEFGAB C6|',
      'C4 0.214 D4 0.214 E4 0.214 F4 0.214 G4 0.214 A4 0.214 B4 0.214 C4 3',
    ],
    ['(5:4 says it itself', '6/8', '(5:4CDEFG C2|', 'C4 0.4 D4 0.4 E4 0.4 F4 0.4 G4 0.4 C4 1'],
    ['(2 in 6/8 is two in three', '6/8', '(2CD C3|', 'C4 0.75 D4 0.75 C4 1.5'],
    ['(4 in 6/8 is four in three', '6/8', '(4CDEF C3|', 'C4 0.375 D4 0.375 E4 0.375 F4 0.375 C4 1.5'],
  ])('%s', (_, metre, body, expected) => {
    expect(soundsOf(abc(body, `M:${metre}\nL:1/8\nK:C`).tune)).toBe(expected);
  });

  it.each([
    ['Q:C=100 counts unit lengths', 'L:1/4\nQ:C=100', 1, 100],
    ['also where L: comes after', 'Q:C=100\nL:1/4', 1, 100],
    ['Q:C3=40', 'L:1/8\nQ:C3=40', 1.5, 40],
    ['Q:120', 'L:1/8\nQ:120', 0.5, 120],
    ['Q:1/4=90', 'L:1/8\nQ:1/4=90', 1, 90],
    ['Q: of several beats', 'L:1/8\nQ:1/4 3/8=40', 2.5, 40],
  ])('%s', (_, fields, beat, bpm) => {
    const { tune } = abc('CDEF|', `M:4/4\n${fields}\nK:C`);
    expect(tune.tempo).toMatchObject({ beat: beat * TICKS_PER_QUARTER, bpm });
    // MusicXML has it as fast, whatever beat it counts by.
    const again = readMusicXml(writeMusicXml(tune));
    const tempo = again.ok ? again.value.tune.tempo! : { beat: 0, bpm: 0 };
    expect((tempo.beat * tempo.bpm) / TICKS_PER_QUARTER).toBeCloseTo(beat * bpm, 3);
  });
});

it('ABC: a chord or a text right before a bar line is told, and where to leave is kept', () => {
  const { tune, notices } = abc('CDEF "^slow"|GABc "G"|CDEF "^To Coda"|GABc|');
  expect(notices.map(({ message }) => message)).toEqual([
    'The text “slow” was left out: no note begins there for it.',
    'The chord symbol “G” was left out: no note begins there for it.',
  ]);
  expect(tune.bars.map(({ toCoda }) => toCoda ?? false)).toEqual([false, false, true, false]);
});

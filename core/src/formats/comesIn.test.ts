/** What comes in is what was written: small files of each kind, with what sounds stated before they were read. */
import toneMidi from '@tonejs/midi';
import { describe, expect, it } from 'vitest';
import { TICKS_PER_QUARTER, keyName, pitchName, playedOrder, soundingNotes, type Tune } from '../music/index.ts';
import { readAbc, readMidi, readMusicXml, writeAbc, writeMidi, writeMusicXml, type Problem } from './index.ts';

/** "C4 1 E4+G4 1/2 | …": what sounds, with its length in quarters, bar by bar. */
export function soundsOf(tune: Tune): string {
  const length = (ticks: number) => {
    const rounded = Math.round((ticks / TICKS_PER_QUARTER) * 1000) / 1000;
    return String(rounded);
  };
  let bar = 0;
  return soundingNotes(tune)
    .map(({ note, duration, barIndex }) => {
      const line = barIndex === bar ? '' : '| ';
      bar = barIndex;
      return `${line}${note.heads.map(({ pitch }) => pitchName(pitch)).join('+')} ${length(duration)}`;
    })
    .join(' ');
}

interface Told {
  readonly tune: Tune;
  readonly notices: readonly Problem[];
}

function abc(body: string, header = 'M:4/4\nL:1/4\nK:C'): Told {
  const read = readAbc(`X:1\nT:Test\n${header}\n${body}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return { tune: read.value.tune, notices: read.notices };
}

const metres = ({ bars }: Tune) => bars.map(({ metre }) => `${metre.beats}/${metre.unit}`).join(' ');

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

/** A part of one voice with divisions of 24 to the quarter. */
function xml(measures: string, before = ''): Told {
  const read = readMusicXml(
    `<?xml version="1.0"?><score-partwise>${before}<part-list><score-part id="P1"><part-name>V</part-name></score-part></part-list><part id="P1">${measures}</part></score-partwise>`,
  );
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return { tune: read.value.tune, notices: read.notices };
}
const FOUR = '<attributes><divisions>24</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>';
const bar = (inside: string, number = 1) =>
  `<measure number="${number}">${number === 1 ? FOUR : ''}${inside}</measure>`;
const tone = (name: string, quarters: number, more = '', lead = '') =>
  `<note>${lead}<pitch><step>${name[0]}</step><octave>${name[1]}</octave></pitch><duration>${24 * quarters}</duration>${more}</note>`;
const chordAt = (root: string, offset?: number) =>
  `<harmony><root><root-step>${root}</root-step></root><kind>major</kind>${offset === undefined ? '' : `<offset>${offset}</offset>`}</harmony>`;

describe('MusicXML: durations that add up', () => {
  it('cue notes are left out with a word, and their time passes', () => {
    const { tune, notices } = xml(bar(tone('C4', 1) + tone('E5', 2, '', '<cue/>') + tone('D4', 1)));
    expect(soundsOf(tune)).toBe('C4 1 D4 1');
    expect(tune.bars[0]!.events.at(-1)!.at).toBe(3 * TICKS_PER_QUARTER);
    expect(tune.bars[0]!.offset).toBe(0);
    expect(notices.map(({ message }) => message).join()).toContain('played by others');
  });

  it('a bar of nothing but cue notes is a bar of rest', () => {
    const { tune } = xml(bar(tone('C4', 4)) + bar(tone('E5', 4, '', '<cue/>'), 2) + bar(tone('D4', 4), 3));
    expect(tune.bars.map(({ length }) => length / TICKS_PER_QUARTER)).toEqual([4, 4, 4]);
  });

  it('triplets inside a triplet fill their bar', () => {
    const ratio =
      '<type>eighth</type><time-modification><actual-notes>9</actual-notes><normal-notes>4</normal-notes></time-modification>';
    const nested = Array.from(
      { length: 9 },
      () => `<note><pitch><step>C</step><octave>4</octave></pitch><duration>${(24 * 2) / 9}</duration>${ratio}</note>`,
    );
    const { tune, notices } = xml(bar(nested.join('') + tone('D4', 2)));
    expect(tune.bars[0]!.length).toBe(4 * TICKS_PER_QUARTER);
    expect(notices).toEqual([]);
  });
});

describe('MusicXML: what stands at a place', () => {
  const symbols = ({ bars }: Tune) =>
    bars.flatMap(({ events }) => events.map((event) => event.chordSymbol ?? '-')).join(' ');
  it('a second chord over one long note ties the note to itself', () => {
    const { tune } = xml(bar(chordAt('C') + chordAt('G', 48) + tone('E4', 4)));
    expect(symbols(tune)).toBe('C G');
    expect(soundsOf(tune)).toBe('E4 4');
  });

  it('also where it stands in a forward and backup', () => {
    const { tune } = xml(
      bar(
        `${chordAt('C')}${tone('E4', 4)}<backup><duration>48</duration></backup>${chordAt('F')}<forward><duration>48</duration></forward>`,
      ),
    );
    expect(symbols(tune)).toBe('C F');
  });

  it('a chord after the last note is told', () => {
    const { notices } = xml(bar(tone('E4', 4) + chordAt('G')));
    expect(notices.map(({ message }) => message).join()).toContain('chord symbol “G”');
  });

  it.each([
    ['segno on the left barline', '<barline location="left"><segno/></barline>', 1, '- segno'],
    ['segno on the right barline', '<barline location="right"><segno/></barline>', 0, '- segno'],
    ['coda on the left barline', '<barline location="left"><coda/></barline>', 1, '- coda'],
    ['coda on the right barline: where to leave', '<barline location="right"><coda/></barline>', 0, 'to -'],
  ])('%s', (_, line, at, expected) => {
    const part = (index: number) => (index === at ? line : '');
    const { tune } = xml(bar(part(0) + tone('C4', 4)) + bar(part(1) + tone('D4', 4), 2));
    const way = tune.bars.map(({ segno, coda, toCoda }) => (segno ? 'segno' : coda ? 'coda' : toCoda ? 'to' : '-'));
    expect(way.join(' ')).toBe(expected);
  });

  it('the composer and the title in the credits', () => {
    const credits =
      '<credit><credit-type>composer</credit-type><credit-words>A. Maker</credit-words></credit>' +
      '<credit><credit-type>title</credit-type><credit-words>Credited</credit-words></credit>';
    const { tune } = xml(bar(tone('C4', 4)), credits);
    expect(tune).toMatchObject({ title: 'Credited', composer: 'A. Maker' });
  });

  it('a title in CDATA, with signs that stand for themselves', () => {
    const { tune } = xml(bar(tone('C4', 4)), '<work><work-title><![CDATA[Salt & <Tar> &amp;]]></work-title></work>');
    expect(tune.title).toBe('Salt & <Tar> &amp;');
  });
});

interface Header {
  readonly metres?: readonly (readonly [at: number, beats: number, unit: number])[];
  readonly keys?: readonly (readonly [at: number, major: string, mode: 'major' | 'minor'])[];
  readonly tempos?: readonly (readonly [at: number, bpm: number])[];
}
type Played = readonly [midi: number, at: number, quarters: number];

/** A file of one track; times in quarters. */
function midiFile(notes: readonly Played[], { metres = [[0, 4, 4]], keys = [], tempos = [[0, 120]] }: Header = {}) {
  const file = new toneMidi.Midi();
  const ticks = (at: number) => Math.round(at * 480);
  file.header.fromJSON({
    name: 'Test',
    ppq: 480,
    meta: [],
    tempos: tempos.map(([at, bpm]) => ({ ticks: ticks(at), bpm })),
    timeSignatures: metres.map(([at, ...timeSignature]) => ({ ticks: ticks(at), timeSignature })),
    keySignatures: keys.map(([at, key, scale]) => ({ ticks: ticks(at), key, scale })),
  });
  const track = file.addTrack();
  for (const [midi, at, quarters] of notes) track.addNote({ midi, ticks: ticks(at), durationTicks: ticks(quarters) });
  // The library writes signatures fourteen fifths too high.
  const bytes = file.toArray();
  for (let at = 0; at + 3 < bytes.length; at += 1)
    if (bytes[at] === 0xff && bytes[at + 1] === 0x59 && bytes[at + 2] === 2)
      bytes[at + 3] = (bytes[at + 3]! - 14) & 0xff;
  return bytes;
}

function played(bytes: Uint8Array): Told {
  const read = readMidi(bytes);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return { tune: read.value.tune, notices: read.notices };
}
const line = (pitches: readonly number[], quarters = 1, from = 0): readonly Played[] =>
  pitches.map((midi, index) => [midi, from + index * quarters, quarters]);
/** What sounds and what rests, in quarters. */
const values = ({ bars }: Tune) =>
  bars
    .map(({ events }) =>
      events.map(({ kind, duration }) => `${kind === 'rest' ? 'z' : ''}${duration / TICKS_PER_QUARTER}`).join(' '),
    )
    .join(' | ');
const SCALE = [64, 66, 67, 69, 71, 69, 67, 64];

describe('MIDI: what the file says holds from where it says it', () => {
  it.each([
    ['one sharp, minor', 'G', 'minor', SCALE, 'E minor'],
    ['one sharp, major', 'G', 'major', [67, 69, 71, 72, 74, 71, 69, 67], 'G major'],
    ['two flats, minor', 'Bb', 'minor', [67, 69, 70, 72, 74, 72, 70, 67], 'G minor'],
    ['four sharps, minor', 'E', 'minor', [61, 63, 64, 66, 68, 66, 64, 61], 'C♯ minor'],
    ['no signs, minor', 'C', 'minor', [69, 71, 72, 74, 76, 74, 72, 69], 'A minor'],
  ] as const)('a key of %s', (_, major, mode, pitches, name) => {
    const { tune } = played(midiFile(line(pitches), { keys: [[0, major, mode]] }));
    expect(keyName(tune.bars[0]!.key)).toBe(name);
  });

  it('a pickup written as a bar of its own metre', () => {
    const { tune } = played(
      midiFile(line([62, ...SCALE]), {
        metres: [
          [0, 1, 4],
          [1, 4, 4],
        ],
      }),
    );
    expect(
      tune.bars.map(({ length, metre }) => `${length / TICKS_PER_QUARTER} of ${metre.beats}/${metre.unit}`),
    ).toEqual(['1 of 4/4', '4 of 4/4', '4 of 4/4']);
    expect(tune.bars[0]!.offset).toBe(3 * TICKS_PER_QUARTER);
  });

  it('a pickup bar that begins with a rest', () => {
    const { tune } = played(
      midiFile([[62, 0.5, 0.5], ...line(SCALE, 1, 1)], {
        metres: [
          [0, 1, 4],
          [1, 4, 4],
        ],
      }),
    );
    expect(values(tune)).toBe('z0.5 0.5 | 1 1 1 1 | 1 1 1 1');
  });

  it('a metre that changes', () => {
    const notes = line([...SCALE.slice(0, 4), 67, 69, 71, 67, 69, 71]);
    const { tune } = played(
      midiFile(notes, {
        metres: [
          [0, 4, 4],
          [4, 3, 4],
        ],
      }),
    );
    expect(metres(tune)).toBe('4/4 3/4 3/4');
    expect(values(tune)).toBe('1 1 1 1 | 1 1 1 | 1 1 1');
  });

  it('a note that is held over the change of metre is tied', () => {
    const { tune } = played(
      midiFile([...line([64, 66, 67]), [69, 3, 2], [71, 5, 1], [67, 6, 1]], {
        metres: [
          [0, 4, 4],
          [4, 3, 4],
        ],
      }),
    );
    expect(soundsOf(tune)).toBe('E4 1 F#4 1 G4 1 A4 2 | B4 1 G4 1');
  });

  it('a key that changes, with the notes spelled in it', () => {
    const notes = line([67, 69, 71, 66, 67, 69, 70, 63]);
    const { tune } = played(
      midiFile(notes, {
        keys: [
          [0, 'G', 'major'],
          [4, 'Bb', 'major'],
        ],
      }),
    );
    expect(tune.bars.map(({ key }) => keyName(key))).toEqual(['G major', 'B♭ major']);
    expect(soundsOf(tune)).toContain('Bb4 1 Eb4 1');
  });

  it('a tempo that changes at a bar line, and one inside a bar, which is told', () => {
    const notes = line([...SCALE, ...SCALE]);
    const { tune, notices } = played(
      midiFile(notes, {
        tempos: [
          [0, 120],
          [4, 80],
          [10, 60],
        ],
      }),
    );
    expect(tune.bars.map(({ tempo }) => tempo?.bpm ?? null)).toEqual([null, 80, 60, null]);
    expect(notices.map(({ message }) => message).join()).toContain('inside bar 3');
  });

  it('a tempo that goes with the player is told', () => {
    const tempos = Array.from({ length: 16 }, (_, at) => [at, 100 + (at % 3) * 4] as const);
    const { tune, notices } = played(midiFile(line([...SCALE, ...SCALE]), { tempos }));
    expect(tune.bars.every(({ tempo }) => tempo === undefined)).toBe(true);
    expect(notices[0]!.message).toMatch(/tempo changes \d+ times/);
  });
});

describe('MIDI: rests', () => {
  it('half as long as the note before them stay', () => {
    const notes: readonly Played[] = [0, 2, 4, 6].flatMap(
      (at) =>
        [
          [67, at, 1],
          [69, at + 1.5, 0.5],
        ] as const,
    );
    expect(values(played(midiFile(notes)).tune)).toBe('1 z0.5 0.5 1 z0.5 0.5 | 1 z0.5 0.5 1 z0.5 0.5');
  });

  it('of a quarter after a half stay', () => {
    const notes: readonly Played[] = [0, 4, 8].flatMap(
      (at) =>
        [
          [67, at, 2],
          [69, at + 3, 1],
        ] as const,
    );
    expect(values(played(midiFile(notes)).tune)).toBe('2 z1 1 | 2 z1 1 | 2 z1 1');
  });

  it('are none where a program lets every note sound for nine tenths', () => {
    const notes = line([...SCALE, ...SCALE]).map(([midi, at]) => [midi, at, 0.9] as const);
    expect(values(played(midiFile(notes)).tune)).toBe(Array(4).fill('1 1 1 1').join(' | '));
  });

  it('are none where somebody played with gaps', () => {
    const notes = line(SCALE).map(
      ([midi, at], index) => [midi, at + (index % 3) * 0.03, 0.65 + (index % 4) * 0.07] as const,
    );
    expect(values(played(midiFile(notes)).tune)).toBe('1 1 1 1 | 1 1 1 1');
  });
});

it('MIDI: a note that sounds on under others, and one that is there twice, are told', () => {
  const { notices } = played(
    midiFile([
      [60, 0, 4],
      [67, 1, 1],
      [69, 2, 1],
      [71, 3, 1],
      [71, 3, 1],
    ]),
  );
  const told = notices.map(({ message }) => message).join(' / ');
  expect(told).toContain('sounds on under the next one');
  expect(told).toContain('there twice');
});

describe('MIDI: files that are not whole', () => {
  const chunk = (tag: string, bytes: readonly number[]) => [
    ...[...tag].map((letter) => letter.charCodeAt(0)),
    ...[24, 16, 8, 0].map((shift) => (bytes.length >>> shift) & 255),
    ...bytes,
  ];
  const header = (tracks: number) => chunk('MThd', [0, 1, 0, tracks, 0x01, 0xe0]);
  const on = [0x00, 0x90, 67, 80, 0x83, 0x60, 0x80, 67, 0];
  const end = [0x00, 0xff, 0x2f, 0x00];
  const messages = (bytes: readonly number[]) =>
    played(Uint8Array.from(bytes))
      .notices.map(({ message }) => message)
      .join(' / ');

  it.each([
    ['whole', [...header(1), ...chunk('MTrk', [...on, ...end])], /^$/],
    [
      'a chunk of another kind before the tracks',
      [...header(1), ...chunk('XFIH', [1, 2, 3]), ...chunk('MTrk', [...on, ...end])],
      /^$/,
    ],
    ['a track is missing', [...header(3), ...chunk('MTrk', [...on, ...end])], /3 tracks, and 1 are there/],
    ['a track without its end', [...header(1), ...chunk('MTrk', on)], /does not end/],
    [
      'a note without its end',
      [...header(1), ...chunk('MTrk', [...on, 0x00, 0x90, 71, 80, ...end])],
      /1 note begins and never ends/,
    ],
  ] as const)('%s', (_, bytes, told) => {
    expect(messages(bytes)).toMatch(told);
  });
});

it('MIDI that Nokta wrote comes back with its metres, keys, tempi and rests', () => {
  const { tune } = abc('EFGA|B2 z A|\nM:3/4\nK:Gm\nGAB|cBA|\nQ:1/4=80\nG2 z|', 'M:4/4\nL:1/4\nQ:1/4=120\nK:Em');
  const back = played(writeMidi(tune)).tune;
  expect(metres(back)).toBe(metres(tune));
  expect(back.bars.map(({ key }) => keyName(key))).toEqual(tune.bars.map(({ key }) => keyName(key)));
  expect(back.bars.map(({ tempo }) => tempo?.bpm)).toEqual(tune.bars.map(({ tempo }) => tempo?.bpm));
  expect(soundsOf(back)).toBe(soundsOf(tune));
});

it('a melody without a third flat is not taken for a mode that has one', () => {
  const { tune } = played(midiFile(line([60, 67, 64, 62, 60, 62, 64, 65, 67])));
  expect(keyName(tune.bars[0]!.key)).toBe('C major');
});

describe('A double stop of which one note is tied', () => {
  const struck = (body: string) => {
    const { tune } = abc(body);
    const file = new toneMidi.Midi(writeMidi(tune));
    return file.tracks[0]!.notes.map(
      ({ midi, ticks, durationTicks }) => `${midi}@${ticks / TICKS_PER_QUARTER}:${durationTicks / TICKS_PER_QUARTER}`,
    ).sort();
  };
  it.each([
    ['a drone under a moving note', '[A-C][A-D][A-E][AF]|', ['60@0:1', '62@1:1', '64@2:1', '65@3:1', '69@0:4']],
    ['a drone that begins alone', 'A-[AC]-[AC]F|', ['60@1:2', '65@3:1', '69@0:3']],
    ['a drone that goes on alone', '[A-C]A2F|', ['60@0:1', '65@3:1', '69@0:3']],
    ['over a bar line', 'CDE[A-F]|[AG]4|', ['60@0:1', '62@1:1', '64@2:1', '65@3:1', '67@4:4', '69@3:5']],
    ['both', '[A-C-][AC]DE|', ['60@0:2', '62@2:1', '64@3:1', '69@0:2']],
    ['neither', '[AC][AC]DE|', ['60@0:1', '60@1:1', '62@2:1', '64@3:1', '69@0:1', '69@1:1']],
  ])('%s is struck once', (_, body, expected) => {
    expect(struck(body)).toEqual(expected);
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

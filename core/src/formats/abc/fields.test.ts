/** Fields and signs of ABC one by one: keys, metres, tempos, decorations, navigation, text encodings. */
import { describe, expect, it } from 'vitest';
import {
  TICKS_PER_QUARTER as Q,
  barLength,
  keyName,
  placedNotes,
  type Decoration,
  type Note,
  type Tune,
} from '../../music/index.ts';
import { tuneOf } from '../../test/testing.ts';
import { readAbc, writeAbc } from '../index.ts';
import { decodeText, headerFields, splitBook } from './book.ts';

const first = (tune: Tune): Note => placedNotes(tune)[0]!.note;

describe('K:', () => {
  it.each([
    ['G', 'G major', 1],
    ['Em', 'E minor', 1],
    ['Eminor', 'E minor', 1],
    ['Ador', 'A dorian', 1],
    ['D Mix', 'D mixolydian', 1],
    ['Bphr', 'B phrygian', 1],
    ['Clyd', 'C lydian', 1],
    ['F#loc', 'F♯ locrian', 1],
    ['Bb', 'B♭ major', -2],
    ['Ebm', 'E♭ minor', -6],
    ['C#', 'C♯ major', 7],
    ['none', 'C major', 0],
  ])('%s', (field, name, signs) => {
    const [bar] = tuneOf('C8 |', { key: field }).bars;
    expect(keyName(bar!.key)).toBe(name);
    expect(Object.values(bar!.key.signature).reduce<number>((sum, alter) => sum + alter, 0)).toBe(signs);
  });

  it('says so when it is missing, and takes C', () => {
    const read = readAbc('X:1\nT:t\nM:4/4\nL:1/8\nC8 | D8 |\n');
    expect(read.ok && read.notices.map(({ message }) => message)).toEqual([
      'There is no line K: with the key; C major was taken.',
    ]);
    expect(read.ok && keyName(read.value.tune.bars[0]!.key)).toBe('C major');
  });
});

describe('M:', () => {
  it.each([
    ['4/4', 4],
    ['C', 4],
    ['C|', 4],
    ['2/4', 2],
    ['6/8', 3],
    ['9/8', 4.5],
    ['5/4', 5],
    ['2+3/8', 2.5],
    ['3/2', 6],
  ])('%s', (field, quarters) => {
    const [bar] = tuneOf('C |', { metre: field }).bars;
    expect(barLength(bar!.metre)).toBe(quarters * Q);
  });

  it('keeps the sign of common and cut time', () => {
    expect(tuneOf('C8 |', { metre: 'C|' }).bars[0]!.metre).toEqual({ beats: 2, unit: 2, symbol: 'cut' });
    expect(writeAbc(tuneOf('C8 |', { metre: 'C|' }))).toContain('M:C|');
  });

  it('complains of no bar in free metre', () => {
    const read = readAbc('X:1\nT:t\nM:none\nL:1/8\nK:C\nCDE | CDEFGABc | C |\n');
    expect(read.ok && read.notices).toEqual([]);
  });
});

describe('Q:', () => {
  it.each([
    ['1/4=120', 1, 120],
    ['3/8=100', 1.5, 100],
    ['1/2=60', 2, 60],
    ['"Lively" 1/4=132', 1, 132],
  ])('%s', (field, beat, bpm) => {
    expect(tuneOf('C8 |', { tempo: field }).tempo).toMatchObject({ beat: beat * Q, bpm });
  });

  it('takes no slip of the pen for a tempo', () => {
    expect(tuneOf('C8 |', { tempo: '1/4=9000' }).tempo).toBeNull();
  });

  it('changes inside the tune', () => {
    expect(tuneOf('C8 | [Q:1/4=80] D8 |').bars[1]!.tempo).toMatchObject({ bpm: 80 });
  });
});

describe('signs', () => {
  it.each<[string, Decoration]>([
    ['.A', 'staccato'],
    ['~A', 'roll'],
    ['HA', 'fermata'],
    ['LA', 'accent'],
    ['MA', 'mordent'],
    ['PA', 'inverted-mordent'],
    ['TA', 'trill'],
    ['!trill!A', 'trill'],
    ['!turn!A', 'turn'],
    ['!slide!A', 'slide'],
    ['!tenuto!A', 'tenuto'],
    ['!breath!A', 'breath'],
    ['!open!A', 'harmonic'],
    ['!snap!A', 'snap-pizzicato'],
    ['!+!A', 'pizzicato'],
    ['+fermata+A', 'fermata'],
  ])('%s', (music, sign) => {
    const tune = tuneOf(`${music}8 |`);
    expect(first(tune).decorations).toEqual([sign]);
    const again = readAbc(writeAbc(tune));
    expect(again.ok && first(again.value.tune).decorations).toEqual([sign]);
  });

  it('reads dynamics, thumb and fingers of both notes of a double stop', () => {
    expect(first(tuneOf('!mf!A8 |')).dynamic).toBe('mf');
    expect(first(tuneOf('!thumb!A8 |')).heads[0]!.finger).toBe('T');
    expect(first(tuneOf('!1!!3![Ec]8 |')).heads.map(({ finger }) => finger)).toEqual(['1', '3']);
  });

  it('says which sign it left out', () => {
    const read = readAbc('X:1\nT:t\nM:4/4\nL:1/8\nK:C\n!wedge!C8 | !<(!D8 !<)!|\n');
    expect(read.ok && read.notices.map(({ message, line, column }) => ({ message, line, column }))).toEqual([
      {
        message: 'The sign !wedge! was left out; it says nothing to the fingers or the bow here.',
        line: 6,
        column: 1,
      },
      {
        message: 'The sign !crescendo(!, or !<(!, was left out; it says nothing to the fingers or the bow here.',
        line: 6,
        column: 12,
      },
    ]);
  });

  it('keeps navigation through writing', () => {
    const tune = tuneOf('C8 | !segno!D8 | !coda!E8 | F8 !D.S.alcoda! | !coda!G8 |]');
    const signs = ({ bars }: Tune) => bars.map(({ segno, toCoda, coda, jump }) => ({ segno, toCoda, coda, jump }));
    expect(signs(tune)).toEqual([
      {},
      { segno: true },
      { toCoda: true },
      { jump: { back: 'segno', until: 'coda' } },
      { coda: true },
    ]);
    const again = readAbc(writeAbc(tune));
    expect(again.ok && signs(again.value.tune)).toEqual(signs(tune));
  });
});

describe('rests', () => {
  it('rest for whole bars, stay invisible, and leave no trace of spacers', () => {
    const tune = tuneOf('Z2 | A4 x4 | y B8 |');
    expect(tune.bars).toHaveLength(4);
    expect(tune.bars[0]!.events[0]).toMatchObject({ kind: 'rest', duration: 4 * Q });
    expect(tune.bars[2]!.events[1]).toMatchObject({ kind: 'rest', invisible: true });
    expect(tune.bars[3]!.events).toHaveLength(1);
  });
});

describe('accidentals', () => {
  const alters = (music: string, directive: string) => {
    const read = readAbc(`X:1\nT:t\n${directive}M:4/4\nL:1/8\nK:C\n${music}\n`);
    return read.ok ? placedNotes(read.value.tune).map(({ note }) => note.heads[0]!.pitch.alter) : [];
  };

  it('reach as far as the tune says', () => {
    expect(alters('^F2 F2 f4 |', '')).toEqual([1, 1, 1]);
    expect(alters('^F2 F2 f4 |', '%%propagate-accidentals octave\n')).toEqual([1, 1, 0]);
    expect(alters('^F2 F2 f4 |', '%%propagate-accidentals not\n')).toEqual([1, 0, 0]);
  });

  it('read double signs and leave quarter tones out with a word', () => {
    expect(alters('^^F2 __B2 =c4 |', '')).toEqual([2, -2, 0]);
    const read = readAbc('X:1\nT:t\nM:4/4\nL:1/8\nK:C\n^F4 ^/G4 |\n');
    expect(read.ok && placedNotes(read.value.tune).map(({ note }) => note.heads[0]!.pitch.alter)).toEqual([1, 0]);
    expect(read.ok && read.notices).toEqual([
      {
        severity: 'notice',
        message: 'Quarter tones are not carried over; the note was taken without.',
        line: 6,
        column: 5,
      },
    ]);
  });
});

describe('text', () => {
  it('reads every way of writing a letter', () => {
    expect(decodeText("Caf\\'e \\cC \\vs \\ss \\AE &ouml; \\u0142 100\\%")).toBe('Café Ç š ß Æ ö ł 100%');
  });

  it('ends the header at K: and drops comments', () => {
    const fields = headerFields('X:1\nT:One % two\n% three\nT:Four\nK:G\nT:Five\n');
    expect(fields.get('T')).toEqual(['One', 'Four']);
  });

  it('takes a book with any line ends and a byte order mark', () => {
    const book = splitBook('\uFEFFX:1\r\nT:One\r\nK:C\r\nC|\r\rX:2\rT:Two\rK:C\rD|\n');
    expect(book.map(({ title }) => title)).toEqual(['One', 'Two']);
  });

  it('writes titles with signs of its own so that they come back', () => {
    const tune = { ...tuneOf('C8 |'), title: '100% \\ wool', alsoKnownAs: ['Half'] };
    const again = readAbc(writeAbc(tune));
    expect(again.ok && [again.value.tune.title, ...again.value.tune.alsoKnownAs]).toEqual(['100% \\ wool', 'Half']);
  });
});

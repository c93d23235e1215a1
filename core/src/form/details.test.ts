/** Alignment, motion, figures, licks, closing and materials, each by its own small examples. */
import { describe, expect, it } from 'vitest';
import type { Tune } from '../music/index.ts';
import { differenceText, differsText, figureText, lickText, motionText } from '../words/index.ts';
import { tuneOf, type Header } from '../test/testing.ts';
import { align } from './align.ts';
import { cutEvidence, joinedSounds } from './evidence.ts';
import { analyseForm, formSummary, formText, phrasesOf, playedBars } from './index.ts';
import { phraseSounds } from './phraseSounds.ts';
import { readForForm } from './reading.ts';

const phrases = (music: string, header: Header = {}) => phrasesOf(analyseForm(tuneOf(music, header)));
const first = (music: string, header: Header = {}) => phrases(music, header)[0]!;

describe('align', () => {
  const steps = (a: string, b: string) => {
    const sounds = (music: string) => {
      const reading = readForForm(tuneOf(music));
      return phraseSounds(reading, { from: 0, to: reading.starts.at(-1)! }, null).body;
    };
    return align(sounds(a), sounds(b))
      .map(({ own, other, same }) => (same ? '=' : own === null ? '-' : other === null ? '+' : '~'))
      .join('');
  };

  it.each([
    ['the same', 'GABc dedc |', 'GABc dedc |', '========'],
    ['one pitch', 'GABc dedc |', 'GABc dfdc |', '=====~=='],
    ['one note more', 'GABc d2dc |', 'GABc dedc |', '====~-=='],
    ['the last held longer', 'G2A2 B4 |', 'G2A2 B2z2 |', '==='],
    ['a bar more in the middle', 'G8 | c8 | A8 | B8 |', 'G8 | A8 | B8 |', '=+=='],
    ['nothing', 'G8 |', 'A8 |', '~'],
  ])('%s', (_, a, b, expected) => {
    expect(steps(a, b)).toBe(expected);
  });
});

describe('differences', () => {
  const second = (music: string, header: Header = {}) => phrases(music, header)[1]!.relation;
  const A = 'G2B2 d2B2 | A2c2 e2c2 | d2B2 G2B2 | ';

  it.each([
    ['a changed bar', `${A}A4 D4 | ${A}A4 G4 |]`, 'same-but-ending', 'the last 2 beats', 'bar 4: G instead of D'],
    ['a changed last bar', `${A}A4 D4 | ${A}F4 G4 |]`, 'same-but-ending', 'bar 4', 'bar 4: F G instead of A D'],
    ['another rhythm', `${A}A4 D4 | ${A}A2D6 |]`, 'same-but-ending', 'bar 4', 'bar 4: A D in another rhythm'],
    ['a note left out', `${A}A2F2 D4 | ${A}A4 D4 |]`, 'same-but-ending', 'bar 4', 'bar 4: A instead of A F'],
    [
      'a changed beginning',
      `${A}A4 D4 | e2B2 d2B2 | A2c2 e2c2 | d2B2 G2B2 | A4 D4 |]`,
      'same-but-start',
      'bar 1',
      'bar 1: E instead of G',
    ],
  ] as const)('%s', (_, music, kind, differs, text) => {
    const relation = second(music);
    expect(relation.kind).toBe(kind);
    expect(differsText(relation.differs)).toBe(differs);
    expect(relation.differences.map((one) => differenceText(one))).toContain(text);
  });

  it('of a phrase an octave higher but for one bar', () => {
    const relation = second(
      'G,2B,2 D2B,2 | A,2C2 E2C2 | D2B,2 G,2B,2 | A,4 D4 | G2B2 d2B2 | A2c2 e2c2 | d2B2 G2B2 | c4 d4 |]',
    );
    expect(relation).toMatchObject({
      kind: 'octave',
      differs: { where: { kind: 'moved', steps: 7, but: [4] } },
    });
  });

  it('of a sequence in the scale, and an exact one', () => {
    expect(second(`${A}A4 D4 | A2c2 e2c2 | B2d2 f2d2 | e2c2 A2c2 | B4 E4 |]`)).toMatchObject({
      kind: 'transposed',
      differs: { where: { kind: 'moved', steps: 1, but: [] } },
    });
  });

  it('calls even notes no rhythm', () => {
    expect(
      second('GABc dcBA | GABc dcBA | GABc dcBA | GABc d4 | efga gfed | cBAG ABcd | efed cdcB | cedf e4 |]').kind,
    ).not.toBe('same');
    expect(second('G8 | A8 | B8 | c8 | e8 | g8 | d8 | a8 |]').kind).toBe('new');
  });

  it('of a phrase whose first ending leads back: the lead is no part of it', () => {
    const [first, , back] = phrases(
      '|: D | G2A | B2G | A2F |1 G2D :|2 G2B || d2B | c2A | B2G | A2D | G2A | B2G | A2F | G2 |]',
      { key: 'G', metre: '3/4', unit: '1/4' },
    );
    expect(back!.relation).toMatchObject({ kind: 'same', of: first!.id, differences: [] });
  });

  it('tells bars that are known, where the phrase is new', () => {
    const other = phrases('G2B2 d2B2 | A2c2 e2c2 | d2B2 G2B2 | A4 D4 | e4 g4 | f2a2 f2d2 | A2c2 e2c2 | G8 |]')[1]!;
    expect(other.relation.kind).toBe('new');
    expect(other.shares).toEqual([{ bar: 7, ofPhrase: 'p1', ofBar: 2 }]);
  });
});

describe('motion', () => {
  const motion = (music: string, header: Header = { key: 'C' }) =>
    first(music, header).motions.map((one) => motionText(one));

  it.each([
    ['CDEF G4 |', ['runs up from C to G']],
    ['GFED C4 |', ['runs down from G to C']],
    ['C^CD^D E4 |', ['creeps up by semitones from C to E']],
    ['CEGc e4 |', ['arpeggio of C, up']],
    ['ecAE A,4 |', ['arpeggio of A minor, down']],
    ['BdfB d4 |', ['arpeggio of B diminished, up']],
    ['GGGG G4 |', ['G 5 times']],
    ['GAG2 G4 |', ['G, its neighbour A, and back', 'G 3 times'].slice(0, 1)],
    ['GAGFG4 z|', ['turns around G']],
    ['cGdGeG z2 |', ['keeps coming back to G']],
    ['GcGd GcG2 |', ['keeps coming back to G']],
    ['GAGAGAG2 |', ['G, its neighbour A, to and fro']],
    ['GAGFGAG2 |', ['G, its neighbours A and F, to and fro']],
    ['GcGd e4 |', []],
    ['C2A2 A4 |', ['leaps up a sixth to A']],
    ['C2e2 e4 |', ['leaps up a tenth to E']],
    ["C2c'2 c'4 |", ['leaps up 2 octaves to C']],
    ['C4 D4 |', []],
  ])('%s', (music, expected) => {
    expect(motion(music)).toEqual(expected);
  });

  it.each([
    ['a chord of the fifth without its root', 'CEGc e4 | cAFd B2G2 | G2cA F2D2 | G8 |', 'G', 'arpeggio of D7, down'],
    ['the same in a minor key', 'D2FA d4 | B2GE ^C4 | D2FA d2A2 | D8 |', 'Dm', 'arpeggio of A7, down'],
    ['an inner chord', 'G2Bd g4 | ^c2eg e4 | a2f2 d4 | G8 |', 'G', 'arpeggio of A7, up'],
    ['the second degree of a minor key', 'A2ce a4 | B2df d4 | e2^g2 b4 | A8 |', 'Am', 'arpeggio of B diminished, up'],
    ['a chord symbol that says otherwise', '"G7"B2df b4 | "C"c8 | G2c2 e4 | c8 |', 'Am', 'arpeggio of G7, up'],
    ['a symbol with a seventh that is not heard', '"D7"D2FA d4 | "G"G8 | G2B2 d4 | G8 |', 'G', 'arpeggio of D, up'],
    ['a seventh chord', 'C2EG B4 | c8 | C2E2 G4 | C8 |', 'C', 'arpeggio of C major 7, up'],
  ])('names %s by the harmony at its place', (_, music, key, expected) => {
    expect(phrases(music, { key }).flatMap(({ motions }) => motions.map((one) => motionText(one)))).toContain(expected);
  });

  it('goes on from where the last one ended', () => {
    expect(motion('CDEF GFED | C8 |')).toEqual(['runs up from C to G', 'runs down from G to C']);
  });
});

describe('figures', () => {
  const figures = (music: string, header: Header = {}) =>
    first(music, header).figures.map((figure) => `${figure.kind}: ${figureText(figure)}`);

  it.each([
    ['a sequence', 'G2AB c4 | A2Bc d4 | B2cd e4 | G8 |', ['sequence: a bar, then the same a step higher, 2 times']],
    ['an echo', "G2AB c4 | g2ab c'4 | d8 | G8 |", ['echo: a bar, then its echo an octave higher']],
    ['the same again', 'G2AB c4 | G2AB c4 | d8 | G8 |', ['again: a bar, then the same again']],
    ['two bars', 'G2AB c4 | d2ef g4 | F2GA B4 | c2de f4 |', ['sequence: two bars, then the same a step lower']],
    ['across the beat', 'GBdG BdGB | d8 |', ['across: G B D: a figure of 3 notes that runs across the beat']],
    ['none', 'G2A2 d4 | B2G2 A4 | e8 | G8 |', []],
  ])('%s', (_, music, expected) => {
    expect(figures(music)).toEqual(expected);
  });

  it('knows that three notes are a beat in a jig', () => {
    expect(figures('GBd GBd | GBd G3 |', { metre: '6/8' }).filter((one) => one.startsWith('across'))).toEqual([]);
  });

  it('does not take a raised note for the same', () => {
    expect(figures('G2AB c4 | ^G2AB c4 | e8 | d8 |')).toEqual([]);
  });
});

describe('licks', () => {
  const licks = (music: string, header: Header = {}) =>
    analyseForm(tuneOf(music, header)).licks.map(
      ({ pitches, beats, places }) =>
        `${lickText({ pitches })} (${beats}): ${places.map(({ bar, beat }) => `${bar}.${beat}`).join(' ')}`,
    );

  it('come back note for note, at their full length', () => {
    expect(licks('GABG c2e2 | d2f2 GABG | e2c2 d4 | F2A2 G4 |]')).toEqual(['G A B G (2): 1.1 2.3']);
    expect(licks('GABG cdec | d2f2 a4 | GABG cdef | g4 G4 |]')).toEqual(['G A B G C D (3): 1.1 3.1']);
  });

  it('are not what stands inside a longer repeat, nor a run of one thing', () => {
    const eight = 'GABG cdec | d2f2 a4 | e2c2 BcdB | g4 G4 |';
    expect(licks(`|: ${eight} ${eight} :|`)).toEqual([]);
    expect(licks('GAGA GAGA | c8 |]')).toEqual([]);
  });

  it('are named at their full length, a fill after a rest too', () => {
    expect(licks('G2 zDEFGA | B4 d4 | c2 zDEFGA | d4 B4 | e2 zDEFGA | A8 |]', { key: 'G' })).toEqual([
      'D E F♯ G A (3): 1.2.5 3.2.5 5.2.5',
    ]);
  });

  it('lie inside one phrase', () => {
    const form = analyseForm(
      tuneOf('G2A2 B2c2 | d2e2 f4 | g2a2 b2ge | dcBA d4 | BGAB c2d2 | e2f2 g4 | f2e2 ecBA | d4 BGAB |]'),
    );
    const joints = phrasesOf(form).map(({ notes }) => notes[0]);
    for (const { places } of form.licks)
      for (const { notes } of places) expect(notes.slice(1).some((id) => joints.includes(id))).toBe(false);
  });

  it('are not listed twice, nor where one ending follows the other on the page', () => {
    const texts = licks('|: d2fa d2B2 | D2FA D2B,2 | e4 d2fa | g2D2 FAB2 | c8 |1 GABc d4 :|2 dBAG D4 |]', { key: 'D' });
    expect(new Set(texts.map((text) => text.split(' (')[0])).size).toBe(texts.length);
  });

  it('of one beat in a jig', () => {
    expect(licks('dfa g2e | f2d dfa | gec d3 | A3 D3 |]', { metre: '6/8', key: 'D' })).toEqual(['D F♯ A (1): 1.1 2.2']);
  });
});

describe('closing', () => {
  const closing = (music: string, header: Header = { key: 'G' }) =>
    phrases(music, header).map((phrase) => phrase.closing);

  it('goes by the note that is rested on, not by what hurries on behind it', () => {
    expect(closing('G2BG dGBG | A2cA eAcA | B2dB gBdB | A2F2 G2Bc |]')).toEqual(['closed']);
    expect(closing('D2 | G2BG dGBG | A2cA eAcA | B2dB gBdB | A2F2 G2D2 |]')).toEqual(['closed']);
    expect(closing('G2BG dGBG | A2cA eAcA | B2dB gBdB | B2c2 d4 |]')).toEqual(['open']);
  });

  it('hears the key that sounds where the signature is wrong', () => {
    const tune = tuneOf('|: D2^FA d2A^F | G2B2 A4 | D2^FA d2^f2 | e2^c2 d4 :|', { key: 'C' });
    const form = analyseForm(tune);
    expect(form.key.tonic.letter).toBe('D');
    expect(phrasesOf(form)[0]!.closing).toBe('closed');
  });
});

describe('evidence', () => {
  const evidence = (tune: Tune) => cutEvidence(readForForm(tune)).map((value) => Math.round(10 * value) / 10);

  it('is what a rest, a long note, a breath and the words say', () => {
    const plain = evidence(tuneOf('GGGG GGGG | GGGG GGGG |'));
    expect(Math.max(...plain)).toBe(0);
    expect(evidence(tuneOf('GGGG Gz GG | GGGG GGGG |'))[5]).toBeGreaterThan(2);
    expect(evidence(tuneOf('GGGG G4 | GGGG GGGG |'))[5]).toBeGreaterThan(1.5);
    expect(evidence(tuneOf('GGGG GG!breath!GG | GGGG GGGG |'))[7]).toBeGreaterThan(3);
    const sung = tuneOf('GGGG | GGGG |\nw: Come to the door, the lamp is lit', { unit: '1/4' });
    expect(evidence(sung)[4]).toBeGreaterThan(1.5);
    expect(evidence(tuneOf('GG GG |\nw: lan-tern lan-tern', { unit: '1/4' }))[1]).toBeLessThan(-4);
  });

  it('knows where no phrase can begin', () => {
    expect([...joinedSounds(readForForm(tuneOf('G2(AB c2) d2 | (e4 f4) |')))]).toEqual([2, 3, 6]);
  });
});

describe('ten times the same, and then its beginning', () => {
  const line = (last: string) => `G2BG d2B2 | c2A2 F2A2 | G2B2 d2B2 | ${last}8 | `;
  const twelve = `${line('A')}${line('d')}${line('G')}`;
  const form = analyseForm(tuneOf(`${twelve.repeat(10)}${line('A')}${line('d')}|]`, { key: 'G' }));

  it('is one letter all the way', () => {
    expect(form.parts.map(({ label, length }) => `${label}${length}`)).toEqual([...Array(10).fill('A12'), 'A8']);
    expect(form.parts.at(-1)).toMatchObject({ like: 0, beginning: true });
    expect(formText(form)).toBe('AAAAAAAAAA and the beginning of A');
  });

  it('has nothing new after the first time', () => {
    expect(form.learn.newBars).toBe(6);
    expect(
      phrasesOf(form)
        .slice(3)
        .every(({ relation }) => relation.kind === 'same'),
    ).toBe(true);
  });
});

describe('figures', () => {
  it('are not looked for over two endings', () => {
    const form = analyseForm(tuneOf('|: G2A2 B2c2 | d2e2 f4 | e2d2 c2B2 |1 GABc d4 :|2 GABc d4 |]', { key: 'C' }));
    expect(phrasesOf(form).flatMap((phrase) => phrase.figures)).toEqual([]);
  });
});

describe('in a few words', () => {
  it.each([
    ['|: G8 | A8 | B8 | c8 :|', 'AA', 8],
    ['D2 |: G8 | A8 | B8 | G6 D2 :|', 'AA', 8],
    ['|: G8 | A8 | B8 |1 c8 :|2 d8 |]', 'AA', 8],
    ['|: d2 | G8 | A8 | B8 | G6 :|', 'AA', 8],
  ])('%s', (music, form, bars) => {
    const tune = tuneOf(music);
    expect(formText(analyseForm(tune))).toBe(form);
    expect(playedBars(tune)).toBe(bars);
  });

  it('leaves lead-in and tag out of the letters', () => {
    const eight = '|: G2A2 B4 | c2B2 A4 | B2c2 d4 | A8 | G2A2 B4 | c2B2 A4 | B2A2 F4 | G8 :|';
    const form = analyseForm(tuneOf(`D8 | D8 || ${eight} G8 | G8 |]`));
    expect(form.parts.map(({ label }) => label)).toEqual(['Lead-in', 'A', 'Tag']);
    expect(formText(form)).toBe('AA');
    expect(form.traits).toContain('lead-in');
  });

  it('names what it is made of', () => {
    const tune = tuneOf('|: D2FA | B2A2 | G2FE | F2E2 | D2FA | B2A2 | GFEC | D4 :|', { key: 'D', metre: '2/4' });
    expect(formSummary(tune, analyseForm(tune))).toBe('AA, 16 bars, question and answer');
  });
});

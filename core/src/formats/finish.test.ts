/** Readers hand over only what the store takes: cleaned, cut with a notice, or refused with a place. */
import { describe, expect, it } from 'vitest';
import { LIMITS, isNote, isSound, soundnessFault, type Tune } from '../music/index.ts';
import { tuneOf } from '../test/testing.ts';
import { finished, keepable } from './finish.ts';
import { readAbc, readMusicXml, type ReadResult } from './index.ts';

const HEAD = 'X:1\nT:Tar Barrel\nM:4/4\nL:1/8\nK:D\n';
const abc = (music: string, head = HEAD) => readAbc(`${head}${music}\n`);

function sound(result: ReadResult<{ readonly tune: Tune }>): { tune: Tune; said: string } {
  if (!result.ok) throw new Error(JSON.stringify(result.problems));
  expect(soundnessFault(result.value.tune)).toBeNull();
  return { tune: result.value.tune, said: result.notices.map(({ message }) => message).join('\n') };
}

const refusal = (result: ReadResult<unknown>) => {
  if (result.ok) throw new Error('it was read');
  return result.problems.at(-1)!;
};

describe('texts', () => {
  it('lose zero signs, other control signs, and halves of pairs', () => {
    expect(keepable('Tar\0 Bar\u0007rel 😀')).toBe('Tar Barrel 😀');
    expect(keepable('half \uD83D')).toBe('half \uFFFD');
  });

  it('of one line have one space between two words, whatever the file has', () => {
    const { tune } = sound(abc('A8 |', 'X:1\nT:Tar  \t Barrel \nC:Made   here\nM:4/4\nL:1/8\nK:D\n'));
    expect([tune.title, tune.composer]).toEqual(['Tar Barrel', 'Made here']);
    const xml = '<work><work-title>Tar\n      Barrel</work-title></work>';
    const score = `<score-partwise>${xml}<part-list><score-part id="P"><part-name>F</part-name></score-part></part-list><part id="P"><measure number="1"><note><pitch><step>A</step><octave>4</octave></pitch><duration>4</duration></note></measure></part></score-partwise>`;
    expect(sound(readMusicXml(score)).tune.title).toBe('Tar Barrel');
  });

  it('are cut with a notice, never inside a pair of signs', () => {
    const tune = { ...tuneOf('A8 |'), title: `${'x'.repeat(LIMITS.title - 1)}😀` };
    const { tune: cut, said } = sound(wrap(finished(tune, [])));
    expect(cut.title).toHaveLength(LIMITS.title - 1);
    expect(said).toContain('The title is longer than 300 letters and was cut.');
  });

  it.each([
    ['a title over 300 letters', `X:1\nT:${'x'.repeat(400)}\nM:4/4\nL:1/8\nK:D\n`, 'The title is longer'],
    ['51 further titles', `X:1\n${'T:One\n'.repeat(53)}M:4/4\nL:1/8\nK:D\n`, 'more than 50 further titles'],
    ['a long composer', `X:1\nT:A\nC:${'y'.repeat(400)}\nM:4/4\nL:1/8\nK:D\n`, 'The composer’s name is longer'],
    ['a long rhythm', `X:1\nT:A\nR:${'z'.repeat(200)}\nM:4/4\nL:1/8\nK:D\n`, 'The rhythm is longer'],
    ['a title of control signs', 'X:1\nT:\u007f\nM:4/4\nL:1/8\nK:D\n', ''],
  ])('%s', (_, head, words) => {
    expect(sound(abc('A8 |', head)).said).toContain(words);
  });

  const wrap = (result: ReadResult<Tune>): ReadResult<{ readonly tune: Tune }> =>
    result.ok ? { ...result, value: { tune: result.value } } : result;
});

describe('what is larger than music', () => {
  it('a chord of 13 notes keeps its highest twelve', () => {
    const { tune, said } = sound(abc('[CDEFGABcdefga]8 |'));
    const [note] = tune.bars[0]!.events.filter(isNote);
    expect(note!.heads).toHaveLength(12);
    expect(note!.heads.at(-1)!.pitch).toMatchObject({ letter: 'A', octave: 5 });
    expect(said).toContain('more than 12 notes');
  });

  it('25 grace notes keep the nearest', () => {
    const { tune, said } = sound(abc(`{${'ABcde'.repeat(5)}}f8 |`));
    const [note] = tune.bars[0]!.events.filter(isNote);
    expect(note!.graces).toHaveLength(24);
    expect(note!.graces!.at(-1)!.pitch.letter).toBe('E');
    expect(said).toContain('grace notes');
  });

  it('a metre of 65/4 is told, and the notes are kept', () => {
    const { tune, said } = sound(abc('A8 | B8 |', HEAD.replace('M:4/4', 'M:65/4')));
    expect(tune.bars).toHaveLength(2);
    expect(said).toContain('The metre “65/4” was not understood');
  });
});

describe('what does not add up', () => {
  it('whole bars of rest inside a bar begin a bar of their own', () => {
    const { tune, said } = sound(abc('d2 Z2 | d8 |'));
    expect(tune.bars.map(({ length }) => length / 1680)).toEqual([2, 8, 8, 8]);
    expect(said).toContain('a bar line was set before them');
  });

  it('an ending 0 is a plain bar', () => {
    const { tune, said } = sound(abc('|: A8 |[0 B8 :|[2 c8 |]'));
    expect(tune.bars[1]!.endings).toBeUndefined();
    expect(said).toContain('not from 1 to 20');
  });

  it.each(['1/0=100', '0/4=100', '1/4=0', '1/4=99999'])('a tempo of %s is left out', (tempo) => {
    expect(sound(abc('A8 |', HEAD.replace('K:D', `Q:${tempo}\nK:D`))).tune.tempo).toBeNull();
  });

  it('is refused alone, with its bar and a remedy, where it cannot be mended', () => {
    const tune = tuneOf('A8 | B8 |');
    const bars = tune.bars.map((bar, index) => (index === 1 ? { ...bar, length: bar.length + 1 } : bar));
    const problem = refusal(finished({ ...tune, bars }, []));
    expect(problem.message).toContain('bar 2');
    expect(problem.remedy).toBeTruthy();
    expect(isSound({ ...tune, bars })).toBe(false);
  });

  const score = (inside: string) =>
    readMusicXml(
      `<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Violin</part-name></score-part></part-list><part id="P1"><measure number="1"><attributes><divisions>100</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>${inside}</measure></part></score-partwise>`,
    );
  const note = (octave: string, duration: string, type = '') =>
    `<note><pitch><step>A</step><octave>${octave}</octave></pitch><duration>${duration}</duration><voice>1</voice>${type && `<type>${type}</type>`}</note>`;

  it('an octave of 3.7 is a rest, with a notice', () => {
    const { tune, said } = sound(score(note('3.7', '200', 'half') + note('4', '200', 'half')));
    expect(tune.bars[0]!.events.map(({ kind }) => kind)).toEqual(['rest', 'note']);
    expect(said).toContain('octave');
  });

  it('a duration of 157.5 fills its bar in whole ticks', () => {
    const { tune } = sound(score(note('4', '157.5') + note('4', '242.5')));
    expect(tune.bars[0]!.length).toBe(4 * 3360);
  });

  it('a chord whose root is altered by millions is still a chord', () => {
    const harmony =
      '<harmony><root><root-step>C</root-step><root-alter>99999999</root-alter></root><kind text="7">dominant</kind></harmony>';
    expect(sound(score(harmony + note('4', '400', 'whole'))).tune.bars[0]!.events[0]!.chordSymbol).toBe('C##7');
  });
});

describe('budgets', () => {
  const timed = (work: () => ReadResult<unknown>) => {
    const begin = performance.now();
    const problem = refusal(work());
    return { problem, ms: performance.now() - begin };
  };

  it('hundreds of voices over each other are refused at once, with their place', () => {
    const { problem, ms } = timed(() => abc(`A8 ${'& A8 '.repeat(200)}|`));
    expect(problem).toMatchObject({ line: 6, message: expect.stringContaining('laid over each other') as string });
    expect(ms).toBeLessThan(1_000);
  });

  it('a few voices over each other are read', () => {
    expect(sound(abc('A8 & F8 & D8 |')).tune.bars).toHaveLength(1);
  });

  it('a million bars of rest are not made', () => {
    const { problem, ms } = timed(() => abc('Z500|'.repeat(2_000)));
    expect(problem.message).toContain('more than 20,000 bars');
    expect(ms).toBeLessThan(5_000);
  });

  it('thousands of notes without a bar line are refused with their place', () => {
    const { problem } = timed(() => abc(Array.from({ length: 60 }, () => 'ABcd'.repeat(12)).join('\n')));
    expect(problem.message).toContain('without a bar line');
    expect(problem.line).toBeGreaterThan(6);
  });

  it('a tune that is too long to be one is refused', () => {
    expect(refusal(abc('A8 |'.repeat(200_000))).message).toContain('longer than any');
  });
});

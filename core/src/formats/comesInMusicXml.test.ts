/** MusicXML comes in as it was written: small files, with what sounds stated before they were read. */
import { describe, expect, it } from 'vitest';
import { TICKS_PER_QUARTER, type Tune } from '../music/index.ts';
import { soundsOf, type Told } from '../test/comesIn.ts';
import { readMusicXml } from './index.ts';

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

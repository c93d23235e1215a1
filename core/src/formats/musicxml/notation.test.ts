/** Signs, chords, keys, beams and jumps as MusicXML has them. */
import { describe, expect, it } from 'vitest';
import type { Note } from '../../music/index.ts';
import { mapNotes } from '../../music/index.ts';
import { tuneOf, type Header } from '../../test/testing.ts';
import { beamsOf } from './beams.ts';
import { writeMusicXml } from './write.ts';

const xml = (music: string, header?: Header) => writeMusicXml(tuneOf(music, header));

describe('signs', () => {
  it.each([
    ['TA8', '<ornaments><trill-mark/>'],
    ['MA8', '<ornaments><mordent/>'],
    ['~A8', '<other-ornament>roll</other-ornament>'],
    ['.A8', '<articulations><staccato/>'],
    ['!slide!A8', '<articulations><scoop/>'],
    ['HA8', '<fermata/>'],
    ['uA8', '<technical><up-bow/>'],
    ['!open!A8', '<technical><harmonic/>'],
    ['!thumb!A8', '<thumb-position/>'],
    ['!p!A8', '<dynamics><p/>'],
    ['"^slowly"A8', '<words>slowly</words>'],
    ['{/B}A8', '<grace slash="yes"/>'],
  ])('%s', (music, expected) => {
    expect(xml(`${music} |`)).toContain(expected);
  });
});

describe('chord symbols', () => {
  it.each([
    ['G', '<root-step>G</root-step>', '>major<'],
    ['Am7', '<root-step>A</root-step>', '>minor-seventh<'],
    ['Bb7', '<root-alter>-1</root-alter>', '>dominant<'],
    ['D/F#', '<bass-step>F</bass-step>', '<bass-alter>1</bass-alter>'],
  ])('%s', (symbol, one, two) => {
    const text = xml(`"${symbol}"A8 |`);
    expect(text).toContain(one);
    expect(text).toContain(two);
  });

  it('are printed as words where they name no chord', () => {
    expect(xml('"drone"A8 |')).toContain('<words>drone</words>');
  });
});

describe('keys, metres, tempos, jumps', () => {
  it('writes an irregular signature letter by letter', () => {
    const text = xml('A8 |', { key: 'D exp ^f_b' });
    expect(text).toContain(
      '<key-step>F</key-step><key-alter>1</key-alter><key-step>B</key-step><key-alter>-1</key-alter>',
    );
  });

  it('writes what changes, where it changes', () => {
    const text = xml('A8 | [K:D][M:3/4] B6 | c6 |');
    expect(text.match(/<fifths>/g)).toHaveLength(2);
    expect(text.match(/<beat-type>/g)).toHaveLength(2);
  });

  it('writes tempo with its beat, and the label of a part', () => {
    const text = xml('[P:B]A6 |', { metre: '6/8', tempo: '3/8=100' });
    expect(text).toContain('<beat-unit>quarter</beat-unit><beat-unit-dot/><per-minute>100</per-minute>');
    expect(text).toContain('<sound tempo="150"/>');
    expect(text).toContain('<rehearsal>B</rehearsal>');
  });

  it('writes segno, coda, Fine and da capo so that they sound', () => {
    const text = xml('!segno!A8 | !fine!B8 | !D.S.alfine!c8 |]');
    for (const part of [
      '<segno/>',
      '<sound fine="yes"/>',
      '<words>D.S. al Fine</words>',
      '<sound dalsegno="segno"/>',
    ]) {
      expect(text).toContain(part);
    }
  });

  it('hides the metre on a later line of the same tune', () => {
    const tune = tuneOf('A8 |', { tempo: '1/4=90' });
    const text = writeMusicXml(tune, { continued: true });
    expect(text).toContain('<time print-object="no">');
    expect(text).not.toContain('<metronome>');
  });
});

describe('ties and tuplets', () => {
  it('ties the right head of a chord, at both ends', () => {
    const text = xml('[G-B]4 [Gd]4 |');
    expect(text.match(/<tied type="start"\/>/g)).toHaveLength(1);
    expect(text.match(/<tied type="stop"\/>/g)).toHaveLength(1);
    expect(text).toMatch(/<note id="n2">.*?<tie type="stop"\/>.*?<note id="n2-2">/s);
  });

  it('brackets a triplet from its first to its last note', () => {
    const text = xml('(3ABc d6 |');
    expect(text.match(/<tuplet type="start"/g)).toHaveLength(1);
    expect(text.match(/<tuplet type="stop"/g)).toHaveLength(1);
    expect(text.match(/<actual-notes>3/g)).toHaveLength(3);
  });

  it('gives overlapping slurs numbers of their own', () => {
    const text = xml('(A2 (B2 c2) d2) |');
    expect(text).toContain('<slur type="start" number="1"/>');
    expect(text).toContain('<slur type="start" number="2"/>');
    expect(text.match(/type="stop" number="2"/g)).toHaveLength(1);
  });
});

describe('strings of an arrangement', () => {
  it('stand beside the finger', () => {
    const withStrings = mapNotes(tuneOf('A8 |'), (note): Note => ({
      ...note,
      heads: note.heads.map((head) => ({ ...head, finger: '4', string: 3 })),
    }));
    expect(writeMusicXml(withStrings)).toContain('<technical><fingering>4</fingering><string>3</string></technical>');
  });
});

describe('beams', () => {
  const groups = (music: string, metre: string) => {
    const [bar] = tuneOf(music, { metre }).bars;
    const beams = beamsOf(bar!);
    return bar!.events
      .map(({ id }) => ({ begin: '[', continue: '-', end: ']' })[beams.get(id)?.[0] ?? ('' as 'begin')] ?? '.')
      .join('');
  };

  it.each([
    ['a reel by the half bar', 'ABcd efga', '4/4', '[--][--]'],
    ['a polka by the half bar', 'ABcd', '2/4', '[--]'],
    ['sixteenths by the beat', 'A/B/c/d/ ef', '2/4', '[--][]'],
    ['a jig by three', 'ABc def', '6/8', '[-][-]'],
    ['a waltz by the beat', 'AB cd ef', '3/4', '[][][]'],
    ['a slip jig by three', 'ABc def gab', '9/8', '[-][-][-]'],
    ['over no rest and no long note', 'AzBc d2ef', '4/4', '..[].[]'],
    ['a dotted pair with its short note', 'A>B c2', '2/4', '[].'],
  ])('%s', (_, music, metre, expected) => {
    expect(groups(`${music} |`, metre)).toBe(expected);
  });

  it('counts a pickup from the end of its bar', () => {
    expect(groups('AB | c8 |', '4/4')).toBe('[]');
    const [bar] = tuneOf('ABc | d8 |').bars;
    const first = beamsOf(bar!).get(bar!.events[0]!.id);
    expect(first?.[0]).toBe('begin');
  });
});

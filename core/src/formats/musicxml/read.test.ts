import { describe, expect, it } from 'vitest';
import { keyName, pitchName, placedNotes, playedOrder, type Tune } from '../../music/index.ts';
import { readMusicXml } from './read.ts';

const HEAD = '<?xml version="1.0" encoding="UTF-8"?>';

function score(measures: string, { name = 'Violin', more = '' } = {}): string {
  return `${HEAD}<score-partwise version="3.1"><work><work-title>Trial</work-title></work><part-list><score-part id="P1"><part-name>${name}</part-name></score-part></part-list><part id="P1">${measures}</part>${more}</score-partwise>`;
}

const ATTRIBUTES =
  '<attributes><divisions>2</divisions><key><fifths>1</fifths><mode>major</mode></key><time><beats>2</beats><beat-type>4</beat-type></time><clef><sign>G</sign><line>2</line></clef></attributes>';

const note = (
  name: string,
  duration: number,
  inside = '',
  type = duration === 1 ? 'eighth' : duration === 2 ? 'quarter' : 'half',
) =>
  `<note><pitch><step>${name[0]}</step>${name.includes('#') ? '<alter>1</alter>' : ''}<octave>${name.at(-1)}</octave></pitch><duration>${duration}</duration><voice>1</voice><type>${type}</type>${inside}</note>`;

function read(xml: string, voice = 1) {
  const result = readMusicXml(xml, { voice });
  if (!result.ok) throw new Error(JSON.stringify(result.problems));
  return { tune: result.value.tune, voices: result.value.voices, notices: result.notices };
}

const names = (tune: Tune) =>
  placedNotes(tune).map(({ note: { heads } }) => heads.map(({ pitch }) => pitchName(pitch)).join('+'));

const words = (text: string, sound = '') =>
  `<direction><direction-type><words>${text}</words></direction-type>${sound}</direction>`;

describe('reading a score', () => {
  it('takes title, key, metre and notes', () => {
    const { tune } = read(
      score(`<measure number="1">${ATTRIBUTES}${note('G4', 2)}${note('F#4', 1)}${note('A4', 1)}</measure>`),
    );
    expect(tune.title).toBe('Trial');
    expect(keyName(tune.bars[0]!.key)).toBe('G major');
    expect(names(tune)).toEqual(['G4', 'F#4', 'A4']);
    expect(tune.bars[0]).toMatchObject({ metre: { beats: 2, unit: 4 }, length: 6720 });
  });

  it('offers parts and voices, and reads the one that is asked for', () => {
    const lower = note('D4', 4).replace('<voice>1</voice>', '<voice>2</voice>');
    const xml = score(
      `<measure number="1">${ATTRIBUTES}${note('G4', 2)}${note('A4', 2)}<backup><duration>4</duration></backup>${lower}</measure>`,
      { more: `<part id="P2"><measure number="1">${ATTRIBUTES}${note('B3', 4)}</measure></part>` },
    );
    expect(read(xml).voices).toEqual(['Violin, voice 1', 'Violin, voice 2', 'Part 2']);
    expect(names(read(xml, 2).tune)).toEqual(['D4']);
    expect(names(read(xml, 3).tune)).toEqual(['B3']);
    expect(readMusicXml(xml, { voice: 4 })).toMatchObject({ ok: false });
  });

  it('turns a timewise score round', () => {
    const xml = `${HEAD}<score-timewise version="4.0"><part-list><score-part id="P1"><part-name>Cello</part-name></score-part></part-list><measure number="1"><part id="P1">${ATTRIBUTES}${note('G3', 4)}</part></measure><measure number="2"><part id="P1">${note('A3', 4)}</part></measure></score-timewise>`;
    expect(names(read(xml).tune)).toEqual(['G3', 'A3']);
    expect(read(xml).tune.bars).toHaveLength(2);
  });

  it('fills what a voice leaves out with rests that are not printed', () => {
    const late = note('B4', 1).replace('<voice>1</voice>', '<voice>2</voice>');
    const xml = score(
      `<measure number="1">${ATTRIBUTES}${note('G4', 4)}<backup><duration>4</duration></backup><forward><duration>2</duration></forward>${late}</measure>`,
    );
    const [bar] = read(xml, 2).tune.bars;
    expect(bar!.events.map(({ kind, at, duration }) => [kind, at, duration])).toEqual([
      ['rest', 0, 3360],
      ['note', 3360, 1680],
      ['rest', 5040, 1680],
    ]);
    expect(bar!.events[0]).toMatchObject({ invisible: true });
  });

  it('sounds a transposing part where it sounds', () => {
    const clarinet = ATTRIBUTES.replace(
      '</attributes>',
      '<transpose><diatonic>-1</diatonic><chromatic>-2</chromatic></transpose></attributes>',
    );
    const { tune } = read(score(`<measure number="1">${clarinet}${note('A4', 2)}${note('F#4', 2)}</measure>`));
    expect(names(tune)).toEqual(['G4', 'E4']);
    expect(keyName(tune.bars[0]!.key)).toBe('F major');
  });

  it('reads repeats, endings and jumps so that they play', () => {
    const left = (inside: string) => `<barline location="left">${inside}</barline>`;
    const right = (inside: string) => `<barline location="right">${inside}</barline>`;
    const xml = score(
      `<measure number="1">${ATTRIBUTES}${left('<repeat direction="forward"/>')}${note('G4', 4)}</measure>` +
        `<measure number="2">${left('<ending number="1" type="start"/>')}${note('A4', 4)}${right('<ending number="1" type="stop"/><repeat direction="backward"/>')}</measure>` +
        `<measure number="3">${left('<ending number="2" type="start"/>')}${note('B4', 4)}<direction><direction-type><words>D.C. al Fine</words></direction-type></direction>${right('<bar-style>light-heavy</bar-style><ending number="2" type="discontinue"/>')}</measure>`,
    );
    const { tune } = read(xml);
    expect(tune.bars[2]).toMatchObject({ endings: [2], jump: { back: 'start', until: 'fine' }, barline: 'final' });
    expect(
      playedOrder(tune.bars)
        .map(({ index }) => index)
        .slice(0, 4),
    ).toEqual([0, 1, 0, 2]);
  });

  it('tells a coda to leave for from one to go on with', () => {
    const coda = '<direction><direction-type><coda/></direction-type></direction>';
    const { tune } = read(
      score(
        `<measure number="1">${ATTRIBUTES}${note('G4', 4)}${coda}</measure><measure number="2">${note('A4', 4)}<direction><direction-type><words>D.C. al Coda</words></direction-type><sound dacapo="yes"/></direction></measure><measure number="3">${coda}${note('B4', 4)}</measure>`,
      ),
    );
    expect(tune.bars.map(({ toCoda, coda: here }) => [toCoda ?? false, here ?? false])).toEqual([
      [true, false],
      [false, false],
      [false, true],
    ]);
    expect(tune.bars[1]!.jump).toEqual({ back: 'start', until: 'coda' });
  });

  it.each([
    ['a sound by itself', '<sound tocoda="coda"/>', '<sound dalsegno="s"/>'],
    ['words with a sound', words('To Coda', '<sound tocoda="coda"/>'), words('D.S. al Coda', '<sound dalsegno="s"/>')],
    ['words that say no more than D.S.', words('To Coda'), words('D.S.', '<sound dalsegno="s"/>')],
    ['signs alone', '<direction><direction-type><coda/></direction-type></direction>', words('D.S. al Coda')],
  ])('leaves for the coda where %s says so', (_, leave, back) => {
    const segno = '<direction><direction-type><segno/></direction-type><sound segno="s"/></direction>';
    const coda = '<direction><direction-type><coda/></direction-type><sound coda="coda"/></direction>';
    const measures = [
      `${ATTRIBUTES}${note('C4', 4)}`,
      `${segno}${note('D4', 4)}`,
      `${note('E4', 4)}${leave}`,
      `${note('F4', 4)}${back}`,
      `${coda}${note('G4', 4)}`,
    ];
    const { tune } = read(
      score(measures.map((one, index) => `<measure number="${index + 1}">${one}</measure>`).join('')),
    );
    expect(
      playedOrder(tune.bars)
        .map(({ index }) => 'CDEFG'[index])
        .join(''),
    ).toBe('CDEFDEG');
  });

  it('reads what strings need: bows, fingers with others offered, strings, open strings, thumb, harmonics', () => {
    const technical = (inside: string) => `<notations><technical>${inside}</technical></notations>`;
    const { tune } = read(
      score(
        `<measure number="1">${ATTRIBUTES}` +
          note(
            'A4',
            1,
            technical('<up-bow/><fingering>4</fingering><fingering alternate="yes">0</fingering><string>3</string>'),
          ) +
          note('D4', 1, technical('<down-bow/><open-string/>')) +
          note('G4', 1, technical('<thumb-position/><harmonic><natural/></harmonic>')) +
          note(
            'G4',
            1,
            '<notations><technical><snap-pizzicato/></technical><articulations><staccato/></articulations><fermata/></notations>',
          ) +
          '</measure>',
      ),
    );
    const notes = placedNotes(tune).map(({ note: one }) => one);
    expect(notes[0]).toMatchObject({ bow: 'up', heads: [{ finger: '4', otherFingers: ['0'], string: 3 }] });
    expect(notes[1]).toMatchObject({ bow: 'down', heads: [{ finger: '0' }] });
    expect(notes[2]).toMatchObject({ decorations: ['harmonic'], heads: [{ finger: 'T' }] });
    expect(notes[3]!.decorations).toEqual(['snap-pizzicato', 'staccato', 'fermata']);
  });

  it('reads graces, chords, ties, tuplets without marks, words, chord symbols, dynamics and tempo', () => {
    const triplet =
      '<time-modification><actual-notes>3</actual-notes><normal-notes>2</normal-notes></time-modification>';
    const xml = score(
      `<measure number="1"><attributes><divisions>6</divisions><time><beats>2</beats><beat-type>4</beat-type></time></attributes>` +
        '<direction><direction-type><words>Gently</words></direction-type><direction-type><metronome><beat-unit>quarter</beat-unit><per-minute>72</per-minute></metronome></direction-type></direction>' +
        '<direction><direction-type><dynamics><mp/></dynamics></direction-type></direction>' +
        '<harmony><root><root-step>B</root-step><root-alter>-1</root-alter></root><kind>minor-seventh</kind></harmony>' +
        '<note><grace slash="yes"/><pitch><step>C</step><octave>5</octave></pitch><voice>1</voice><type>eighth</type></note>' +
        note(
          'G4',
          2,
          `${triplet}<lyric number="1"><syllabic>begin</syllabic><text>har</text></lyric><lyric number="2"><text>I &amp; you</text></lyric>`,
          'eighth',
        ) +
        note('A4', 2, `${triplet}<lyric number="1"><syllabic>end</syllabic><text>bour</text></lyric>`, 'eighth') +
        note('B4', 2, triplet, 'eighth') +
        note('G4', 6, '<tie type="start"/><notations><tied type="start"/></notations>', 'quarter') +
        note('B4', 6, '', 'quarter').replace('<note>', '<note><chord/>') +
        '</measure>',
    );
    const { tune } = read(xml);
    expect(tune.tempo).toEqual({ beat: 3360, bpm: 72, text: 'Gently' });
    const notes = placedNotes(tune).map(({ note: one }) => one);
    expect(notes[0]).toMatchObject({
      chordSymbol: 'Bbm7',
      dynamic: 'mp',
      duration: 1120,
      tuplet: { actual: 3, normal: 2, edge: 'start' },
      words: [{ text: 'har', hyphen: true }, { text: 'I & you' }],
      graces: [{ slash: true }],
    });
    expect(notes[2]!.tuplet).toEqual({ actual: 3, normal: 2, edge: 'stop' });
    expect(notes[3]!.heads.map(({ tied }) => tied ?? false)).toEqual([true, false]);
  });

  it('writes a length without a type in values, and keeps exact thirds of foreign divisions', () => {
    const { tune } = read(
      score(
        `<measure number="1">${ATTRIBUTES.replace('<divisions>2</divisions>', '<divisions>8</divisions>').replace('<beats>2</beats>', '<beats>3</beats>')}<note><pitch><step>G</step><octave>4</octave></pitch><duration>20</duration><voice>1</voice></note><note><rest/><duration>4</duration><voice>1</voice></note></measure>`,
      ),
    );
    expect(tune.bars[0]!.events.map(({ duration }) => duration).reduce((a, b) => a + b)).toBe(3 * 3360);
    expect(tune.bars[0]!.events.length).toBeGreaterThan(2);
  });

  it('keeps a slur open that never ends, and says what it leaves out once with its place', () => {
    const { tune, notices } = read(
      score(
        `<measure number="1">${ATTRIBUTES}${note('G4', 2, '<notations><slur type="start" number="1"/><glissando type="start"/></notations>')}${note('A4', 2, '<notations><glissando type="stop"/></notations>')}</measure>`,
      ),
    );
    expect(tune.slurs).toEqual([{ from: 'n1', to: 'n1' }]);
    expect(notices).toMatchObject([{ message: expect.stringMatching(/glissando.*2 times/) as string, line: 1 }]);
  });

  it('marks line ends, double bars and pickups', () => {
    const { tune } = read(
      score(
        `<measure number="0" implicit="yes">${ATTRIBUTES}${note('D4', 1)}</measure><measure number="1">${note('G4', 4)}<barline location="right"><bar-style>light-light</bar-style></barline></measure><measure number="2"><print new-system="yes"/>${note('G4', 4)}</measure>`,
      ),
    );
    expect(tune.bars[0]).toMatchObject({ length: 1680, offset: 5040 });
    expect(tune.bars[1]).toMatchObject({ barline: 'double', events: [{ lineEnd: true }] });
  });
});

describe('refusing', () => {
  it.each([
    ['another kind of XML', '<html><body/></html>', /no music/],
    ['nothing', '', /nothing|damaged/i],
    ['a torn file', score('<measure number="1"><note>').slice(0, -30), /damaged/],
    ['entities', '<!DOCTYPE x [<!ENTITY a "b">]><score-partwise/>', /entities/],
    ['a score without notes', score('<measure number="1"/>'), /No notes/],
    ['depth', `${'<a>'.repeat(5000)}${'</a>'.repeat(5000)}`, /deeper/],
  ])('%s', (_, xml, message) => {
    const result = readMusicXml(xml);
    expect(result.ok).toBe(false);
    if (!result.ok) {
      expect(result.problems[0]!.message).toMatch(message);
      expect(result.problems[0]!.remedy).toBeTruthy();
    }
  });
});

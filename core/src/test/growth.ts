/**
 * How the cost of reading grows: for each reader, files of one shape and any size. Used by the stress tests and by
 * `npm run torture`.
 */
import { openAbcBook, readAbc, readMidi, readMusicXml } from '../formats/index.ts';
import { readNokta, writeNokta } from '../files/index.ts';
import { tuneOf } from './testing.ts';

/** A file of a shape. */
export interface Shape {
  readonly name: string;
  /** @param size notes, lines or signs, whichever the shape is about */
  make(size: number): () => unknown;
  /** Sizes in order, each four times the one before; the last at or beyond what the reader takes. */
  readonly sizes: readonly number[];
}

/** Twice the file may take so many times as long. */
export const TWICE = 2.5;
/** Milliseconds that say nothing about growth: what is loaded and compiled on the way. */
const SLACK_MS = 60;
/** Times that a busy moment is looked at again. */
const LOOKS = 4;

const many = (size: number, make: (index: number) => string): string =>
  Array.from({ length: size }, (_, index) => make(index)).join('');

const ATTRIBUTES =
  '<attributes><divisions>2</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>';
const noteOf = (inner = '', length = 1) =>
  `<note><pitch><step>G</step><octave>4</octave></pitch><duration>${length}</duration>${inner}</note>`;
const score = (measures: string, head = '') =>
  `<score-partwise version="4.0">${head}<part-list><score-part id="P1"><part-name>Fiddle</part-name></score-part></part-list><part id="P1">${measures}</part></score-partwise>`;
const inMeasure = (body: string) => score(`<measure number="1">${ATTRIBUTES}${body}</measure>`);
const inMeasures = (size: number, note: string) =>
  score(
    many(
      Math.ceil(size / 8),
      (bar) => `<measure number="${bar + 1}">${bar ? '' : ATTRIBUTES}${note.repeat(8)}</measure>`,
    ),
  );

const XML: Readonly<Record<string, (size: number) => string>> = {
  'notes in bars': (size) => inMeasures(size, noteOf()),
  'notes in one bar': (size) => inMeasure(noteOf().repeat(size)),
  'notes of a chord': (size) => inMeasure(noteOf() + noteOf('<chord/>').repeat(size)),
  'grace notes': (size) =>
    inMeasure('<note><grace/><pitch><step>B</step><octave>4</octave></pitch></note>'.repeat(size) + noteOf()),
  backups: (size) => inMeasure(`${noteOf()}<backup><duration>1</duration></backup>`.repeat(size)),
  voices: (size) => inMeasure(many(size, (index) => noteOf(`<voice>${index}</voice>`))),
  attributes: (size) => inMeasure(noteOf().repeat(8) + ATTRIBUTES.repeat(size)),
  'attributes of a tag': (size) =>
    score(`<measure number="1" ${many(size, (index) => `a${index}="1" `)}>${ATTRIBUTES}${noteOf()}</measure>`),
  directions: (size) =>
    inMeasure('<direction><direction-type><words>la</words></direction-type></direction>'.repeat(size) + noteOf()),
  measures: (size) =>
    score(many(size, (bar) => `<measure number="${bar + 1}">${bar ? '' : ATTRIBUTES}${noteOf()}</measure>`)),
  slurs: (size) =>
    inMeasures(size, noteOf('<notations><slur type="stop" number="1"/><slur type="start" number="2"/></notations>')),
  verses: (size) =>
    inMeasure(
      noteOf(
        many(size, (verse) => `<lyric number="${verse}"><text>la</text></lyric>`),
        8,
      ),
    ),
  remarks: (size) =>
    score(
      `<measure number="1">${ATTRIBUTES}${noteOf()}</measure>`,
      `<identification><miscellaneous>${'<miscellaneous-field name="note">la</miscellaneous-field>'.repeat(size)}</miscellaneous></identification>`,
    ),
};

const abc = (body: string, head = '') => `X:1\nT:Growing\n${head}M:4/4\nL:1/8\nK:G\n${body}`;
const ABC: Readonly<Record<string, (size: number) => string>> = {
  'bars, one a line': (size) => abc('GABc dBAG |\n'.repeat(size / 8)),
  'bars in one line': (size) => abc('GABc dBAG |'.repeat(size / 8)),
  'notes in one bar': (size) => abc(`${'G'.repeat(size)}|`),
  'lines of words': (size) => abc('GABc dBAG |\nw:la la la la la la la la\n'.repeat(size / 8)),
  'notes of a chord': (size) => abc(`[${'G'.repeat(size)}]|`),
  'chord symbols': (size) => abc('"Am"GABc "D"dBAG |\n'.repeat(size / 8)),
  'slurs that do not end': (size) => abc('(GABc dBAG |\n'.repeat(size / 8)),
  'repeats that do not add up': (size) => abc('|: G2 :|\n'.repeat(size / 2)),
  endings: (size) => abc('G4 |1 A4 :|2 B4 |]\n'.repeat(size / 4)),
  voices: (size) => abc(many(size / 8, (index) => `V:${index}\nGABc dBAG |\n`)),
  'chords left open': (size) => abc('[GABc |\n'.repeat(size / 8)),
  keys: (size) => abc('G2 [K:D] A2 [K:G] |\n'.repeat(size / 4)),
  titles: (size) => abc('GABc |', 'T:Other\n'.repeat(size)),
  spaces: (size) => abc(`G${' '.repeat(size)}|`),
  signs: (size) => abc(`${'!trill!'.repeat(size)}G|`),
  triplets: (size) => abc('(3GAB (3GAB (3GAB (3GAB |\n'.repeat(size / 12)),
  ties: (size) => abc(`${'G-GG-G A-AA-A |\n'.repeat(size / 8)}`),
  comments: (size) => abc(`${'% la\n'.repeat(size)}GABc |`),
};

/** @param events of one track, lengths and all */
function midi(events: readonly number[]): Uint8Array {
  const track = [...events, 0, 0xff, 0x2f, 0];
  const size = [24, 16, 8, 0].map((shift) => (track.length >> shift) & 0xff);
  const head = [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 120, 0x4d, 0x54, 0x72, 0x6b, ...size];
  const bytes = new Uint8Array(head.length + track.length);
  bytes.set(head);
  bytes.set(track, head.length);
  return bytes;
}
const events = (size: number, make: (index: number) => readonly number[]): readonly number[] =>
  Array.from({ length: size }, (_, index) => make(index)).flat();
const pitchOf = (index: number) => 60 + ((index * 5) % 12);
const MIDI: Readonly<Record<string, (size: number) => readonly number[]>> = {
  'notes in a row': (size) => events(size, (index) => [0, 0x90, pitchOf(index), 80, 15, 0x80, pitchOf(index), 0]),
  'notes as they are played': (size) =>
    events(size, (index) => [0, 0x90, pitchOf(index), 80, 4 + ((index * 7) % 23), 0x80, pitchOf(index), 0]),
  'notes in one beat': (size) => [
    ...events(size, (index) => [0, 0x90, 40 + (index % 80), 80]),
    ...events(size, (index) => [index === 0 ? 120 : 0, 0x80, 40 + (index % 80), 0]),
  ],
  'notes that end long after': (size) => [
    ...events(size, (index) => [1, 0x90, 60 + (index % 2), 80]),
    ...events(size, (index) => [1, 0x80, 60 + (index % 2), 0]),
  ],
  'notes that never end': (size) => [
    ...events(size, (index) => [0, 0x90, pitchOf(index), 80]),
    ...events(20, () => [60, 0x90, 80, 80, 60, 0x80, 80, 0]),
  ],
  'metres and keys': (size) =>
    events(size / 4, (index) =>
      [
        [0, 0xff, 0x58, 4, index % 2 ? 3 : 4, 2, 24, 8],
        [0, 0xff, 0x59, 2, index % 2 ? 1 : 2, 0],
        events(4, (note) => [0, 0x90, pitchOf(note), 80, 15, 0x80, pitchOf(note), 0]),
      ].flat(),
    ),
  tempos: (size) =>
    events(size, (index) => [
      0,
      0xff,
      0x51,
      3,
      7,
      index % 255,
      0,
      0,
      0x90,
      pitchOf(index),
      80,
      15,
      0x80,
      pitchOf(index),
      0,
    ]),
};

const noktaOf = (size: number): string => {
  const tune = tuneOf('GABc dBAG |'.repeat(size / 8), { key: 'G' });
  return writeNokta({ tune, arrangements: [], tags: [], versions: [] });
};

/** Notes to begin with, and to the limits of each reader. */
const SIZES = [1_000, 4_000, 16_000, 64_000];

const shapes = <File>(
  kind: string,
  makers: Readonly<Record<string, (size: number) => File>>,
  read: (file: File) => unknown,
  sizes = SIZES,
): readonly Shape[] =>
  Object.entries(makers).map(([name, make]) => ({
    name: `${kind}: ${name}`,
    sizes,
    make(size) {
      const file = make(size);
      return () => read(file);
    },
  }));

export const SHAPES: readonly Shape[] = [
  ...shapes('MusicXML', XML, (text) => readMusicXml(text)),
  ...shapes('ABC', ABC, (text) => readAbc(text)),
  ...shapes(
    'ABC',
    { 'tunes of a book': (size) => many(size / 8, (tune) => `X:${tune}\nT:a\nK:G\nGABc|\n\n`) },
    openAbcBook,
  ),
  ...shapes('MIDI', { ...MIDI }, (track) => readMidi(midi(track))),
  ...shapes('Nokta', { 'notes in bars': noktaOf }, readNokta, [1_000, 4_000, 16_000]),
];

/** Milliseconds of the quickest of some runs: what else the machine does only ever adds to it. */
function quickest(run: () => unknown, times: number): number {
  let best = Infinity;
  for (let time = 0; time < times; time += 1) {
    const begin = performance.now();
    run();
    best = Math.min(best, performance.now() - begin);
  }
  return best;
}

/**
 * Where the cost of a shape grows faster than it may; null where it does not.
 * @param most the largest size that is tried
 */
export function growthFault({ sizes, make }: Shape, most = Infinity): string | null {
  const tried = sizes.filter((size) => size <= most);
  let smaller = make(tried[0]!);
  let before = quickest(smaller, 3);
  for (const size of tried.slice(1)) {
    const run = make(size);
    let now = quickest(run, 1);
    // Four times the file, twice over. A busy moment is looked at again, both sizes after each other: what grows with
    // the square does so each time.
    const tooMuch = () => now > before * TWICE * TWICE + SLACK_MS;
    for (let again = 0; again < LOOKS && tooMuch(); again += 1) {
      before = quickest(smaller, 2);
      now = quickest(run, 2);
    }
    if (tooMuch()) return `${size}: ${Math.round(now)} ms after ${Math.round(before)} ms for a quarter of it`;
    before = now;
    smaller = run;
  }
  return null;
}

/**
 * Files as no program writes them: seeds of our own, spoiled at random, the same for the same number. Used by the
 * stress tests and by `npm run torture`.
 */
import { strFromU8, strToU8, zipSync } from 'fflate';
import { FIRST_DECISIONS } from '../arrange/index.ts';
import { BACKUP_LIST, backupList, openBackup, openFile, readNokta, writeNokta } from '../files/index.ts';
import { packMxl, readAbc, writeMidi, writeMusicXml } from '../formats/index.ts';
import { soundnessFault, type Tune } from '../music/index.ts';
import { INCOMING, abcOf } from './incoming.ts';

const ABC = [
  'X:1\nT:Net Loft\nC:the seed\nR:reel\nM:4/4\nL:1/8\nQ:1/4=120\nK:D\n|:A2|"D"d2fd (3efg fd|"A7"{e}c2 e>c A4:|\n[1 d4 D4|[2 d8|]\n',
  'X:2\nT:Salt Stairs\nM:6/8\nL:1/8\nK:Gm\nw: one two\nP:AB\nP:A\n[GB]3 d3|~g2f !trill!d3|\nw: tide-_ goes\nP:B\nZ2|u(gfe) v.d3-|d6||\n',
  'X:3\nT:Two Voices\nM:3/4\nL:1/4\nK:Eb\nV:1\nB2 c|d z2|[M:2/4][K:F] A2|x2|\nV:2 clef=bass\nE3|F3 & z A,2|G,2|A,2|\n',
  'X:4\nT:Odd\\"o\nM:5/8\nL:1/16\nQ:"quick" 3/8=60\nK:F#dor clef=treble-8\n!segno!F4 G2 A4|[FAc]10|!D.S.!^c4 =c6 !fine!|]\n%%text words\n+:more\n',
];

function seeds(): readonly Seed[] {
  const tunes = ABC.map((text) => {
    const read = readAbc(text);
    if (!read.ok) throw new Error(JSON.stringify(read.problems));
    return read.value.tune;
  });
  const xml = tunes.map((tune) => writeMusicXml(tune));
  const nokta = writeNokta({
    tune: tunes[0]!,
    arrangements: [FIRST_DECISIONS],
    tags: ['supper'],
    versions: [{ name: 'First', madeAt: '2026-03-01T10:00:00Z', tune: tunes[1]! }],
  });
  const id = '5f0c2f5e-9a53-4b9e-8f9c-0d3c1f1d2a10';
  const list = backupList({
    madeAt: '2026-03-01T10:00:00Z',
    learners: [],
    kept: [],
    tunes: [{ id, title: 'Net Loft', updatedAt: '2026-03-01T10:00:00Z', file: 'tunes/a.nokta.json' }],
  });
  const text = (name: string, body: string): Seed => ({ name, bytes: strToU8(body), text: true });
  return [
    ...INCOMING.map((one, index) => text(`in-${index}.abc`, abcOf(one))),
    ...ABC.map((body, index) => text(`${index}.abc`, body)),
    ...ABC.map((body, index) => text(`again-${index}.abc`, body)),
    ...xml.map((body, index) => text(`${index}.musicxml`, body)),
    ...tunes.map((tune, index) => ({ name: `${index}.mid`, bytes: writeMidi(tune), text: false })),
    { name: 'packed.mxl', bytes: packMxl(xml[0]!), text: false },
    { name: 'book.zip', bytes: zipSync({ 'a.abc': strToU8(ABC[0]!), 'b.musicxml': strToU8(xml[1]!) }), text: false },
    {
      name: 'backup.zip',
      bytes: zipSync({ [BACKUP_LIST]: strToU8(list), 'tunes/a.nokta.json': strToU8(nokta) }),
      text: false,
    },
    text('tune.nokta.json', nokta),
  ];
}

interface Seed {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly text: boolean;
}

/** Pieces that readers trip over. */
const PIECES = [
  '&&&&',
  'Z500|',
  'Z',
  '[1',
  '[0',
  ':|:',
  '|:',
  '(3',
  '(9:2:9',
  '!coda!',
  '\\u0000',
  '\0',
  '\uD800',
  'M:65/4\n',
  'M:C|\n',
  'Q:1/0=100\n',
  'K:none\n',
  'L:1/0\n',
  'V:9\n',
  'P:(AB)99\n',
  '{',
  '}',
  '"',
  '-'.repeat(40),
  '999999999',
  '-1',
  '0',
  '3.7',
  '1e308',
  'NaN',
  '<',
  '<note>',
  '<duration>157.5</duration>',
  '<backup><duration>9999999</duration></backup>',
  '<chord/>',
  '&lt;',
  '<!ENTITY a "b">',
  'null',
  '[]',
  '{}',
  'T:'.padEnd(500, 'x') + '\n',
  'w: a - b _ | * ~\n',
];

/** A small generator of numbers, the same row for the same beginning (mulberry32). */
export function numbersFrom(begin: number): (below: number) => number {
  let state = begin >>> 0;
  return (below) => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return Math.floor((((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296) * below);
  };
}

/** Files by number: `file(n)` is the same file each time. */
export function spoiledFiles(): { file(number: number): { readonly name: string; readonly bytes: Uint8Array } } {
  const all = seeds();
  return {
    file(number) {
      const pick = numbersFrom(number);
      const seed = all[pick(all.length)]!;
      let { bytes } = seed;
      for (let change = pick(4); change >= 0; change -= 1) {
        bytes =
          seed.text && pick(4) > 0 ? spoilText(bytes, pick) : spoilBytes(bytes, all[pick(all.length)]!.bytes, pick);
      }
      return { name: seed.name, bytes };
    },
  };
}

const NUMBERS = ['0', '-1', '1', '65', '4096', '99999999', '0.5', '3.7', '1e9', ''];

function spoilText(bytes: Uint8Array, pick: (below: number) => number): Uint8Array {
  const text = strFromU8(bytes);
  const at = pick(text.length + 1);
  switch (pick(5)) {
    case 0:
      return strToU8(text.slice(0, at) + PIECES[pick(PIECES.length)]! + text.slice(at));
    case 1: {
      // A number becomes another one.
      const found = [...text.matchAll(/\d+/g)];
      const one = found[pick(found.length)];
      return one ? strToU8(replaced(text, one.index, one[0].length, NUMBERS[pick(NUMBERS.length)]!)) : bytes;
    }
    case 2:
      return strToU8(replaced(text, at, pick(60), ''));
    case 3: {
      const piece = text.slice(at, at + 1 + pick(80));
      return strToU8(text.slice(0, at) + piece.repeat(1 + pick(12)) + text.slice(at));
    }
    default: {
      // Two lines change places.
      const lines = text.split('\n');
      const [one, other] = [pick(lines.length), pick(lines.length)];
      [lines[one], lines[other]] = [lines[other]!, lines[one]!];
      return strToU8(lines.join('\n'));
    }
  }
}

const replaced = (text: string, at: number, length: number, by: string) =>
  text.slice(0, at) + by + text.slice(at + length);

function spoilBytes(bytes: Uint8Array, other: Uint8Array, pick: (below: number) => number): Uint8Array {
  const at = pick(bytes.length + 1);
  switch (pick(4)) {
    case 0: {
      const flipped = Uint8Array.from(bytes);
      if (flipped.length > 0) flipped[at % flipped.length]! ^= 1 << pick(8);
      return flipped;
    }
    case 1:
      return bytes.slice(0, at);
    case 2:
      return Uint8Array.from([...bytes.subarray(0, at), ...other.subarray(pick(other.length))].slice(0, 60_000));
    default: {
      const set = Uint8Array.from(bytes);
      set.fill(pick(256), at, at + 1 + pick(4));
      return set;
    }
  }
}

/**
 * Opens a file and reads what is in it as the application does.
 * @param isHeldAgainstSchema each tune that was read; readers do that themselves, so that it need not be every time
 * @returns what is wrong with the reader, not with the file; null where it was refused in words, or read soundly
 */
export function readerFault(
  { name, bytes }: { readonly name: string; readonly bytes: Uint8Array },
  isHeldAgainstSchema = true,
): string | null {
  const faultOf = (tune: Tune) => (isHeldAgainstSchema ? soundnessFault(tune) : null);
  try {
    const backup = openBackup(bytes);
    if (backup?.ok) {
      for (const { file } of backup.value.tunes.slice(0, 3)) {
        const text = backup.value.text(file);
        if (text.ok) readNokta(text.value);
      }
    }
    const opened = openFile(bytes, name);
    if (!opened.ok) return opened.problems.length > 0 ? null : 'refused without a word';
    const last = opened.value.tunes.length;
    for (const tune of new Set([1, last])) {
      const read = opened.value.read({ tune });
      if (!read.ok) {
        if (read.problems.length === 0) return 'refused without a word';
        continue;
      }
      const fault = faultOf(read.value.tune);
      if (fault) return `unsound: ${fault.message} at ${fault.path.join('.')}`;
      if (read.value.voices.length > 1) {
        const second = opened.value.read({ tune, voice: 2 });
        const other = second.ok ? faultOf(second.value.tune) : null;
        if (other) return `unsound in voice 2: ${other.message} at ${other.path.join('.')}`;
      }
    }
    return null;
  } catch (error) {
    return `threw: ${error instanceof Error ? (error.stack ?? error.message).split('\n').slice(0, 4).join(' / ') : String(error)}`;
  }
}

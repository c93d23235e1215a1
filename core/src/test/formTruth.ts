/**
 * Tunes written for the tests, with their parts and phrases stated by hand: ¶ stands before the first note of
 * a part, § before the first note of any other phrase. Relations are stated by the numbers of the phrases,
 * licks by their length in beats and the places where they begin. None of it was read off the analysis.
 */
import { readAbc } from '../formats/index.ts';
import { mapNotes, placedNotes, type Ticks, type Tune } from '../music/index.ts';
import type { RelationKind } from '../form/index.ts';

export interface TrueLick {
  readonly beats: number;
  /** "bar.beat" */
  readonly at: readonly string[];
}

export interface Truth {
  readonly name: string;
  readonly regular: boolean;
  readonly tune: Tune;
  readonly parts: readonly Ticks[];
  readonly phrases: readonly Ticks[];
  /** For each phrase after the first: what it is of which earlier one, counted from 1. */
  readonly relations: Readonly<Record<number, readonly [RelationKind, number] | 'new'>>;
  /** Null where none were stated. */
  readonly licks: readonly TrueLick[] | null;
}

export interface Stated {
  readonly name: string;
  readonly key?: string;
  readonly metre?: string;
  readonly unit?: string;
  /** Regular where not said otherwise. */
  readonly irregular?: boolean;
  readonly music: string;
  readonly relations?: Truth['relations'];
  readonly licks?: readonly TrueLick[];
}

export function stated({ name, key = 'D', metre = '4/4', unit = '1/8', ...rest }: Stated): Truth {
  const text = rest.music.replaceAll('¶', '"^@part"').replaceAll('§', '"^@phrase"');
  const read = readAbc(`X:1\nT:${name}\nM:${metre}\nL:${unit}\nK:${key}\n${text}\n`);
  if (!read.ok) throw new Error(`${name}: ${JSON.stringify(read.problems)}`);
  const marked = placedNotes(read.value.tune);
  const starting = (mark: RegExp) =>
    marked.flatMap(({ note, onset }) => (mark.test(note.annotation ?? '') ? [onset] : []));
  const tune = mapNotes(read.value.tune, ({ annotation: _, ...note }) => note);
  return {
    name,
    regular: !rest.irregular,
    tune,
    parts: starting(/@part/),
    phrases: starting(/@/),
    relations: rest.relations ?? {},
    licks: rest.licks ?? null,
  };
}

const HAND_WRITTEN: readonly Stated[] = [
  {
    name: 'Rope and Pulley, reel with pickups',
    key: 'G',
    music: `¶D2 |: G2BG DGBG | AGAB c2Bc | dBGB cAFA | GFGA B2 §D2 | G2BG DGBG | AGAB c2ec | dBcA FDEF | G2G2 G2 D2 :|
|: ¶Bc | d2gd BdGd | e2ce gece | d2gd BdGB | cBAG A2 §Bc | d2gd BdGd | e2ce gfed | cAFA cABc | G2G2 G2 :|`,
    relations: { 2: ['same-but-ending', 1], 3: 'new', 4: ['same-start', 3] },
  },
  {
    name: 'Soap and Slate, reel without pickups',
    music: `|: ¶d2fd adfd | e2ge bege | d2fd adfd | g2fg edcA | §d2fd adfd | e2ge bege | fdge afgb | agec d4 :|
|: ¶f2af bfaf | g2bg agec | f2af bfaf | gbag e4 | §f2af bfaf | g2bg agec | dfeg fagb | agec d4 :|`,
    relations: { 2: ['same-but-ending', 1], 3: 'new', 4: ['same-but-ending', 3] },
  },
  {
    name: 'Crumbs on the Bench, jig',
    key: 'G',
    metre: '6/8',
    music: `|: ¶D | G2B d2B | c2A F2A | G2B dBG | A2F D2 §D | G2B d2B | c2A F2A | Bcd cAF | G3 G2 :|
|: ¶d | g2d e2d | c2B c2A | g2d e2d | cBA B2 §d | g2d e2d | c2B c2A | Bcd cAF | G3 G2 :|`,
    relations: { 2: ['same-but-ending', 1], 3: 'new', 4: ['same-but-ending', 3] },
  },
  {
    name: 'The Wet Glove, jig without a pickup',
    key: 'A',
    metre: '6/8',
    music: `|: ¶A2c e2c | d2B G2B | A2c ece | f2e c2B | §A2c e2c | d2B G2B | cea gbg | a3 A3 :|
|: ¶a2e c2e | f2d B2d | a2e cec | d2B G2E | §a2e c2e | f2d B2d | cea gbg | a3 A3 :|`,
    relations: { 2: ['same-but-ending', 1], 3: ['same-rhythm', 1], 4: ['same-but-ending', 3] },
  },
  {
    name: 'Nine Pegs, slip jig',
    key: 'Em',
    metre: '9/8',
    music: `|: ¶E2G B2e B2G | A2F D2F A3 | E2G B2e B2G | AGF D2F E3 :|
|: ¶e2f g2f e2d | B2A d2A B3 | e2f g2f e2d | BAF D2F E3 :|`,
    relations: { 2: ['same-rhythm', 1] },
  },
  {
    name: 'Tar and Twine, hornpipe in a flat key',
    key: 'Bb',
    music: `|: ¶FE | D>FB>A B2F>D | E>Gc>B c2G>E | D>FB>d f>dB>F | E>CD>B, C2 §F>E | D>FB>A B2F>D | E>Gc>B c2e>d | c>AF>A c>de>c | B2B2 B2 :|
|: ¶(3fga | b>af>d B>df>b | g>ec>e g>ab>g | f>dB>d c>BA>c | d2d2 d2 §(3fga | b>af>d B>df>b | g>ec>e g>fe>d | c>AF>A c>de>c | B2B2 B2 :|`,
    relations: { 2: ['same-but-ending', 1], 3: 'new', 4: ['same-start', 3] },
  },
  {
    name: 'Button Tin, polka',
    key: 'G',
    metre: '2/4',
    music: `|: ¶GABd | e2d2 | BAGB | A2D2 | §GABd | e2d2 | BAFA | G2G2 :|
|: ¶g2fe | d2B2 | cBAc | B2d2 | §g2fe | d2B2 | cAFA | G2G2 :|`,
    relations: { 2: ['same-but-ending', 1], 3: 'new', 4: ['same-but-ending', 3] },
  },
  {
    name: 'Lamp Oil, waltz with pickups',
    metre: '3/4',
    unit: '1/4',
    music: `|: ¶A | d2e | f2d | e2d | B2 §A | d2e | f2a | g2f | e2 §A | d2e | f2d | e2d | B2 §c | d2B | A2c | d3- | d2 :|
|: ¶f | a2f | d2f | g2e | c2 §e | a2f | d2f | e2d | B2 §f | a2f | d2f | g2e | c2 §c | d2B | A2c | d3- | d2 :|`,
    relations: { 3: ['same', 1], 5: ['same-rhythm', 2], 7: ['same', 5], 8: ['same', 4] },
  },
  {
    name: 'Over the Sluice, march',
    metre: 'C',
    music: `|: ¶A2 | d3e f2a2 | g2f2 e2d2 | c3d e2g2 | f2e2 d2 §A2 | d3e f2a2 | g2f2 e2d2 | e2c2 A2c2 | d4 d2 :|
|: ¶A2 | a3g f2d2 | g3f e2c2 | f2d2 e2c2 | d2B2 A2 §A2 | a3g f2d2 | g3f e2c2 | A2B2 c2e2 | d4 d2 :|`,
    relations: { 2: ['same-but-ending', 1], 4: ['same-but-ending', 3] },
  },
  {
    name: 'When the Tide Is Out, air with words',
    key: 'G',
    metre: '3/4',
    unit: '1/4',
    music: `¶D | G2A | B2A | G2E | D2 §D | G2A | B2d | A3- | A2 §D | G2A | B2A | G2E | D2 §D | E2F | A2F | G3- | G2 |]
w: The tide is out, the sand is bare, the gulls walk on the shore;_ and we go out with buck-et and rope to see what's left in store._`,
    relations: { 2: ['same-start', 1], 3: ['same', 1] },
  },
  {
    name: 'Snow on the Slip, air in lines of two bars',
    key: 'F',
    unit: '1/4',
    music: `¶F F G A | c2 A2 | §B B A G | A4 | §F F G A | c2 d2 | §c A G G | F4 |]
w: Snow lies on the slip-way, soft and deep and white. Leave the boat till morn-ing, stay with us to-night.`,
    irregular: true,
  },
  {
    name: 'Twelve Rungs, reel in four parts',
    key: 'A',
    music: `|: ¶A2cA eAcA | B2dB fBdB | A2cA eAce | fdBd cAA2 :|
|: ¶a2ea cea2 | g2eg bgeg | a2ea ceac | dfed cAA2 :|
|: ¶c2ec Acec | d2fd Bdfd | c2ec Acea | fdBd cAA2 :|
|: ¶eaae gaae | faaf gbba | eaae gaec | dfed cAA2 :|`,
    relations: { 2: 'new', 3: ['same-rhythm', 1], 4: 'new' },
  },
  {
    name: 'The Bent Nail, crooked: five bars',
    irregular: true,
    music: `|: ¶d2fd ecAc | d2fd g2fe | d2fd ecAc | BGEG F2E2 | D4 D4 :|
|: ¶f2af gfed | c2ec A4 | §f2af gfed | cdec d4 :|`,
    relations: { 3: ['same-but-ending', 2] },
  },
  {
    name: 'One Boot, crooked: four and five bars',
    key: 'G',
    irregular: true,
    music: `|: ¶G2BG dGBG | c2ec B2dB | A2cA FAcA | B2A2 G4 | §G2BG dGBG | c2ec B2dB | A2cA FAcA | BAGF E2F2 | G4 G4 :|
|: ¶g2dg bgdg | f2df a4 | g2dg bgdB | A2F2 D4 | §g2dg bgdg | f2df a2f2 | g2f2 e2d2 | cAFA G4 :|`,
  },
  {
    name: 'Left Behind, crooked: three bars and three',
    key: 'Am',
    irregular: true,
    metre: '3/4',
    music: `|: ¶A2c2e2 | d2c2B2 | A6 | §A2c2e2 | g2f2e2 | a6 :|
|: ¶a2g2e2 | f2e2d2 | e6 | §c2d2e2 | d2c2B2 | A6 :|`,
  },
  {
    name: 'Half a Herring, crooked: a bar too many before the end',
    key: 'D',
    metre: '6/8',
    irregular: true,
    music: `|: ¶A | d2f a2f | g2e c2e | d2f afd | e3 e2 §A | d2f a2f | g2e c2e | d2B A2F | G2A B2c | d3 d2 :|`,
  },
  {
    name: 'Shutters, with a lead-in of two bars',
    key: 'G',
    irregular: true,
    music: `¶D4 D4 | G4 D4 || |: ¶G2Bd g2dB | c2ec B4 | A2ce a2ec | d2fd A4 | §G2Bd g2dB | c2ec B4 | A2cA FAde | G4 G4 :|`,
  },
  {
    name: 'Nobody Wrote the Repeats, reel written out',
    key: 'D',
    music: `¶d2fd ecAc | d2fd b2af | gfed cdec | A2Bc d2ef | §d2fd ecAc | d2fd b2af | gfed cABc | d4 d4 | ¶d2fd ecAc | d2fd b2af | gfed cdec | A2Bc d2ef | §d2fd ecAc | d2fd b2af | gfed cABc | d4 d4 |
¶f2af dfaf | g2bg egbg | f2af dfaf | edce A4 | §f2af dfaf | g2bg egbg | agfe dcBc | d4 d4 | ¶f2af dfaf | g2bg egbg | f2af dfaf | edce A4 | §f2af dfaf | g2bg egbg | agfe dcBc | d4 d4 |]`,
    relations: { 3: ['same', 1], 4: ['same', 2], 7: ['same', 5], 8: ['same', 6] },
  },
  {
    name: 'Study for a Rainy Day, through-composed',
    key: 'C',
    irregular: true,
    music: `¶CDEF GABc | dcBA GFED | EFGA Bcde | f2e2 d4 | §efga gfed | cdef edcB | ABcd cBAG | F2E2 D4 | §DFEG FAGB | AcBd cedf | gfed cBAG | A2B2 c4 | §cAFA dBGB | ecAc fdBd | gecA FDB,D | C8 |]`,
  },
  {
    name: 'Study with Rests, through-composed',
    key: 'F',
    metre: '3/4',
    unit: '1/4',
    irregular: true,
    music: `¶F2A | c2A | B2G | A2 z | §G2B | d2B | c2A | G2 z | §A2c | f2e | d2B | c2 z | §B2A | G2c | A2G | F2 z |]`,
  },
  {
    name: 'Kettle Song, 32 bars written out',
    key: 'F',
    music: `¶c2A2 F2A2 | d2c2 A4 | B2d2 f2d2 | c4 z4 | §c2A2 F2A2 | d2c2 A4 | G2A2 B2G2 | c8 | ¶c2A2 F2A2 | d2c2 A4 | B2d2 f2d2 | c4 z4 | §c2A2 F2A2 | d2c2 A4 | G2c2 E2G2 | F8 |
¶f2e2 d2c2 | B2A2 B4 | e2d2 c2B2 | A2G2 A4 | §d2c2 B2A2 | G2F2 G4 | A2B2 c2d2 | c8 | ¶c2A2 F2A2 | d2c2 A4 | B2d2 f2d2 | c4 z4 | §c2A2 F2A2 | d2c2 A4 | G2c2 E2G2 | F8 |]`,
    relations: { 3: ['same', 1], 4: ['same-but-ending', 2], 7: ['same', 1], 8: ['same', 4] },
  },
  {
    name: 'Echo in the Boathouse, phrases at the octave',
    key: 'G',
    music: `|: ¶G,2B,D G2B,2 | A,2CE D4 | G,2B,D C2A,2 | F,2A,2 G,4 | §G2Bd g2B2 | A2ce d4 | G2Bd c2A2 | F2A2 G4 :|
|: ¶d2ef g2d2 | c2Bc A4 | d2ef g2fe | dcBA G4 | §e2fg a2e2 | d2cd B4 | e2fg a2gf | edcB A4 :|`,
    relations: { 2: ['octave', 1], 3: 'new', 4: ['transposed', 3] },
  },
  {
    name: 'Question at the Door, answer at the gate',
    key: 'D',
    metre: '2/4',
    music: `|: ¶D2FA | B2A2 | G2FE | F2E2 | §D2FA | B2A2 | GFEC | D4 :|
|: ¶A2dc | B2A2 | G2Bc | B2A2 | §A2dc | B2A2 | GFEC | D4 :|`,
    relations: { 2: ['same-but-ending', 1], 3: ['same-rhythm', 1], 4: ['same-but-ending', 3] },
  },
  {
    name: 'Pins, licks that come back',
    key: 'G',
    music: `|: ¶GABG c2e2 | dcBd A4 | FGAF D2F2 | GABG D4 | §e2dc GABG | f2d2 BdAB | cBAG dcBd | G8 :|`,
    licks: [
      { beats: 2, at: ['1.1', '4.1', '5.3'] },
      { beats: 2, at: ['2.1', '7.3'] },
    ],
    relations: { 2: 'new' },
  },
  {
    name: 'Needles, licks in a jig',
    key: 'D',
    metre: '6/8',
    music: `|: ¶dfa gec | d2A F2A | Bcd efg | gec A3 | §f2d gec | dfa b2a | gfe Bcd | d3 D3 :|`,
    licks: [
      { beats: 1, at: ['1.1', '6.1'] },
      { beats: 1, at: ['1.2', '4.1', '5.2'] },
      { beats: 1, at: ['3.1', '7.2'] },
    ],
  },
  {
    name: 'Thimbles, a lick of two beats in three places',
    key: 'G',
    music: `|: ¶dBcA G2E2 | FGAB c2d2 | e2f2 dBcA | G2D2 B,4 | §gfed cdef | dBcA F2D2 | EGFA B2A2 | cBAF G4 :|`,
    licks: [{ beats: 2, at: ['1.1', '3.3', '6.1'] }],
  },
  {
    name: 'Buckles, a bar that comes back',
    music: `|: ¶d2fd ecAc | B2GB AFDF | d2fd ecAc | B2AG F4 | §a2fa gbag | d2fd ecAc | gfed cdBc | A2F2 D4 :|`,
    licks: [{ beats: 4, at: ['1.1', '3.1', '6.1'] }],
  },
  {
    name: 'Bobbins, licks of one beat and of two in a jig',
    key: 'G',
    metre: '6/8',
    music: `|: ¶Bcd g2e | dBG A3 | cBA GFE | Bcd g2e | §fed cAF | GBd c2A | dBG FED | G3 G3 :|`,
    licks: [
      { beats: 2, at: ['1.1', '4.1'] },
      { beats: 1, at: ['2.1', '7.1'] },
    ],
  },
  {
    name: 'Ferry Lines, sixteen bars with two endings',
    key: 'A',
    music: `|: ¶c2 | e2ce A2ce | f2df B2df | e2ce A2ce | d2cB A2 §c2 | e2ce A2ce | f2df B2df | e2c2 d2B2 |1 c2A2 A2 :|2 c2A2 A4 ||
|: ¶a2ea c2ea | b2gb e2gb | a2ea c2ea | f2ec B4 | §a2ea c2ea | b2gb e2gb | a2f2 e2c2 |1 d2B2 A4 :|2 d2c2 A4 |]`,
    relations: { 2: ['same-but-ending', 1], 4: ['same-but-ending', 3] },
  },
];

/** The same numbers each time (a linear congruential generator). */
function numbers(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
}

const SCALE = 'G A B c d e f g a b'.split(' ');

interface MadePhrase {
  readonly bars: number;
  /** Number of an earlier phrase, from 1, whose music it repeats up to its last bar, or wholly. */
  readonly like?: number;
  readonly whole?: boolean;
}

interface Made {
  readonly name: string;
  readonly seed: number;
  readonly irregular?: boolean;
  readonly pickup?: boolean;
  readonly repeats?: boolean;
  readonly parts: readonly (readonly MadePhrase[])[];
}

/** A tune of running eighths whose phrases end on a long note, with or without pickups of a quarter. */
function made({ name, seed, irregular = false, pickup = false, repeats = true, parts }: Made): Stated {
  const next = numbers(seed);
  let at = 4;
  const note = () => {
    at = Math.max(0, Math.min(SCALE.length - 1, at + [-2, -1, -1, 1, 1, 2][next(6)]!));
    return SCALE[at]!;
  };
  const run = (count: number) => Array.from({ length: count }, note).join('');
  /** A last note that is not that one. */
  const otherThan = (known: string | undefined) => {
    let last = `${note()}4`;
    while (last === known) last = `${note()}4`;
    return last;
  };
  const bodies: string[][] = [];
  const relations: Record<number, readonly [RelationKind, number]> = {};
  const music = parts.map((phrases, part) => {
    const text = phrases.map((phrase, index) => {
      const like = phrase.like ? bodies[phrase.like - 1]! : null;
      const body = Array.from({ length: phrase.bars - 1 }, (_, bar) => like?.[bar] ?? run(8));
      const last = phrase.whole && like ? like.at(-1)! : otherThan(like?.at(-1));
      bodies.push([...body, last]);
      if (phrase.like) relations[bodies.length] = [phrase.whole ? 'same' : 'same-but-ending', phrase.like];
      const mark = index === 0 ? '¶' : '§';
      const up = pickup ? `${mark}${run(2)} | ` : mark;
      const fill = pickup ? `${last.replace('4', '')}6` : `${last}${last}`;
      // The next phrase's pickup stands in this bar's last quarter.
      return `${up}${body.map((bar) => `${bar} | `).join('')}${fill}`;
    });
    const joined = text.join(pickup ? ' ' : ' | ');
    return repeats ? `|: ${joined} :|` : `${joined}${pickup && part < parts.length - 1 ? ' ' : ' |'}`;
  });
  return { name, key: 'G', irregular, music: music.join(repeats ? '\n' : ' '), relations };
}

const GENERATED: readonly Made[] = [
  {
    name: 'made: four and four, pickups',
    seed: 11,
    pickup: true,
    parts: [
      [{ bars: 4 }, { bars: 4, like: 1 }],
      [{ bars: 4 }, { bars: 4, like: 3 }],
    ],
  },
  {
    name: 'made: four and four',
    seed: 12,
    parts: [
      [{ bars: 4 }, { bars: 4 }],
      [{ bars: 4 }, { bars: 4, like: 3, whole: true }],
    ],
  },
  {
    name: 'made: sixteen bars a part',
    seed: 13,
    pickup: true,
    parts: [[{ bars: 4 }, { bars: 4 }, { bars: 4, like: 1, whole: true }, { bars: 4 }]],
  },
  {
    name: 'made: three and five',
    seed: 14,
    irregular: true,
    parts: [
      [{ bars: 3 }, { bars: 5 }],
      [{ bars: 5 }, { bars: 3 }],
    ],
  },
  {
    name: 'made: five and five',
    seed: 15,
    irregular: true,
    pickup: true,
    parts: [[{ bars: 5 }, { bars: 5, like: 1 }]],
  },
  {
    name: 'made: six and six',
    seed: 16,
    irregular: true,
    parts: [
      [{ bars: 6 }, { bars: 6, like: 1 }],
      [{ bars: 4 }, { bars: 6 }],
    ],
  },
  {
    name: 'made: seven and nine',
    seed: 17,
    irregular: true,
    parts: [
      [{ bars: 4 }, { bars: 3 }],
      [{ bars: 4 }, { bars: 5 }],
    ],
  },
  {
    name: 'made: no repeats',
    seed: 18,
    repeats: false,
    pickup: true,
    parts: [
      [{ bars: 4 }, { bars: 4, like: 1 }],
      [{ bars: 4 }, { bars: 4, like: 3 }],
    ],
  },
  {
    name: 'made: through-composed',
    seed: 19,
    repeats: false,
    irregular: true,
    parts: [
      [{ bars: 4 }, { bars: 4 }],
      [{ bars: 4 }, { bars: 4 }],
    ],
  },
];

export const TRUTHS: readonly Truth[] = [...HAND_WRITTEN, ...GENERATED.map(made)].map(stated);

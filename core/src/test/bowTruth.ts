/**
 * Passages with the bowing that a good player chooses, written from technique before the planner ran on them. Test
 * data; not part of any public index.
 *
 * A stroke is `d` or `u` with the number of its notes where there are several; `^` before it is a lift, `~` a stop in
 * the same direction. Strokes stand as they are played, repeats and endings too; bar lines are there for reading.
 */
import type { Header } from './testing.ts';
import type { BowDecisions } from '../bow/index.ts';

export interface Passage {
  readonly music: string;
  readonly bows: string;
  readonly why: string;
  readonly header: Header;
  readonly decided: Partial<BowDecisions>;
}

type Row = readonly [music: string, bows: string, why: string, decided?: Partial<BowDecisions>];

function passages(header: Header, decided: Partial<BowDecisions>, rows: readonly Row[]): readonly Passage[] {
  return rows.map(([music, bows, why, own]) => ({ music, bows, why, header, decided: { ...decided, ...own } }));
}

const COMES: Partial<BowDecisions> = { school: 'as-it-comes' };
const DOWN: Partial<BowDecisions> = { school: 'down-on-the-beat' };
const JIG: Header = { metre: '6/8', tempo: '3/8=100' };
const WALTZ: Header = { metre: '3/4', tempo: '1/4=120' };
const POLKA: Header = { metre: '2/4', tempo: '1/4=110' };
const REEL: Header = { metre: '4/4', tempo: '1/4=160' };
const SLOW: Header = { metre: '4/4', tempo: '1/4=60' };
const CUT: Header = { metre: '2/2', tempo: '1/2=80' };

const AS_IT_COMES: readonly Passage[] = [
  ...passages(SLOW, COMES, [
    ['A2 B2 c2 d2 |', 'd u d u |', 'separate notes go to and fro'],
    ['A4 B2 c2 | d8 |', 'd u d | u |', 'three to a bar: the next bar begins up, and nothing is done about it'],
    ['(A2 B2) c2 d2 | e8 |', 'd2 u d | u |', 'a slur is one stroke'],
    ['A2- A2 B4 |', 'd2 u |', 'a tie is one sound on one stroke'],
    ['A8- | A4 B4 |', 'd2 | u |', 'a tie goes on over the bar line'],
    ['A4 z4 | B8 |', 'd | u |', 'a rest turns nothing'],
    ['(A4 B4- | B2) c2 d4 |', 'd3 | u d |', 'a slur that carries a tie over the bar line'],
    ['[DA]4 [DB]4 |', 'd u |', 'a double stop is one stroke'],
    ['{B}A4 c4 |', 'd u |', 'a grace is on the stroke of its note'],
    ['(3ABc d2 e4 |', 'd u d u d |', 'a triplet without a slur is three strokes'],
    ['(3(ABc) d2 e4 |', 'd3 u d |', 'a slurred triplet is one'],
    ['A2 A2 A2 A2 |', 'd u d u |', 'repeated notes are separate'],
    ['A3 B c3 d |', 'd u d u |', 'dotted figures are not stopped in this school'],
    ['uA2 B2 c4 |', 'u d u |', 'the tune says up'],
    ['A2 B2 vc2 d2 |', 'd u d u |', 'a mark that says what comes anyway'],
    ['A2 vB2 c4 |', 'd ~d u |', 'two downs without a rest: the bow stops between them'],
    ['A2 z2 vB4 |', 'd ^d |', 'two downs over a rest: the bow is lifted'],
  ]),
  ...passages(SLOW, COMES, [
    ['E2 | A4 B4 |', 'u | d u |', 'a pickup of one starts up'],
    ['EF | A4 B4 |', 'd u | d u |', 'a pickup of two starts down'],
    ['EFG | A8 |', 'u d u | d |', 'a pickup of three starts up'],
    ['(EF) | A4 B4 |', 'u2 | d u |', 'two on one bow are one stroke: up'],
    ['E2- | E4 A4 |', 'u2 | d |', 'held over the first beat: its first new stroke is down'],
    ['z2 A2 B4 |', 'u d |', 'a rest on the first beat: what comes off the beat is up'],
    ['E2 | z2 A2 B4 |', 'd | u d |', 'a pickup before a bar that begins with a rest'],
    ['E2 | A4 B4 |', 'd | u d |', 'the teacher starts down all the same', { start: 'down' }],
    ['A4 B4 |', 'u d |', 'the teacher starts up', { start: 'up' }],
  ]),
  ...passages(JIG, COMES, [
    ['ABc def | g3 a3 |', 'd u d u d u | d u |', 'a jig with three separate comes out even'],
    ['A2B c2d | e3 d3 |', 'd u d u | d u |', 'long and short to and fro'],
    ['A | B2c d3 | e6 |', 'u | d u d | u |', 'a jig’s pickup is up'],
    ['A3 Bcd | e6 |', 'd u d u | d |', 'a dotted quarter is one stroke'],
  ]),
  ...passages(REEL, COMES, [
    ['|: A4 B2 c2 :|', 'd u d | u d u |', 'an odd section comes round on the other bow'],
    ['|: A4 B4 :| c4 d4 |', 'd u | d u | d u |', 'an even one does not'],
    ['|: A4 B4 |1 c8 :|2 d4 e4 |]', 'd u | d | u d | u d |', 'an ending of one stroke turns the second time round'],
    [
      '|: E2 | A4 B4 | c4 d2 :|',
      'u | d u | d u | d | u d | u d |',
      'a pickup that comes round: five strokes, so it comes down',
    ],
    ['|: A2 B2 c2 d2 :|: e4 f4 :|', 'd u d u | d u d u | d u | d u |', 'two parts, both even'],
  ]),
];

const DOWN_BY_SLUR: readonly Passage[] = [
  ...passages(SLOW, DOWN, [
    ['A2 B2 c2 d2 | e8 |', 'd u d u | d |', 'an even bar needs nothing'],
    ['A4 B2 c2 | d8 |', 'd u2 | d |', 'the pair on the third beat is slurred'],
    ['A2 B4 c2 | d8 |', 'd u2 | d |', 'the pair that begins on the second beat'],
    ['A2 B2 c4 | d8 |', 'd u2 | d |', 'of the weak part, the only pair'],
    ['A2 BA G2 F2 | E8 |', 'd u d u2 | d |', 'of two pairs on beats, the last'],
    ['A2 BA GF E2 | D8 |', 'd u d u d u | d |', 'six strokes: nothing to do'],
    ['AB c2 d2 e2 | f8 |', 'd u d u2 | d |', 'not in the first beat'],
    ['A4 Bc de | f8 |', 'd u d u2 | d |', 'of two pairs of eighths, the last on a beat'],
    ['(A2 B2) c2 d2 | e8 |', 'd2 u2 | d |', 'the tune’s slur stays, and the pair beside it is slurred'],
    ['A2 (B2 c2) d2 | e8 |', 'd u2 d | u |', 'a stroke of two takes no third; nothing else turns it: left, and said'],
    ['A4 B3 c | d8 |', 'd u2 | d |', 'long and short on the third beat are slurred before they are stopped'],
    ['A6 B2 | c8 |', 'd u | d |', 'dotted half and quarter come out even'],
    ['A8 | B8 | c8 |', 'd | u | d |', 'whole notes: nothing to slur; the second bar stays up, and is said'],
  ]),
  ...passages(WALTZ, DOWN, [
    ['A2 B2 c2 | d2 e2 f2 | g6 |', 'd u2 | d u2 | d |', 'a waltz in quarters: second and third on one bow'],
    ['A4 B2 | c4 d2 | e6 |', 'd u | d u | d |', 'half and quarter are even'],
    ['A2 Bc d2 | e6 |', 'd u d u | d |', 'four strokes: nothing'],
    ['A2 Bc de | f6 |', 'd u d u2 | d |', 'five strokes: the last pair on a beat'],
    ['A3 B c2 | d6 |', 'd u2 | d |', 'dotted: the pair over the third beat is all there is to slur'],
    ['c2 | A2 B2 c2 | d4 c2 | A4 |', 'u | d u2 | d u | d |', 'a pickup is up, and each bar is down'],
  ]),
  ...passages(JIG, DOWN, [
    ['A3 c2d | e3 d3 |', 'd u2 | d u |', 'in a jig the weak part is the second beat'],
    [
      'A2B c3 | d3 e3 |',
      'd ~d u | d u |',
      'nothing to slur after the first beat: the short note is stopped off the long one',
    ],
    ['A3 cde | f6 |', 'd u d u | d |', 'four strokes: nothing'],
    ['ABc d3 | e6 |', 'd u d u | d |', 'three and one: four strokes, even'],
    ['ABc d2e | f6 |', 'd u d u2 | d |', 'five: the pair on the second beat'],
    [
      'A6 | B3 cde | f6 |',
      'd | u d2 u | d |',
      'a whole bar of one stroke: the next stays up, and is turned at its end',
    ],
  ]),
  ...passages(POLKA, DOWN, [
    ['A2 Bc | d4 |', 'd u2 | d |', 'the second beat is the weak part'],
    ['AB c2 | d4 |', 'd u d | u |', 'nothing after the first beat to slur, nothing dotted: left'],
    ['A2 B/c/d | e4 |', 'd u d u | d |', 'four: even'],
    ['AB c/d/e | f4 |', 'd u d2 u | d |', 'the pair that begins on the second beat'],
  ]),
  ...passages(CUT, DOWN, [
    ['A4 B2 c2 | d8 |', 'd u2 | d |', 'in cut time the second half of the bar is the weak part'],
    ['A2 B2 c4 | d8 |', 'd u d | u |', 'both pairs are in the first beat or begin there: left'],
  ]),
];

const DOWN_BY_STOP: readonly Passage[] = [
  ...passages(SLOW, DOWN, [
    ['A3 A A4 | B8 |', 'd ~d u | d |', 'repeated notes are not slurred; three to one is stopped'],
    ['A4 B3 B | c8 |', 'd u ~u | d |', 'the same on the third beat'],
    ['A2 A2 A4 | B8 |', 'd u d | u |', 'repeated quarters: no slur, no dotted figure: left'],
    ['A3 B- B4 | c8 |', 'd u2 | d |', 'a held note is one sound: two strokes, even'],
    ['A3 A A3 A | B8 |', 'd u d u | d |', 'even: dotted figures go to and fro'],
    ['A4 A3 A | A3 A A4 | B8 |', 'd u ~u | d ~d u | d |', 'each bar by itself'],
  ]),
  ...passages({ ...SLOW }, { ...DOWN, maxSlur: 1 }, [
    ['A4 B3 c | d8 |', 'd u ~u | d |', 'who plays no slurs stops instead'],
    ['A2 B2 c4 | d8 |', 'd u d | u |', 'no slurs, nothing dotted: left'],
    ['A3 B c4 | d8 |', 'd ~d u | d |', 'three to one'],
  ]),
  ...passages(WALTZ, DOWN, [
    ['A4 A2 | B6 |', 'd u | d |', 'even'],
    ['A2 A2 A2 | B6 |', 'd u d | u |', 'repeated quarters cannot be turned'],
    ['A3 A A2 | B6 |', 'd ~d u | d |', 'three to one in triple metre'],
    ['A2 A2 A A | B6 |', 'd u d u | d |', 'four: even'],
    ['A2 B2 B B | c6 |', 'd u d u | d |', 'four: even'],
  ]),
  ...passages(JIG, DOWN, [
    ['A3 c2c | d3 d3 |', 'd u ~u | d u |', 'two to one in compound metre'],
    ['A2A A3 | B6 |', 'd ~d u | d |', 'also on the first beat'],
    ['A2A BBB | c6 |', 'd ~d u d u | d |', 'five strokes of repeated notes'],
  ]),
];

const DOWN_BY_LIFT: readonly Passage[] = [
  ...passages(SLOW, DOWN, [
    ['A2 A2 A2 z2 | B8 |', 'd u d | ^d |', 'over a rest of a second the bow is lifted'],
    ['A4 z4 | B8 |', 'd | ^d |', 'one note and a rest'],
    ['A2 B2 c2 z2 | d8 |', 'd u2 | d |', 'a slur comes before a lift'],
    ['A2 z2 A2 A2 | B8 |', 'd ^d u | d |', 'the rest inside the bar gives the time'],
    ['A2 z2 z2 A2 | B8 |', 'd u | d |', 'even: nothing is lifted'],
    ['A8 | z8 | B8 |', 'd | | ^d |', 'a whole bar of rest'],
  ]),
  ...passages({ metre: '4/4', tempo: '1/4=240' }, DOWN, [
    ['A2 A2 A2 Az | B8 |', 'd u d u | d |', 'even'],
    ['A2 A2 A3 z | B8 |', 'd u d | u |', 'an eighth rest at this tempo is an eighth of a second: too short'],
  ]),
  ...passages(SLOW, { ...DOWN, maxSlur: 1 }, [
    ['A2 B2 c2 z2 | d8 |', 'd u d | ^d |', 'without slurs, the lift'],
    ['A4 z2 B2 | c8 |', 'd u | d |', 'even'],
  ]),
  ...passages(SLOW, DOWN, [
    [
      'A2 B2 c2 d2 | e2 d2 c2 B2 | A2 B2 c2 d2 | e8 | e2 d2 c2 B2 | A2 B2 c2 B2 | A2 G2 F2 E2 | D8 |]',
      'd u d u | d u d u | d u d u | d | ^d u d u | d u d u | d u d u | d |',
      'a phrase ends on a whole note of four seconds: the bow is lifted for the next',
    ],
  ]),
];

const PATTERNED: readonly Passage[] = [
  ...passages(REEL, { ...COMES, pattern: 'pairs' }, [
    ['ABcd efga | b8 |', 'd2 u2 d2 u2 | d |', 'pairs of eighths'],
    ['A2 Bc d2 ef | g8 |', 'd u2 d u2 | d |', 'a quarter takes the place of a pair'],
    ['AAcd efga | b8 |', 'd u d2 u2 d2 | u |', 'a repeated note is not slurred'],
    ['ABzd efga | b8 |', 'd2 u d2 u2 | d |', 'a rest cuts the pair'],
    ["Bc | d2 ef gabc' | b8 |", 'u2 | d u2 d2 u2 | d |', 'a pickup of two is a pair, up'],
    ['A3 B c3 d | e8 |', 'd u d u | d |', 'the note on the off-beat stands in the next pair: alone'],
    ['A2 B2 c2 d2 | e2 f2 g4 |', 'd2 u2 | d2 u |', 'where quarters are the shortest, pairs of quarters'],
    ['(AB)cd efga | b8 |', 'd2 u2 d2 u2 | d |', 'the tune’s slur and the pattern agree'],
    ['A(Bc)d efga | b8 |', 'd u2 d u2 d2 | u |', 'the tune’s slur is kept, and the pattern cut at it'],
  ]),
  ...passages(REEL, { ...COMES, pattern: 'one-and-three' }, [
    ['ABcd efga | b8 |', 'd u3 d u3 | d |', 'one, and three'],
    ['A2 cd e2 fg | a8 |', 'd u2 d u2 | d |', 'the quarter is the one; two are left of the three'],
    ['ABc2 d4 | e8 |', 'd u2 d | u |', 'a long note ends its group'],
    ['ABBd efga | b8 |', 'd u d2 u d3 | u |', 'a repeated note cuts the three'],
    ['ABzd efga | b8 |', 'd u d u d3 | u |', 'a rest cuts it'],
    ['A4 Bcde | f8 |', 'd u d3 | u |', 'a half note, then one and three'],
    ['B | ABcd efga | b8 |', 'u | d u3 d u3 | d |', 'the pickup is the last of a three: alone, and up'],
    [
      "ABcd (3efg ab | c'8 |",
      'd u3 d3 u2 | d |',
      'a triplet takes the place of the one it begins on and the note after it',
    ],
  ]),
  ...passages(REEL, { ...COMES, pattern: 'three-and-one' }, [
    ['ABcd efga | b8 |', 'd3 u d3 u | d |', 'three, and one'],
    ['A2 cd efga | b8 |', 'd2 u d3 u | d |', 'the quarter is two of the three'],
    ['ABc2 efga | b8 |', 'd3 u3 d | u |', 'a quarter covers the one'],
  ]),
  ...passages(REEL, { ...COMES, pattern: 'two-and-two' }, [
    ['ABcd efga | b8 |', 'd2 u d u2 d u | d |', 'two slurred, two separate'],
    ['A2 cd efga | b8 |', 'd u d u2 d u | d |', 'the quarter stands for the two'],
    ['ABc2 efga | b8 |', 'd2 u d2 u d | u |', 'the quarter stands for the separate ones'],
  ]),
  ...passages(REEL, { ...COMES, pattern: 'long-short-shuffle' }, [
    ['ABcd efga | b8 |', 'd2 u d u2 d u | d |', 'grouped as two and two; the accent is on the off-beat'],
  ]),
  ...passages(REEL, { ...COMES, pattern: 'four-to-a-bow' }, [
    ['ABcd efga | b8 |', 'd4 u4 | d |', 'four to a bow'],
    ['A2 cd efga | b8 |', 'd3 u4 | d |', 'a quarter and two'],
    ['ABcd efga | b8 |', 'd2 u2 d2 u2 | d |', 'who slurs two at most plays them as pairs', { maxSlur: 2 }],
    ['ABcd efga | b8 |', 'd u d u d u d u | d |', 'who slurs none plays them separate', { maxSlur: 1 }],
  ]),
  ...passages(REEL, { ...COMES, pattern: 'across-threes' }, [
    ['ABcd efga | b8 |', 'd3 u3 d2 | u |', 'three, three, two'],
    ['A2 cd e2 ga | b8 |', 'd2 u2 d2 | u |', 'a quarter begins in the three it begins in'],
    ['ABcd efga | ABcd efga |', 'd3 u3 d2 | u3 d3 u2 |', 'the second bar comes up'],
  ]),
  ...passages(JIG, { ...COMES, pattern: 'two-and-one' }, [
    ['ABc def | g6 |', 'd2 u d2 u | d |', 'two slurred, one separate'],
    ['A2B cde | f6 |', 'd u d2 u | d |', 'the quarter stands for the two'],
    ['A3 def | g6 |', 'd u2 d | u |', 'the dotted quarter covers all three'],
    ['AAc def | g6 |', 'd u d u2 d | u |', 'repeated notes are not slurred'],
    ['c | ABc def | g6 |', 'u | d2 u d2 u | d |', 'the pickup is the one: up'],
    ['Azc def | g6 |', 'd u d2 u | d |', 'a rest takes the second of the two'],
  ]),
  ...passages(JIG, COMES, [
    ['ABc def | g6 |', 'd u d u d u | d |', 'pairs do not suit a jig: separate', { pattern: 'pairs' }],
    ['ABc def | g6 |', 'd u d u d u | d |', 'nor does one and three', { pattern: 'one-and-three' }],
    ['(ABc) def | g6 |', 'd3 u d u | d |', 'separate keeps the tune’s slurs', { pattern: 'separate' }],
    ['(ABc) def | g6 |', 'd u d u d u | d |', 'unless they are ignored', { pattern: 'separate', tuneSlurs: 'ignore' }],
  ]),
  ...passages(WALTZ, COMES, [
    ['AB cd ef | g6 |', 'd2 u2 d2 | u |', 'pairs of eighths in a waltz', { pattern: 'pairs' }],
    ['AB cd ef | g6 |', 'd u d u d u | d |', 'two and one is for beats in three', { pattern: 'two-and-one' }],
    ['AB cd ef | g6 |', 'd u d u d u | d |', 'six eighths are no threes and two', { pattern: 'across-threes' }],
  ]),
  ...passages(POLKA, COMES, [
    ['A/B/c/d/ e/f/g/a/ | b4 |', 'd2 u2 d2 u2 | d |', 'pairs of sixteenths', { pattern: 'pairs' }],
    [
      'AB c/d/e/f/ | g4 |',
      'd u d2 u2 | d |',
      'sixteenths are the short value: an eighth is a pair',
      { pattern: 'pairs' },
    ],
    ['A/B/c/d/ e/f/g/a/ | b4 |', 'd u3 d u3 | d |', 'one and three in sixteenths', { pattern: 'one-and-three' }],
  ]),
  ...passages(REEL, { ...DOWN, pattern: 'one-and-three' }, [
    ['ABcd efga | ABcd efga |', 'd u3 d u3 | d u3 d u3 |', 'even: every bar is down'],
    ['A4 Bcde | f8 |', 'd u d3 | u |', 'a stroke of three takes part in no repair: left, and said'],
  ]),
  ...passages(REEL, { ...DOWN, pattern: 'pairs' }, [
    ['ABcd e2 f2 | g8 |', 'd2 u2 d u | d |', 'even'],
    ['ABcd e4 | g8 |', 'd2 u2 d | u |', 'three strokes, nothing single to slur: left'],
  ]),
];

const KEPT_AND_LIMITED: readonly Passage[] = [
  ...passages(SLOW, COMES, [
    ['(ABcd) (efga) | b8 |', 'd4 u4 | d |', 'the tune’s slurs are kept'],
    ['(ABcd) (efga) | b8 |', 'd2 u2 d2 u2 | d |', 'the learner slurs two: each is cut on the beat', { maxSlur: 2 }],
    ['(ABcd) (efga) | b8 |', 'd2 u2 d2 u2 | d |', 'of three at most, four are cut in halves', { maxSlur: 3 }],
    ['(ABc) d4 z | e8 |', 'd2 u d | u |', 'three cut to two and one', { maxSlur: 2 }],
    ['(ABcdefga) | b8 |', 'd4 u4 | d |', 'eight cut to four and four', { maxSlur: 4 }],
    ['(ABcd) e2 f2 | g8 |', 'd u d u d u | d |', 'separate only', { maxSlur: 1 }],
    ['(ABcd) e2 f2 | g8 |', 'd u d u d u | d |', 'the tune’s slurs are ignored', { tuneSlurs: 'ignore' }],
    ['(ABcd) e2 f2 | g8 |', 'd4 u d | u |', 'preferred, and nothing stands against them', { tuneSlurs: 'prefer' }],
    [
      '(ABcd) efga | b8 |',
      'd2 u2 d2 u2 | d |',
      'preferred slurs yield to a pattern',
      { tuneSlurs: 'prefer', pattern: 'pairs' },
    ],
    ['(ABcd) efga | b8 |', 'd4 u2 d2 | u |', 'kept slurs do not', { pattern: 'pairs' }],
    ['(A2 A2) B4 | c8 |', 'd u d | u |', 'a slur over one note played twice would be one long note'],
    ['(.A2 .A2) B4 | c8 |', 'd2 u | d |', 'with dots it is one bow stopped within'],
    ['(A2 z2 B2) c2 | d8 |', 'd u d | u |', 'no slur over a rest'],
  ]),
  ...passages(JIG, COMES, [
    ['(ABc) (def) | g6 |', 'd3 u3 | d |', 'three to a bow'],
    ['(ABcdef) | g6 |', 'd3 u3 | d |', 'six cut on the beat', { maxSlur: 4 }],
    ['(ABc) (def) | g6 |', 'd2 u d2 u | d |', 'three cut to two and one', { maxSlur: 2 }],
  ]),
  ...passages(SLOW, DOWN, [
    ['(ABcd) e2 f2 | g8 |', 'd4 u2 | d |', 'a kept slur, and a repair beside it'],
    ['A2 (Bc) d2 e2 | f8 |', 'd u2 d u | d |', 'four strokes: even'],
    ['A2 B2 vc2 d2 | e8 |', 'd u d u | d |', 'the tune’s own mark agrees'],
    ['uA2 B2 c2 d2 | e8 |', 'u d u2 | d |', 'begun up by the tune’s mark, the next bar is turned back'],
  ]),
];

const SUNG: readonly Passage[] = passages(SLOW, { ...COMES, pattern: 'by-syllable' }, [
  ['A2 B2 c2 d2 | e8 |\nw: one two three four five', 'd u d u | d |', 'a stroke a syllable'],
  ['A2 B2 c2 d2 | e8 |\nw: one _ two _ three', 'd2 u2 | d |', 'two notes to a syllable are slurred'],
  ['A2 B2 c2 d2 | e8 |\nw: one _ _ two three', 'd3 u | d |', 'three to a syllable'],
  ['ABcd efga | b8 |\nw: one _ _ _ _ _ _ _ two', 'd4 u4 | d |', 'eight to a syllable are shared out', {}],
  ['ABcd e4 | f8 |\nw: one _ _ _ two three', 'd2 u2 d | u |', 'who slurs two shares four out', { maxSlur: 2 }],
  ['A2 B2 c2 d2 | e8 |\nw: ho- ly ri- ver runs', 'd u d u | d |', 'parts of words are syllables'],
  ['A2 B2 c2 d2 | e8 |', 'd u d u | d |', 'without words: separate'],
  ['A2 B2 z2 d2 | e8 |\nw: one _ two three', 'd2 u | d |', 'a rest between two syllables'],
  ['A2 A2 B2 d2 | e8 |\nw: one _ two three', 'd u d u | d |', 'one note twice on a syllable is not slurred'],
  ['A2- A2 B2 d2 | e8 |\nw: one two three four', 'd2 u d | u |', 'a held note is one'],
]);

const COMING_ROUND: readonly Passage[] = [
  ...passages(WALTZ, DOWN, [
    [
      '|: A2 B2 c2 | d2 c2 B2 :|',
      'd u2 | d u2 | d u2 | d u d |',
      'the last bar leads back: slurred the first time, as nothing comes after it the second',
    ],
    ['|: A4 B2 | c6 :|', 'd u | d | ^d u | d |', 'the long note before the repeat lends a lift its time'],
  ]),
  ...passages(SLOW, DOWN, [
    ['|: A4 B2 c2 :| d8 |]', 'd u2 | d u2 | d |', 'turned before the repeat, and before what follows'],
    ['|: A4 B4 |1 A2 A2 A2 z2 :|2 c8 |]', 'd u | d u d | ^d u | d |', 'the first ending’s rest lifts the bow'],
  ]),
  ...passages(SLOW, COMES, [
    ['|: A4 B4 |1 c4 d4 :|2 e8 |]', 'd u | d u | d u | d |', 'both times alike'],
    ['|: A4 B4 :|\n|: c4 d2 e2 :|', 'd u | d u | d u d | u d u |', 'the second part comes round up'],
  ]),
];

/** All of them. */
export const PASSAGES: readonly Passage[] = [
  ...AS_IT_COMES,
  ...DOWN_BY_SLUR,
  ...DOWN_BY_STOP,
  ...DOWN_BY_LIFT,
  ...PATTERNED,
  ...KEPT_AND_LIMITED,
  ...SUNG,
  ...COMING_ROUND,
];

/**
 * Short tunes of the kinds that are easily parted wrongly: held notes over the joint, pickups inside endings, odd
 * lengths, fermatas, keys that change. Parted by hand, as `formTruth.ts` explains, before the analysis saw them; `why`
 * is what a teacher would point to.
 */
import type { Phrase } from '../form/index.ts';
import { stated, type Stated, type Truth } from './formTruth.ts';

interface Kind extends Stated {
  readonly why: string;
  /** One letter a phrase: o, a question; c, an answer. */
  readonly closings?: string;
  /** How the parts are played. */
  readonly letters?: string;
  /** Bars to learn. */
  readonly newBars?: number;
  /** Bars of each phrase, counted by bar lines. */
  readonly sizes?: readonly number[];
}

export interface FormKind extends Truth {
  readonly why: string;
  readonly closings: readonly Phrase['closing'][] | null;
  readonly letters: string | null;
  readonly newBars: number | null;
  readonly sizes: readonly number[] | null;
}

const made = (kind: Kind): FormKind => ({
  ...stated(kind),
  why: kind.why,
  closings: kind.closings ? kind.closings.split('').map((letter) => (letter === 'c' ? 'closed' : 'open')) : null,
  letters: kind.letters ?? null,
  newBars: kind.newBars ?? null,
  sizes: kind.sizes ?? null,
});

/** The seventeen that teachers parted for us. */
const GIVEN: readonly Kind[] = [
  {
    name: 'held over the joint in common time',
    why: 'after a tie over the joint the phrase begins with the next sounding note',
    unit: '1/4',
    music: `¶D2FA|B2AF|G2FE|A4-|A§DFA|d2cB|A2GE|D4-|D§FAd|f2ed|e2dB|A4-|A§DFA|B2AF|E2FE|D4|]`,
    sizes: [4, 4, 4, 4],
  },
  {
    name: 'held over the joint in a waltz',
    why: 'each phrase begins after the held note',
    key: 'G',
    metre: '3/4',
    unit: '1/4',
    music: `¶G2B|d2B|A2G|D3-|D§GA|B2d|e2d|B2A|A3-|A§GB|d2e|g2e|d2B|A3-|A§BA|G2E|D2F|A2F|G3-|G3|]`,
  },
  {
    name: 'the long note ends the phrase',
    why: 'the second begins from bar 5 on the F',
    music: `¶D2F2 A2F2|G2F2 E2D2|E2F2 G2B2|A8-|A2§F2 A2d2|c2B2 A2G2|F2G2 E2F2|D8|]`,
  },
  {
    name: 'pickup inside the second ending, reel',
    why: 'B begins with the pickup inside the second ending',
    music: `|:¶FA|d2AF D2FA|B2dB A2FA|G2BG F2AF|1 E2F2 E2FA:|2 E2F2 D2¶de|:f2df a2fd|g2eg b2ge|f2df a2fd|1 e2c2 d2de:|2 e2c2 d4|]`,
    letters: 'AABB',
  },
  {
    name: 'pickup inside the second ending, waltz',
    why: 'B begins with the d of the second ending',
    key: 'G',
    metre: '3/4',
    unit: '1/4',
    music: `|:¶D|G2B|d2B|c2A|1 D2D:|2 G2¶d||g2f|e2d|c2A|B2§d|g2f|e2d|c2F|G2|]`,
    letters: 'AAB',
  },
  {
    name: 'phrases of five bars',
    why: 'three phrases of five bars, each with its D before the bar',
    key: 'G',
    metre: '3/4',
    unit: '1/4',
    music: `¶D|G2B|d2c|B2G|A2B|G2§D|G2B|d2e|d2B|A3-|A2§D|G2B|d2c|B2G|A2F|G2|]`,
    sizes: [5, 5, 5],
  },
  {
    name: 'twelve bars in three phrases',
    why: 'one part of twelve bars, three phrases of four',
    key: 'A',
    unit: '1/4',
    music: `¶A2ce|fece|A2ce|f4|§d2fa|bafa|A2ce|f4|§e2^ge|d2fd|A2cB|A4|]`,
  },
  {
    name: 'twelve bars, the third phrase like the first',
    why: '4 + 4 + 4; the third like the first but for its end',
    key: 'G',
    music: `¶G2AB d2B2|e2d2 B4|G2AB d2B2|A8|§c2de g2e2|d2B2 G4|c2BA G2E2|D8|§G2AB d2B2|e2d2 B2G2|A2B2 A2F2|G8|]`,
    relations: { 3: ['same-but-ending', 1] },
  },
  {
    name: 'phrases of three bars',
    why: 'bar 4 begins as bar 1 does',
    metre: '2/4',
    music: `|:¶DF AF|GB AF|E4|§DF AF|GE CE|D4:|:¶df ed|cB A2|Bd A2|§df ed|cB AE|D4:|`,
  },
  {
    name: 'each part in its own key',
    why: 'the home note of each part',
    key: 'G',
    metre: '6/8',
    music: `|:¶G2A B2d|c2A F2A|G2B d2B|A3 D3|§G2A B2d|c2A F2A|B2A F2A|G3 G3:|[K:D]|:¶f2d A2d|e2c A2c|d2f a2f|e3 A3|§f2d A2d|e2c A2c|d2A F2E|D3 D3:|`,
    closings: 'ococ',
  },
  {
    name: 'fermatas end the lines',
    why: 'four lines of two bars',
    key: 'F',
    unit: '1/4',
    music: `¶F|FGAF|BA!fermata!G§A|cBAG|A2!fermata!F§A|AGFE|DE!fermata!C§F|GABG|F3|]`,
  },
  {
    name: 'another beginning and another ending',
    why: 'A2 is A1 with another beginning and another ending, not new',
    key: 'G',
    music: `¶G2BG dGBG|c2ec BGAB|c2ec dBGB|AcBA GFED|§BdBG dGBG|c2ec BGAB|c2ec dBAF|A2G2 G4||`,
    relations: { 2: ['same-but-ends', 1] },
  },
  {
    name: 'pickups that are tied over',
    why: 'the pickups with their tie belong to what follows; the second half has the first one’s beginning',
    key: 'G',
    music: `¶DEG-|G2AB dBAG|E4 zDEG-|G2AB AGEG|D4 z§DEG-|G2AB dBAG|E3G AGED|G4 z|]`,
    relations: { 2: ['same-start', 1] },
  },
  {
    name: 'a held last note in common',
    why: 'a held last note in common is no likeness',
    key: 'G',
    metre: '3/4',
    unit: '1/4',
    music: `¶G2A|B2d|c2A|F2D|G2B|d2B|A3-|A3|§e2d|c2B|A2c|E2G|F2E|D2F|G3-|G3||¶B2d|g2d|e2c|B2G|A2c|e2c|B3-|B3|§d2B|G2E|c2A|F2D|E2A|c2F|G3-|G3|]`,
    relations: { 2: ['same-rhythm', 1] },
  },
  {
    name: 'a longer bar inside',
    why: 'two phrases of four bars, one of them longer',
    key: 'G',
    music: `¶G2B2 d2B2|c2A2 F2A2|G2B2 d2g2|[M:6/4]f2d2 e2c2 B4|[M:4/4]§G2B2 d2B2|c2A2 F2A2|B2d2 c2A2|[M:6/4]G2D2 G4 G4|]`,
    sizes: [4, 4],
    relations: { 2: ['same-but-ending', 1] },
  },
  {
    name: 'da capo al fine with repeats',
    why: 'played AABBA',
    metre: '2/4',
    music: `|:¶A|d>d dA|F2 A2|B>B cd|e2 c§A|d>d dA|F2 A2|B>c dc|!fine!d2 d:|[K:G]|:¶d|g2 fe|d2 Bd|c2 BA|B2 G§d|g2 fe|d2 Bd|c2 AF|G2 G!D.C.alfine!:|`,
    letters: 'AABBA',
  },
  {
    name: 'the second phrase is the first',
    why: 'the second phrase is the first: five bars to learn',
    key: 'C',
    unit: '1/4',
    music: `¶G|c2de|g2ec|A2B2|c4-|c3§G|c2de|g2ec|A2B2|c4-|c3|]`,
    relations: { 2: ['same', 1] },
    newBars: 5,
  },
];

/** Ours. */
const OWN: readonly Kind[] = [
  // Held over the joint.
  {
    name: 'Held Over the Rail',
    why: 'four long notes, each held into the next bar',
    key: 'G',
    music: `¶G2B2 d2B2|c2A2 F2A2|G2B2 e2d2|B8-|B2§d2 e2d2|c2B2 A2F2|A2c2 B2A2|G8-|G2§B2 d2B2|c2A2 F2A2|G2B2 e2d2|A8-|A2§d2 e2d2|c2B2 A2F2|A2c2 B2F2|G8|]`,
    sizes: [4, 4, 4, 4],
    relations: { 4: ['same-but-ending', 2] },
    closings: 'ococ',
  },
  {
    name: 'The Long Rope, in six eight',
    why: 'the held note ends before the third eighth of the next bar',
    key: 'G',
    metre: '6/8',
    music: `¶G2A B2d|e2d B2A|G2A B2G|A6-|A2§B c2e|d2B G2A|B2A F2A|G6-|G2§A B2d|e2d B2A|G2A B2d|A6-|A2§B c2e|d2B G2A|B2A F2A|G6|]`,
    relations: { 4: ['same', 2] },
  },
  {
    name: 'Half a Bar Late',
    why: 'the tie leaves half a bar, and the phrases are four bars by their lines',
    metre: '2/4',
    music: `¶DFAF|G2E2|F2D2|E4-|E2§FG|A2F2|G2E2|D4-|D2§FA|d2A2|B2G2|A4-|A2§FG|A2F2|GEFE|D4|]`,
    sizes: [4, 4, 4, 4],
  },
  {
    name: 'Ropes and Pickups',
    why: 'a long note held over, and then the tune’s own pickup',
    key: 'F',
    unit: '1/4',
    music: `¶C|F2GA|c2AF|G2A2|F4-|F3§C|F2GA|c2de|f2d2|c4-|c3§c|d2cA|c2AF|G2A2|G4-|G3§C|F2GA|c2AF|G2E2|F4-|F3|]`,
    sizes: [5, 5, 5, 5],
    relations: { 2: ['same-start', 1], 4: ['same-but-ending', 1] },
  },
  {
    name: 'Off the Beat, pickups tied over',
    why: 'each pickup is tied into its bar',
    key: 'A',
    music: `¶EAc-|c2BA c2e2|f2e2 c2BA|B2cB A2F2|E4 z§EAc-|c2BA c2e2|f2e2 c2BA|B2cA F2G2|A4 z|]`,
    relations: { 2: ['same-but-ending', 1] },
  },
  {
    name: 'Shutters Half Open, a tie inside the phrase',
    why: 'a tie inside a phrase parts nothing',
    key: 'D',
    music: `¶D2FA d4-|d2cB A2F2|G2FE F2A2|E8|§D2FA d4-|d2cB A2F2|G2FE C2E2|D8|]`,
    relations: { 2: ['same-but-ending', 1] },
    closings: 'oc',
  },
  // Pickups inside endings.
  {
    name: 'The Second Gate, jig',
    why: 'the g of the second ending leads into B; the d of the first leads back',
    key: 'G',
    metre: '6/8',
    music: `|:¶d|B2G D2G|c2A F2A|B2G D2G|A3 D2§d|B2G D2G|c2A F2A|D2E F2A|1 G3 G2d:|2 G3 G2¶g||:f2d A2d|g2d B2d|f2d A2d|g3 d2§g|f2d A2d|g2d B2d|c2A F2A|1 G3 G2g:|2 G3 G3|]`,
    relations: { 2: ['same-but-ending', 1], 4: ['same-but-ending', 3] },
    letters: 'AABB',
  },
  {
    name: 'The Wicket, polka',
    why: 'two sixteenths before B stand in the second ending',
    metre: '2/4',
    music: `|:¶A2FA|d2cB|A2FA|E4|§A2FA|d2cB|AGFE|1 D4:|2 D3¶e||:f2ef|d2A2|B2AB|F4|§f2ef|d2A2|BGEC|1 D3e:|2 D4|]`,
    letters: 'AABB',
    relations: { 2: ['same-but-ending', 1], 4: ['same-but-ending', 3] },
  },
  {
    name: 'Three Steps Down, hornpipe',
    why: 'a triplet in the second ending leads into B',
    key: 'G',
    music: `|:¶DE|G>AB>G d>BG>B|c>BA>G F>AD>F|G>AB>G d>BG>B|A2A2 A2§DE|G>AB>G d>BG>B|c>BA>G F>AD>F|G>ec>A F>DE>F|1 G2G2 G2DE:|2 G2G2 G2¶(3def||:g>fg>d B>dg>b|a>ga>f d>fa>c'|b>ag>f e>dc>B|A2A2 A2§(3def|g>fg>d B>dg>b|a>ga>f d>fa>c'|b>gf>d c>AF>A|1 G2G2 G2(3def:|2 G2G2 G4|]`,
    letters: 'AABB',
  },
  {
    name: 'No Way Back, pickup before a double bar',
    why: 'a part played once ends with the pickup of the next',
    key: 'D',
    metre: '3/4',
    unit: '1/4',
    music: `¶A|d2f|e2c|d2B|A2§A|d2f|e2c|A2c|d2¶f||g2e|f2d|e2c|A2§f|g2e|f2d|c2A|d2|]`,
  },
  {
    name: 'Both Gates Alike',
    why: 'endings that differ by their pickup alone are one bar to learn',
    key: 'G',
    metre: '3/4',
    unit: '1/4',
    music: `|:¶D|G2A|B2G|A2F|1 G2D:|2 G2¶B||d2B|c2A|B2G|A2§B|d2B|c2A|A2F|G2|]`,
    letters: 'AAB',
    newBars: 7,
  },
  // Odd lengths.
  {
    name: 'Five Boards, without pickups',
    why: 'bars 6, 11 and 16 begin as bar 1 or 11 does, and bars 5, 10, 15 come to rest',
    key: 'D',
    music: `|:¶D2FA d2A2|B2GB A2F2|G2EG F2D2|E2FG A2c2|d4 A4|§D2FA d2A2|B2GB A2F2|G2EG F2D2|A2c2 E2C2|D4 D4:|:¶f2af d2f2|e2ce A2c2|f2af d2f2|g2fe f2d2|e4 A4|§f2af d2f2|e2ce A2c2|d2B2 F2A2|G2FE F2C2|D4 D4:|`,
    relations: { 2: ['same-but-ending', 1], 4: ['same-start', 3] },
  },
  {
    name: 'Five in the Boat, jig',
    why: 'each phrase has its pickup and five bars',
    key: 'G',
    metre: '6/8',
    music: `|:¶D|G2B d2B|c2A B2G|A2F G2E|F2D E2F|G3 G2§D|G2B d2B|c2A B2G|A2B c2A|B2G A2F|G3 G2:|`,
    relations: { 2: ['same-but-ending', 1] },
  },
  {
    name: 'Six and Six',
    why: 'bar 7 begins as bar 1 does; nothing rests at bar 4',
    key: 'C',
    metre: '3/4',
    unit: '1/4',
    music: `¶C2E|G2E|F2A|G2E|F2D|G3|§C2E|G2E|F2A|G2F|E2D|C3|]`,
    relations: { 2: ['same-but-ending', 1] },
    closings: 'oc',
  },
  {
    name: 'Three Oars, jig',
    why: 'three bars and a pickup, four times',
    key: 'D',
    metre: '6/8',
    music: `|:¶A|d2f a2f|g2e c2e|d3 A2§A|d2f a2f|g2e c2e|d3 d2:|:¶a|f2d A2d|c2e g2e|f3 d2§a|f2d A2d|c2e A2c|d3 d2:|`,
    relations: { 2: ['same-but-ending', 1] },
  },
  {
    name: 'Three by Four',
    why: 'four phrases of three bars: bars 4 and 10 begin as bar 1',
    key: 'G',
    music: `¶G2B2 d2B2|c2A2 B2G2|A4 D4|§G2B2 d2B2|c2A2 F2A2|G4 G4|§e2c2 e2g2|d2B2 d2g2|A4 A4|§G2B2 d2B2|c2A2 F2A2|G4 G4|]`,
    relations: { 2: ['same-but-ending', 1], 4: ['same', 2] },
  },
  {
    name: 'Three and Three and Two',
    why: 'the breaths are marked',
    key: 'F',
    music: `¶F2A2 c2A2|B2d2 c2B2|A2G2 !breath!A4|§c2f2 e2d2|c2B2 A2c2|B2A2 !breath!G4|§A2c2 B2E2|F8|]`,
  },
  {
    name: 'Seven a Side',
    why: 'four bars, then three that hurry home, in both parts',
    key: 'A',
    music: `|:¶A2ce a2e2|f2df e2c2|d2Bd c2A2|B4 E4|§A2ce a2e2|f2df e2G2|A4 A4:|:¶e2ae c2e2|f2bf d2f2|e2ae c2A2|B4 E4|§e2ae c2e2|f2df e2G2|A4 A4:|`,
    relations: { 2: ['same-but-ending', 1] },
  },
  {
    name: 'A Bar to Breathe',
    why: 'a bar of rest after each phrase belongs to the phrase before',
    key: 'C',
    music: `¶C2E2 G2E2|F2A2 G2E2|D2E2 F2D2|C6z2|z8|§E2G2 c2G2|A2c2 B2G2|F2E2 D2G2|C6z2|z8|]`,
  },
  // Twelve bars.
  {
    name: 'Twelve for the Kettle',
    why: 'line, the same line, and an answer: four bars each, one part',
    key: 'G',
    music: `¶G2BG d2B2|c2A2 B2G2|d6z2|z8|§G2BG d2B2|c2A2 B2G2|d6z2|z8|§e2d2 B2G2|A2B2 A2F2|G6z2|z8|]`,
    relations: { 2: ['same', 1], 3: 'new' },
  },
  {
    name: 'Twelve for the Lamp',
    why: 'three lines of four bars with their pickups, the last like the first',
    key: 'D',
    metre: '3/4',
    unit: '1/4',
    music: `¶A|d2e|f2d|e2c|A2§A|B2c|d2B|c2B|A2§A|d2e|f2d|e2c|d2|]`,
    relations: { 3: ['same-but-ending', 1] },
  },
  {
    name: 'Twelve in a Minor Key',
    why: 'three lines of four, each coming to rest on a long note',
    key: 'Em',
    metre: '6/8',
    music: `¶E2G B2G|A2F D2F|E2G B2e|d3 B3|§g2e B2e|f2d A2d|e2B G2B|A3 F3|§E2G B2G|A2F D2F|G2F E2D|E3 E3|]`,
  },
  // Half-note pickups.
  {
    name: 'Cut Time, a half before the bar',
    why: 'each line begins with its half note',
    key: 'G',
    metre: 'C|',
    music: `¶D4|G4 A4|B4 G4|c4 B4|A4 §D4|G4 A4|B4 G4|A4 F4|G4 §B4|d4 B4|c4 A4|B4 G4|A4 §D4|G4 A4|B4 G4|A4 F4|G4|]`,
    relations: { 2: ['same-but-ending', 1], 4: ['same', 2] },
    closings: 'ococ',
  },
  {
    name: 'Cut Time, five bars and a half note',
    why: 'the half note before bars 6 and 11 is the tune’s own; the line before it rests',
    key: 'D',
    metre: 'C|',
    music: `¶A4|d4 f4|e4 c4|d4 B4|A4 c4|d4 §A4|d4 f4|e4 g4|f4 d4|e4 f4|e4 §A4|d4 f4|e4 c4|d4 B4|A4 c4|d4|]`,
    sizes: [5, 5, 5],
    relations: { 3: ['same', 1] },
  },
  {
    name: 'Cut Time, repeated',
    why: 'half-note pickups inside repeats',
    key: 'F',
    metre: 'C|',
    music: `|:¶C4|F4 G4|A4 F4|B4 A4|G4 §C4|F4 G4|A4 c4|B4 G4|F4:|:¶c4|d4 c4|A4 F4|G4 A4|G4 §C4|F4 G4|A4 c4|B4 G4|F4:|`,
    relations: { 2: ['same-but-ending', 1] },
    letters: 'AABB',
  },
  // Keys.
  {
    name: 'Through the Minor Door',
    why: 'B is in E minor by its signature',
    key: 'G',
    metre: '2/4',
    music: `|:¶GABd|e2d2|B2G2|A4|§GABd|e2d2|B2A2|G4:|[K:Em]|:¶e2B2|G2E2|F2A2|B4|§e2B2|G2E2|F2^D2|E4:|`,
    closings: 'ococ',
  },
  {
    name: 'Up to the Fifth and Back',
    why: 'B is in D by its notes, though nothing is signed',
    key: 'G',
    music: `|:¶G2AB c2B2|A2GF G2B2|c2ec B2dB|A4 D4|§G2AB c2B2|A2GF G2B2|c2ec A2F2|G4 G4:|:¶f2ef d2A2|B2^c2 d2f2|g2fe f2d2|e4 A4|§f2ef d2A2|B2^c2 d2f2|g2fe A2^c2|d4 d4:|`,
    closings: 'ococ',
  },
  {
    name: 'A Signature Without a Double Bar',
    why: 'the signature changes after eight bars; so does the home note',
    key: 'D',
    metre: '3/4',
    unit: '1/4',
    music: `¶D2F|A2F|G2E|A3|§D2F|A2F|G2C|D3|[K:Bm]¶B2d|f2d|e2c|f3|§B2d|f2d|e2^A|B3|]`,
    closings: 'ococ',
  },
  {
    name: 'Flat Country',
    why: 'a minor tune with its leading note raised',
    key: 'Gm',
    music: `|:¶G2BA G2D2|G2Bd g2d2|e2cA d2B2|A4 D4|§G2BA G2D2|G2Bd g2d2|e2cA ^F2A2|G4 G4:|`,
    closings: 'oc',
    relations: { 2: ['same-but-ending', 1] },
  },
  // Fermatas and breaths.
  {
    name: 'Lamp at the Landing, four lines',
    why: 'a fermata on the last note of each line, though it is no longer than others',
    key: 'Dm',
    unit: '1/4',
    music: `¶D|DEFD|GF!fermata!E§E|FGAF|GA!fermata!F§A|BAGF|GF!fermata!E§A|FGE^C|D3|]`,
  },
  {
    name: 'Long Lines under a Fermata',
    why: 'lines of three bars, ended by fermatas',
    key: 'G',
    unit: '1/4',
    music: `¶GABG|cBAB|A2!fermata!G2|§Bcde|dcBA|B2!fermata!A2|§GABG|cBAF|A2!fermata!G2|]`,
  },
  {
    name: 'Breath after the Fifth Bar',
    why: 'the breaths are marked, five bars each',
    key: 'D',
    metre: '3/4',
    unit: '1/4',
    music: `¶D2E|F2G|A2B|A2G|!breath!F3|§E2F|G2A|B2G|F2E|!breath!E3|§D2E|F2A|G2F|E2C|D3|]`,
  },
  // Sameness.
  {
    name: 'Other Shoes, polka',
    why: 'the middle stays, both ends are others',
    key: 'G',
    metre: '2/4',
    music: `|:¶GABd|e2d2|BAGB|A2D2|§d2Bd|e2d2|BAGB|AFG2:|`,
    relations: { 2: ['same-but-ends', 1] },
  },
  {
    name: 'Other Hats, jig',
    why: 'the middle stays, both ends are others',
    key: 'D',
    metre: '6/8',
    music: `|:¶DFA d2A|B2G A2F|G2E F2D|E3 A,3|§FAd f2d|B2G A2F|G2E F2D|EFE D3:|`,
    relations: { 2: ['same-but-ends', 1] },
  },
  {
    name: 'Knots in a Row, syncopated',
    why: 'one rhythm with ties across the beats, other notes',
    key: 'G',
    music: `¶G2B3d-d2|c3A-A2F2|G2B3d-d2|A4 z4|§A2c3e-e2|d3B-B2G2|c2A3F-F2|G4 z4|]`,
    relations: { 2: ['same-rhythm', 1] },
  },
  {
    name: 'The Same Harbour',
    why: 'only the last held note is common, and the rhythm',
    key: 'D',
    music: `¶D2FA d2cB|A2FD G2FE|F2AF E2CE|D8-|D8|§f2ed B2AF|g2fe c2BA|d2BG A2GE|D8-|D8|]`,
    relations: { 2: ['same-rhythm', 1] },
  },
  {
    name: 'Eight Bars Twice, written out',
    why: 'a phrase that is the same has no new bars',
    key: 'G',
    metre: '6/8',
    music: `¶G2B d2B|c2A F2A|G2B d2g|e3 d3|§G2B d2B|c2A F2A|G2B d2g|e3 d3|]`,
    relations: { 2: ['same', 1] },
    newBars: 4,
  },
  // Bars of other metres.
  {
    name: 'A Short Bar Before the Turn',
    why: 'bars are counted by their lines: four and four',
    key: 'G',
    unit: '1/4',
    music: `¶GABG|cBAG|[M:2/4]AB|[M:4/4]A4|§GABG|cBAG|[M:2/4]AF|[M:4/4]G4|]`,
    sizes: [4, 4],
    relations: { 2: ['same-but-ending', 1] },
  },
  {
    name: 'Threes and Twos',
    why: 'two metres in turn, four bars a phrase',
    key: 'D',
    metre: '3/4',
    unit: '1/4',
    music: `¶D2F|[M:2/4]A2|[M:3/4]G2E|[M:2/4]A2|[M:3/4]§D2F|[M:2/4]A2|[M:3/4]G2C|[M:2/4]D2|]`,
    sizes: [4, 4],
    relations: { 2: ['same-but-ending', 1] },
  },
  // Order of playing.
  {
    name: 'Back to the Start, plainly',
    why: 'a Fine ends the second round, though the sign is a plain D.C.',
    key: 'G',
    metre: '3/4',
    unit: '1/4',
    music: `|:¶G2A|B2c|d2B|A3|§G2A|B2c|A2F|!fine!G3:|¶e2d|c2B|A2G|F3|§e2d|c2B|A2F|!D.C.!D3|]`,
    letters: 'AABA',
  },
  // Kinds that were right, and must stay.
  {
    name: 'Lines for the Choir',
    why: 'the lines of the words: two bars each',
    key: 'G',
    unit: '1/4',
    music: `¶D|GGAB|AGA§D|GABd|A3§d|edBA|GAB§A|BAGF|G3|]
w: We walk be-side the shore to-day, the sand is cold and wet. The boats lie safe a-long the quay, no sail is hoist-ed yet.`,
  },
  {
    name: 'Snaps, strathspey',
    why: 'four and four, in both parts',
    key: 'A',
    music: `|:¶A<Ac>e a2e>c|d>fe>c B2c>d|A<Ac>e a2e>c|B<Ge>B A4|§A<Ac>e a2e>c|d>fe>c B2c>d|e<cd>B c<Ae>c|B<Ge>B A4:|:¶a>ec<e a>ec>a|b>fd<f b2g>e|a>ec<e a>ec>A|B<Ge>B A4|§a>ec<e a>ec>a|b>fd<f b2g>e|c'>af<d e<ac>A|B<Ge>B A4:|`,
    relations: { 2: ['same-but-ending', 1] },
  },
  {
    name: 'Song with a Bridge',
    why: 'eight bars, again, a bridge, again: four parts',
    key: 'C',
    unit: '1/4',
    music: `¶G2AB|c2BA|G2EC|D4|§E2FG|A2GF|E2D2|C4|¶G2AB|c2BA|G2EC|D4|§E2FG|A2GF|E2D2|C4|¶e2dc|B2AG|d2cB|A4|§f2ed|c2BA|B2^F2|G4|¶G2AB|c2BA|G2EC|D4|§E2FG|A2GF|E2D2|C4|]`,
    letters: 'AABA',
  },
  {
    name: 'Eight and Sixteen',
    why: 'the second part is twice as long',
    key: 'D',
    metre: '6/8',
    music: `|:¶d2A F2A|B2G E2G|d2A F2A|G2E C2E|§d2A F2A|B2G E2G|A2F E2C|D3 D3:|:¶f2d a2f|g2e b2g|f2d a2f|e3 c3|§f2d a2f|g2e b2g|a2f g2e|d3 d3|§d2A F2A|B2G E2G|d2A F2A|G2E C2E|§d2A F2A|B2G E2G|A2F E2C|D3 D3:|`,
    letters: 'AABB',
  },
  {
    name: 'Seven Eighths',
    why: 'four and four in an uneven metre',
    key: 'Am',
    metre: '7/8',
    music: `|:¶A2cBA2B|c2edc2d|e2dcB2c|d2cBG3|§A2cBA2B|c2edc2d|e2dcB2G|A4A3:|`,
    relations: { 2: ['same-but-ending', 1] },
  },
  {
    name: 'Sand Running, study in sixteenths',
    why: 'no note is longer; what comes again says where',
    key: 'G',
    unit: '1/16',
    music: `¶GABcdBGB cABcAFDF|GABcdBGB AFGAFDEF|GABcdBGB cABcAFDF|EGcGFADF G4G4|§BcdefdBd ecdecAFA|BcdefdBd cABcAFDF|BcdefdBd ecdecAFA|Gceg fdAF G4G4|]`,
  },
  {
    name: 'Minuet for Two Chairs',
    why: 'eight and eight, four bars each',
    key: 'G',
    metre: '3/4',
    music: `|:¶d2GABc|d2G2G2|e2cdef|g2G2G2|§c2dcBA|B2cBAG|F2GABG|A6:|:¶b2gabg|a2defd|g2efgd|c2BcA2|§DEFGAB|c2B2A2|B2AGF2|G6:|`,
    letters: 'AABB',
  },
];

export const FORM_KINDS: readonly FormKind[] = [...GIVEN, ...OWN].map(made);
export const GIVEN_FORMS = GIVEN.length;

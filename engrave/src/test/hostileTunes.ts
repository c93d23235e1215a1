/** Tunes that are hard to lay out, made to a rule: long words, thick chords, many verses, tuplets, changes of metre, long titles. */

const METRES = [
  { metre: '4/4', beats: 4, other: '3/4' },
  { metre: '3/4', beats: 3, other: '4/4' },
  { metre: '6/8', beats: 2, other: '9/8' },
  { metre: '2/2', beats: 4, other: '6/8' },
  { metre: '5/4', beats: 5, other: '2/4' },
] as const;
const KEYS = ['C', 'Bb', 'Ab', 'F#', 'Dm', 'C#m', 'Gb'] as const;
const SCALE = ['G', 'A', 'B', 'c', 'd', 'e', 'f', 'g', 'a', 'b'] as const;
const CHORDS = ['Bbmaj7#11/D', 'F#m7b5', 'Ebsus4add9', 'C#dim7/G#', 'Abm6/9', 'D7#9', 'Gbmaj9', 'B7b13/D#'] as const;
/** What fills a beat, in eighths: a quarter, eighths, sixteenths, a triplet, five in the time of four, graces, a chord of two. */
const BEATS = [
  (at: Pick) => `${at(0)}2`,
  (at: Pick) => `${at(0)}${at(1)}`,
  (at: Pick) => `${at(0)}/${at(1)}/${at(2)}/${at(3)}/`,
  (at: Pick) => `(3${at(0)}${at(1)}${at(2)}`,
  (at: Pick) => `(5:4:5${at(0)}/${at(1)}/${at(2)}/${at(3)}/${at(4)}/`,
  (at: Pick) => `{${at(1)}${at(2)}}${at(0)}>${at(1)}`,
  (at: Pick) => `[${at(0)}${at(2)}]2`,
] as const;
const COMPOUND = [
  (at: Pick) => `${at(0)}2${at(1)}`,
  (at: Pick) => `${at(0)}${at(1)}${at(2)}`,
  (at: Pick) => `{${at(3)}}${at(0)}3`,
] as const;
type Pick = (step: number) => string;

const WORDS = [
  ['strengths', 'through', 'schooled', 'straight', 'breathed', 'scratched'],
  ['ex-traor-di-nar-i-ly', 'har-bour-mas-ter', 'un-der-stand-ing', 'thresh-old'],
  ['slow_', 'o_', 'ebb_-ing', 'tide'],
] as const;
const LONG_TITLE =
  'The Way Round by the Harbour Steps as it was Played in the Loft over the Boat Shed on Winter Evenings ';

/** How many there are; each number gives another mixture of what is hard. */
export const HOSTILE_COUNT = 64;

/** @param index from 0 */
export function hostileTune(index: number): string {
  const { metre, beats, other } = METRES[index % METRES.length]!;
  const wordy = Math.floor(index / 2) % 4;
  const chordy = index % 3;
  const bar = (number: number, compound: boolean, count: number): string =>
    Array.from({ length: count }, (_, beat) => {
      const at: Pick = (step) => SCALE[(index * 3 + number * 5 + beat * 2 + step) % SCALE.length]!;
      const kinds = compound ? COMPOUND : BEATS;
      const kind = kinds[(index + number * (1 + (index % 3)) + beat * (index % 4)) % kinds.length]!;
      const chord =
        chordy === 2 || (chordy === 1 && beat === 0) ? `"${CHORDS[(index + number + beat) % CHORDS.length]!}"` : '';
      return chord + kind(at);
    }).join(' ');
  const compound = metre === '6/8';
  const plain = (from: number, count: number) =>
    Array.from({ length: count }, (_, each) => bar(from + each, compound, beats)).join(' | ');
  const changed = `[M:${other}] ${bar(9, other.endsWith('8'), Number(other[0]) / (other.endsWith('8') ? 3 : 1))} | [M:${metre}] ${plain(10, 1)}`;
  const sung = wordy === 0 ? [] : Array.from({ length: wordy }, (_, verse) => verseOf(index + verse));
  const withWords = (music: string) => [music, ...sung].join('\n');
  return [
    'X:1',
    `T:${titleOf(index)}`,
    ...(index % 5 === 0 ? [`C:${LONG_TITLE}`] : []),
    `M:${metre}`,
    'L:1/8',
    `K:${KEYS[index % KEYS.length]!}`,
    withWords(`|: ${plain(0, 4)} :|`),
    withWords(
      index % 2 === 0 ? `|: ${plain(4, 3)} |1 ${plain(7, 1)} :|2 ${plain(8, 1)} |]` : `${plain(4, 2)} | ${changed} |]`,
    ),
    '',
  ].join('\n');
}

const verseOf = (index: number): string => {
  const words = WORDS[index % WORDS.length]!;
  return `w: ${Array.from({ length: 24 }, (_, at) => words[at % words.length]!).join(' ')}`;
};

function titleOf(index: number): string {
  switch (index % 8) {
    case 3:
      return LONG_TITLE.repeat(3).slice(0, 300);
    case 5:
      return 'Harbourmasterslanternlightersdaughterswedding'.repeat(3);
    case 7:
      return `${LONG_TITLE}Ⅻ и другие`;
    default:
      return `Hard to lay out, ${index + 1}`;
  }
}

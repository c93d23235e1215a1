/** MusicXML's names for ornaments, articulations and technical signs: one table, read in both directions. */
import type { Decoration } from '../../music/index.ts';

interface SignRow {
  readonly sign: Decoration;
  readonly group: 'ornaments' | 'articulations' | 'technical' | 'plain';
  readonly xml: string;
  /** Text of an `other-…` element. */
  readonly text?: string;
  /** Elements that mean the same to a player's hands. */
  readonly also?: readonly string[];
}

export const SIGNS: readonly SignRow[] = [
  { sign: 'trill', group: 'ornaments', xml: 'trill-mark' },
  {
    sign: 'turn',
    group: 'ornaments',
    xml: 'turn',
    also: ['delayed-turn', 'inverted-turn', 'delayed-inverted-turn', 'vertical-turn'],
  },
  { sign: 'mordent', group: 'ornaments', xml: 'mordent' },
  { sign: 'inverted-mordent', group: 'ornaments', xml: 'inverted-mordent' },
  { sign: 'roll', group: 'ornaments', xml: 'other-ornament', text: 'roll' },
  { sign: 'staccato', group: 'articulations', xml: 'staccato', also: ['staccatissimo', 'spiccato'] },
  { sign: 'tenuto', group: 'articulations', xml: 'tenuto', also: ['detached-legato'] },
  { sign: 'accent', group: 'articulations', xml: 'accent' },
  { sign: 'marcato', group: 'articulations', xml: 'strong-accent' },
  { sign: 'breath', group: 'articulations', xml: 'breath-mark', also: ['caesura'] },
  { sign: 'slide', group: 'articulations', xml: 'scoop' },
  { sign: 'harmonic', group: 'technical', xml: 'harmonic' },
  { sign: 'snap-pizzicato', group: 'technical', xml: 'snap-pizzicato' },
  { sign: 'pizzicato', group: 'technical', xml: 'other-technical', text: 'left-hand pizzicato', also: ['stopped'] },
  { sign: 'fermata', group: 'plain', xml: 'fermata' },
];

/** The sign that an element stands for, if it is one of ours. */
export function signOf(group: string, xml: string, text: string): Decoration | null {
  const row = SIGNS.find(
    (other) =>
      other.group === group &&
      ((other.xml === xml && (other.text === undefined || other.text === text.trim().toLowerCase())) ||
        other.also?.includes(xml)),
  );
  return row?.sign ?? null;
}

/** Chord symbols as MusicXML harmony, in both directions. */
import { Chord } from 'tonal';
import { child, numberOf, textOf, type XmlElement } from './tree.ts';
import { el, type XmlNode } from './xml.ts';

/** tonal's chord types, the kinds of MusicXML, and how each is written after the root. */
const KINDS: readonly { readonly type: string; readonly kind: string; readonly text: string }[] = [
  { type: 'major', kind: 'major', text: '' },
  { type: 'minor', kind: 'minor', text: 'm' },
  { type: 'dominant seventh', kind: 'dominant', text: '7' },
  { type: 'major seventh', kind: 'major-seventh', text: 'maj7' },
  { type: 'minor seventh', kind: 'minor-seventh', text: 'm7' },
  { type: 'diminished', kind: 'diminished', text: 'dim' },
  { type: 'diminished seventh', kind: 'diminished-seventh', text: 'dim7' },
  { type: 'half-diminished', kind: 'half-diminished', text: 'm7b5' },
  { type: 'augmented', kind: 'augmented', text: 'aug' },
  { type: 'suspended fourth', kind: 'suspended-fourth', text: 'sus4' },
  { type: 'suspended second', kind: 'suspended-second', text: 'sus2' },
  { type: 'sixth', kind: 'major-sixth', text: '6' },
  { type: 'minor sixth', kind: 'minor-sixth', text: 'm6' },
  { type: 'dominant ninth', kind: 'dominant-ninth', text: '9' },
  { type: 'major ninth', kind: 'major-ninth', text: 'maj9' },
  { type: 'minor ninth', kind: 'minor-ninth', text: 'm9' },
  { type: 'fifth', kind: 'power', text: '5' },
];

const ROOT = /^([A-G])(#{1,2}|b{1,2})?(.*)$/;

/** A symbol starts with the letter of its root; anything else is no chord symbol. */
export const isChordSymbol = (symbol: string): boolean => ROOT.test(symbol);

export function harmony(symbol: string): XmlNode {
  const { upper, bass } = splitBass(symbol);
  const [, letter, sign = '', text = ''] = ROOT.exec(upper) ?? [];
  if (!letter) {
    return el('direction', { placement: 'above' }, el('direction-type', {}, el('words', {}, symbol)));
  }
  const type = Chord.get(upper).type;
  const kind = KINDS.find((row) => row.type === type)?.kind ?? 'other';
  return el(
    'harmony',
    {},
    note('root', letter + sign),
    el('kind', { text }, kind),
    bass === null ? null : note('bass', bass),
  );
}

function splitBass(symbol: string): { readonly upper: string; readonly bass: string | null } {
  const [, upper = symbol, bass = null] = /^(.*)\/([A-G](?:#{1,2}|b{1,2})?)$/.exec(symbol) ?? [];
  return { upper, bass };
}

function note(name: 'root' | 'bass', pitchClass: string): XmlNode {
  const sign = pitchClass.slice(1);
  const alter = sign.startsWith('#') ? sign.length : -sign.length;
  return el(name, {}, el(`${name}-step`, {}, pitchClass[0]), alter !== 0 ? el(`${name}-alter`, {}, alter) : null);
}

/** @returns the symbol as text, null for "no chord" and for harmonies that have no letter */
export function readHarmony(element: XmlElement): string | null {
  const root = pitchClass(element, 'root');
  const kind = child(element, 'kind');
  if (!root || kind?.text === 'none') return null;
  const written = kind?.attributes['text'];
  const text = written ?? KINDS.find((row) => row.kind === kind?.text)?.text ?? '';
  const bass = pitchClass(element, 'bass');
  return `${root}${text}${bass ? `/${bass}` : ''}`;
}

function pitchClass(element: XmlElement, name: 'root' | 'bass'): string | null {
  const letter = textOf(element, name, `${name}-step`);
  if (!/^[A-G]$/.test(letter)) return null;
  // Files may claim any number; no root is altered by more than two semitones.
  const alter = Math.max(-2, Math.min(2, Math.round(numberOf(element, name, `${name}-alter`) ?? 0)));
  return letter + (alter > 0 ? '#' : 'b').repeat(Math.abs(alter));
}

/** Chord symbols as MusicXML harmony; what names no chord is printed as words. */
import { Chord } from 'tonal';
import { el, type XmlNode } from './xml.ts';

/** tonal's chord types and the kinds of MusicXML. */
const KINDS: Readonly<Record<string, string>> = {
  major: 'major',
  minor: 'minor',
  'dominant seventh': 'dominant',
  'major seventh': 'major-seventh',
  'minor seventh': 'minor-seventh',
  diminished: 'diminished',
  'diminished seventh': 'diminished-seventh',
  'half-diminished': 'half-diminished',
  augmented: 'augmented',
  'suspended fourth': 'suspended-fourth',
  'suspended second': 'suspended-second',
  sixth: 'major-sixth',
  'minor sixth': 'minor-sixth',
  'dominant ninth': 'dominant-ninth',
  'major ninth': 'major-ninth',
  'minor ninth': 'minor-ninth',
  fifth: 'power',
};

export function harmony(symbol: string): XmlNode {
  const [upper = '', bass] = symbol.split('/');
  const chord = Chord.get(upper);
  const kind = KINDS[chord.type];
  if (!chord.tonic || !kind) {
    return el('direction', { placement: 'above' }, el('direction-type', {}, el('words', {}, symbol)));
  }
  const text = upper.slice(chord.tonic.length);
  return el(
    'harmony',
    {},
    note('root', chord.tonic),
    el('kind', { text }, kind),
    bass && /^[A-G][#b]?$/.test(bass) ? note('bass', bass) : null,
  );
}

function note(name: 'root' | 'bass', pitchClass: string): XmlNode {
  const alter = pitchClass.endsWith('#') ? 1 : pitchClass.endsWith('b') ? -1 : 0;
  return el(name, {}, el(`${name}-step`, {}, pitchClass[0]), alter !== 0 ? el(`${name}-alter`, {}, alter) : null);
}

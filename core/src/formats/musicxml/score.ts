/** A score as parts of measures, whichever way round the file has them; what the parts are called. */
import { child, children, numberOf, textOf, type XmlElement } from './tree.ts';

export interface ScorePart {
  readonly id: string;
  readonly name: string;
  readonly measures: readonly XmlElement[];
}

/** One line of music to choose: a voice of a part. */
export interface VoiceChoice {
  readonly name: string;
  readonly part: number;
  /** MusicXML's own name of the voice. */
  readonly voice: string;
  readonly notes: number;
}

/** Parts in the order of the part list; `score-timewise` is turned round. */
export function partsOf(score: XmlElement): readonly ScorePart[] {
  const names = new Map(
    children(child(score, 'part-list') ?? score, 'score-part').map((part) => [
      part.attributes['id'] ?? '',
      textOf(part, 'part-name') || textOf(part, 'part-abbreviation'),
    ]),
  );
  const measures = score.name === 'score-timewise' ? turned(score) : partwise(score);
  return [...measures].map(([id, list], index) => ({
    id,
    name: names.get(id)?.trim() || `Part ${index + 1}`,
    measures: list,
  }));
}

function partwise(score: XmlElement): ReadonlyMap<string, readonly XmlElement[]> {
  return new Map(
    children(score, 'part').map((part, index) => [
      part.attributes['id'] ?? `part-${index + 1}`,
      children(part, 'measure'),
    ]),
  );
}

function turned(score: XmlElement): ReadonlyMap<string, readonly XmlElement[]> {
  const parts = new Map<string, XmlElement[]>();
  for (const measure of children(score, 'measure')) {
    children(measure, 'part').forEach((part, index) => {
      const id = part.attributes['id'] ?? `part-${index + 1}`;
      const list = parts.get(id) ?? [];
      // The measure's own attributes go on holding for each part's share of it.
      list.push({ ...part, name: 'measure', attributes: { ...measure.attributes } });
      parts.set(id, list);
    });
  }
  return parts;
}

/** All voices that have notes, in the order of the score. */
export function voicesOf(parts: readonly ScorePart[]): readonly VoiceChoice[] {
  return parts.flatMap((part, index) => {
    const counts = new Map<string, number>();
    const tablature = tablatureStaves(part);
    for (const measure of part.measures) {
      for (const note of children(measure, 'note')) {
        if (!child(note, 'pitch') || child(note, 'chord') || tablature.has(numberOf(note, 'staff') ?? 1)) continue;
        const voice = voiceOf(note);
        counts.set(voice, (counts.get(voice) ?? 0) + 1);
      }
    }
    return [...counts].map(([voice, notes], number) => ({
      name: counts.size === 1 ? part.name : `${part.name}, voice ${number + 1}`,
      part: index,
      voice,
      notes,
    }));
  });
}

/** A note without a voice belongs to the first; the same number on another staff is another voice. */
export function voiceOf(note: XmlElement): string {
  const staff = numberOf(note, 'staff') ?? 1;
  return `${textOf(note, 'voice') || '1'}${staff > 1 ? `/${staff}` : ''}`;
}

/** Staves in tablature say again what another staff says, so they are no voices to choose. */
function tablatureStaves(part: ScorePart): ReadonlySet<number> {
  const clefs = part.measures
    .flatMap((measure) => children(measure, 'attributes'))
    .flatMap((attributes) => children(attributes, 'clef'));
  const tab = clefs
    .filter((clef) => textOf(clef, 'sign') === 'TAB')
    .map(({ attributes }) => Number(attributes['number'] ?? 1));
  return new Set(tab);
}

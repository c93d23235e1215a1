/**
 * A second pair of eyes: reads an exported MusicXML note by note against a contract. It shares no code with the search
 * or with the check of the core: what it knows, it reads from the file.
 */
import { XMLParser } from 'fast-xml-parser';
import type { Limits } from '../grade/index.ts';

type Xml = Record<string, unknown>;
const list = (value: unknown): readonly Xml[] =>
  (value === undefined ? [] : Array.isArray(value) ? value : [value]) as Xml[];
const STEPS: Readonly<Record<string, number>> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };
const SHARPS = ['F', 'C', 'G', 'D', 'A', 'E', 'B'];
/** Quarters of each written type. */
const TYPES: Readonly<Record<string, number>> = {
  whole: 4,
  half: 2,
  quarter: 1,
  eighth: 0.5,
  '16th': 0.25,
  '32nd': 0.125,
};

/** Rules that the file breaks, of those that can be read from it. */
export function brokenIn(xml: string, limits: Limits): ReadonlySet<string> {
  const parser = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '@', parseTagValue: false });
  const score = (parser.parse(xml) as Xml)['score-partwise'] as Xml;
  const [part] = list(score['part']);
  const broken = new Set<string>();
  const strings = new Set<string>();
  const midis: number[] = [];
  let divisions = 1;
  let beats = 4;
  let unit = 4;
  let fifths = 0;
  let inSlur = 0;
  let slurDepth = 0;
  list(part!['measure']).forEach((measure, index) => {
    for (const attributes of list(measure['attributes'])) {
      divisions = Number(attributes['divisions'] ?? divisions);
      const time = attributes['time'] as Xml | undefined;
      if (time) [beats, unit] = [Number(time['beats']), Number(time['beat-type'])];
      const key = attributes['key'] as Xml | undefined;
      if (key) fifths = Number(key['fifths'] ?? 0);
      if (limits.signature && (fifths > limits.signature.sharps || -fifths > limits.signature.flats))
        broken.add('signature');
    }
    const altered = new Map(
      fifths >= 0
        ? SHARPS.slice(0, fifths).map((letter) => [letter, 1])
        : SHARPS.toReversed()
            .slice(0, -fifths)
            .map((letter) => [letter, -1]),
    );
    let length = 0;
    let notes = 0;
    for (const note of list(measure['note'])) {
      if (note['grace'] !== undefined) {
        if (!limits.graces) broken.add('graces');
        continue;
      }
      const quarters = Number(note['duration']) / divisions;
      const chord = note['chord'] !== undefined;
      if (!chord) length += quarters;
      if (note['rest'] !== undefined) {
        if (!limits.rests && note['@print-object'] !== 'no') broken.add('rests');
        continue;
      }
      notes += 1;
      if (chord && limits.doubleStops === 'none') broken.add('doubleStops');
      const written = TYPES[String(note['type'])] ?? quarters;
      if (limits.shortest !== null && written < limits.shortest) broken.add('shortest');
      if (note['time-modification'] !== undefined && !limits.triplets) broken.add('triplets');
      const compound = unit === 8 && beats % 3 === 0 && beats > 3;
      const beat = compound ? 1.5 : 4 / unit;
      const whole = (share: number) => Math.abs(share - Math.round(share)) < 1e-9;
      const plain = whole(quarters / beat) || whole(beat / quarters) || (compound && whole(quarters / 0.5));
      if (!plain && note['time-modification'] === undefined && !limits.dotted) broken.add('dotted');
      if (list(note['tie']).length > 0 && !limits.ties) broken.add('ties');
      const pitch = note['pitch'] as Xml;
      const letter = String(pitch['step']);
      const alter = Number(pitch['alter'] ?? 0);
      midis.push(12 * (Number(pitch['octave']) + 1) + STEPS[letter]! + alter);
      if (limits.accidentals === 0 && alter !== (altered.get(letter) ?? 0)) broken.add('accidentals');
      for (const notations of list(note['notations'])) {
        const technical = (notations['technical'] ?? {}) as Xml;
        for (const fingering of list(technical['fingering'])) {
          const finger = Number(typeof fingering === 'object' ? fingering['#text'] : fingering);
          if (limits.fingers && !limits.fingers.includes(finger as 0)) broken.add('fingers');
        }
        for (const string of list(technical['string'])) strings.add(String(string));
        for (const slur of list(notations['slur'])) {
          if (slur['@type'] === 'start') slurDepth += 1;
          if (slur['@type'] === 'stop') slurDepth -= 1;
        }
        if (notations['slide'] !== undefined && !limits.slides) broken.add('slides');
      }
      const held = list(note['tie']).some((tie) => tie['@type'] === 'stop');
      if (!chord && !held) inSlur = slurDepth > 0 ? inSlur + 1 : inSlur > 0 ? inSlur + 1 : 1;
      if (slurDepth === 0) {
        if (limits.maxSlur !== null && inSlur > limits.maxSlur) broken.add('maxSlur');
        inSlur = 0;
      }
    }
    if (index === 0 && length < (beats * 4) / unit - 1e-9 && notes > 0 && !limits.pickup) broken.add('pickup');
  });
  if (limits.strings !== null && strings.size > limits.strings) broken.add('strings');
  if (limits.range !== null && midis.length > 0 && Math.max(...midis) - Math.min(...midis) > limits.range)
    broken.add('range');
  return broken;
}
/** The rules that `brokenIn` reads. */
export const READ_RULES = [
  'signature',
  'graces',
  'rests',
  'doubleStops',
  'shortest',
  'triplets',
  'dotted',
  'ties',
  'accidentals',
  'fingers',
  'slides',
  'maxSlur',
  'pickup',
  'strings',
  'range',
] as const;

/** MusicXML 3.1 and 4.0 in: one voice of a score as a tune, with what could not be carried over. */
import type { Tune } from '../../music/index.ts';
import { finished, keepable } from '../finish.ts';
import { Notices } from '../notices.ts';
import { placeFinder } from '../places.ts';
import type { ReadResult } from '../problem.ts';
import { readWay } from './directions.ts';
import { partsOf, voicesOf, type ScorePart } from './score.ts';
import { child, children, parseXml, textOf, type XmlElement } from './tree.ts';
import { readVoice } from './voice.ts';

export interface MusicXmlReading {
  readonly tune: Tune;
  /** Names of all voices that have notes, for choosing. */
  readonly voices: readonly string[];
  /** Name of the part that was taken: a hint at its instrument. */
  readonly partName: string;
}

export interface MusicXmlOptions {
  /** Which voice of `voices`, from 1. */
  readonly voice?: number;
}

/**
 * Reads one voice of a partwise or timewise score.
 *
 * @returns the tune with notices, or the problems that keep it from being read
 * @example readMusicXml(writeMusicXml(reel)).value.tune.bars.length // 4
 */
export function readMusicXml(source: string, { voice = 1 }: MusicXmlOptions = {}): ReadResult<MusicXmlReading> {
  const parsed = parseXml(source);
  if (!parsed.ok) return parsed;
  const score = parsed.value;
  if (score.name !== 'score-partwise' && score.name !== 'score-timewise') {
    return fail(
      `This is XML, but no music: it begins with <${score.name.slice(0, 40)}>.`,
      'Export the tune as MusicXML (.musicxml or .mxl) and try again.',
    );
  }
  const parts = partsOf(score);
  const voices = voicesOf(parts);
  if (voices.length === 0) {
    return fail('No notes were found in this score.', 'Check that the part you need was exported with its notes.');
  }
  const chosen = voices[voice - 1];
  if (!chosen) {
    return fail(
      `The score has ${voices.length} ${voices.length === 1 ? 'voice' : 'voices'}; there is no voice ${voice}.`,
      'Choose another one.',
    );
  }
  const part = parts[chosen.part]!;
  const notices = new Notices();
  const own = fromNokta(score);
  const read = readVoice(part, chosen.voice, { notices, place: placeFinder(source), keepIds: own });
  const field = (name: string) => fields(score, name);
  const tune: Tune = {
    title: textOf(score, 'work', 'work-title') || textOf(score, 'movement-title') || credit(score) || 'Untitled',
    alsoKnownAs: field('also-known-as'),
    composer: creators(score),
    origin: field('origin')[0] ?? '',
    style: field('style')[0] ?? '',
    notes: [...field('note'), ...sourceNote(score)],
    tempo: read.tempo,
    bars: read.bars,
    slurs: read.slurs,
    ...(isBassAtPitch(part) && { clef: 'bass' }),
  };
  const end = finished(tune, notices.all());
  if (!end.ok) return end;
  return {
    ok: true,
    value: { tune: end.value, voices: voices.map(({ name }) => keepable(name)), partName: part.name },
    notices: end.notices,
  };
}

/** The part begins in a bass clef and sounds as it is written. */
function isBassAtPitch({ measures }: ScorePart): boolean {
  const first = measures.flatMap((measure) => children(measure, 'attributes'));
  const clef = first.flatMap((attributes) => children(attributes, 'clef'))[0];
  const transposed = first.some((attributes) => children(attributes, 'transpose').length > 0);
  return !transposed && clef !== undefined && textOf(clef, 'sign') === 'F' && !textOf(clef, 'clef-octave-change');
}

function fail(
  message: string,
  remedy: string,
): { ok: false; problems: { severity: 'error'; message: string; remedy: string; line: number; column: number }[] } {
  return { ok: false, problems: [{ severity: 'error', message, remedy, line: 1, column: 1 }] };
}

/** Our own files carry note ids that can be taken over. */
function fromNokta(score: XmlElement): boolean {
  const encoding = child(score, 'identification', 'encoding');
  return encoding !== undefined && children(encoding, 'software').some(({ text }) => text === 'Nokta');
}

function creators(score: XmlElement): string {
  const identification = child(score, 'identification');
  const all = (identification ? children(identification, 'creator') : []).filter(({ text }) => text !== '');
  // Some programs print the composer's name on the page alone.
  if (all.length === 0) return creditOf(score, 'composer');
  const composers = all.filter(({ attributes }) => (attributes['type'] ?? 'composer') === 'composer');
  return (composers.length > 0 ? composers : all).map(({ text }) => text).join(', ');
}

function sourceNote(score: XmlElement): readonly string[] {
  const source = textOf(score, 'identification', 'source');
  return source ? [`Source: ${source}`] : [];
}

/** Words on the page of a kind: title, composer. */
function creditOf(score: XmlElement, type: string): string {
  const found = children(score, 'credit').find((one) => textOf(one, 'credit-type') === type);
  return found
    ? children(found, 'credit-words')
        .map(({ text }) => text)
        .join(' ')
        .trim()
    : '';
}

/** Titles that stand on the page alone, as some programs export them. */
function credit(score: XmlElement): string {
  const credits = children(score, 'credit');
  const untyped = credits.find((one) => textOf(one, 'credit-type') === '');
  const text = creditOf(score, 'title') || textOf(untyped, 'credit-words');
  return Object.keys(readWay(undefined, text)).length === 0 ? text : '';
}

function fields(score: XmlElement, name: string): readonly string[] {
  const miscellaneous = child(score, 'identification', 'miscellaneous');
  return miscellaneous
    ? children(miscellaneous, 'miscellaneous-field')
        .filter(({ attributes, text }) => attributes['name'] === name && text !== '')
        .map(({ text }) => text)
    : [];
}

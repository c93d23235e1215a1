/**
 * Hostile XML in, a tree with places out. No entities beyond the five of XML, a limit to size and
 * depth, and an error with line and column for what is not well formed.
 */
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { LIMITS, type Place } from '../../music/index.ts';
import { placeFinder } from '../places.ts';
import type { Problem, ReadResult } from '../problem.ts';

/** A full score of an hour's music stays below this. */
export const MAX_XML_CHARACTERS = 40_000_000;
/** Scores nest ten or twelve deep. */
const MAX_DEPTH = 60;
/** Characters of one tag with its attributes. */
const MAX_TAG = 20_000;
/** Elements of one part's measure: a cadenza of two thousand notes with all their signs stays below it. */
const MAX_IN_MEASURE = 50_000;

export interface XmlElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly XmlElement[];
  /** Own text, entities decoded, trimmed. */
  readonly text: string;
  /** Where it starts in the document. */
  readonly at: number;
}

const META = XMLParser.getMetaDataSymbol() as symbol;

export function parseXml(source: string): ReadResult<XmlElement> {
  const refused = refuse(source);
  if (refused) return { ok: false, problems: [refused] };
  const valid = XMLValidator.validate(source, { allowBooleanAttributes: true });
  if (valid !== true) {
    return refusal(
      `The XML is damaged: ${plain(valid.err.msg)}`,
      'Export the file again from the program that made it, and check that it was copied whole.',
      { line: valid.err.line, column: valid.err.col ?? 1 },
    );
  }
  const parser = new XMLParser({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: '',
    processEntities: false,
    parseTagValue: false,
    parseAttributeValue: false,
    trimValues: true,
    captureMetaData: true,
    ignoreDeclaration: true,
    ignorePiTags: true,
    cdataPropName: CDATA,
  });
  let parsed: readonly RawNode[];
  try {
    parsed = parser.parse(source) as RawNode[];
  } catch {
    // The parser is stricter than the validator in a few corners.
    return refusal('The XML is damaged.', 'Export the file again from the program that made it.', {
      line: 1,
      column: 1,
    });
  }
  const nodes = parsed.flatMap(toElement);
  const root = nodes.find(({ name }) => name !== '#text');
  return root
    ? { ok: true, value: root, notices: [] }
    : refusal('There is nothing in this XML file.', 'Export the tune again.', { line: 1, column: 1 });
}

export function children(element: XmlElement, name: string): readonly XmlElement[] {
  return element.children.filter((child) => child.name === name);
}

export function child(element: XmlElement | undefined, ...path: readonly string[]): XmlElement | undefined {
  return path.reduce<XmlElement | undefined>(
    (at, name) => at?.children.find((candidate) => candidate.name === name),
    element,
  );
}

/** Text of a descendant, empty where it is missing. */
export function textOf(element: XmlElement | undefined, ...path: readonly string[]): string {
  return child(element, ...path)?.text ?? '';
}

/** A number in a descendant's text; undefined where it is missing or is none. */
export function numberOf(element: XmlElement | undefined, ...path: readonly string[]): number | undefined {
  const text = textOf(element, ...path);
  const number = Number(text);
  return text !== '' && Number.isFinite(number) ? number : undefined;
}

type RawNode = Readonly<Record<string, unknown>> & { readonly [META]?: { readonly startIndex?: number } };

function toElement(node: RawNode): readonly XmlElement[] {
  const name = Object.keys(node).find((key) => key !== ':@');
  if (name === undefined || name === '#text' || name === CDATA) return [];
  const inner = node[name] as readonly RawNode[];
  const attributes = (node[':@'] ?? {}) as Readonly<Record<string, unknown>>;
  return [
    {
      name,
      attributes: Object.fromEntries(Object.entries(attributes).map(([key, value]) => [key, decode(String(value))])),
      children: inner.flatMap(toElement),
      text: inner.flatMap(textPieces).join(' ').trim(),
      at: node[META]?.startIndex ?? 0,
    },
  ];
}

/** Text as it is written, and text that stands for itself: nothing in it is decoded. */
const CDATA = '#cdata';

function textPieces(part: RawNode): readonly string[] {
  if ('#text' in part) return [decode(String(part['#text']))];
  const plain = part[CDATA] as readonly RawNode[] | undefined;
  return plain ? plain.map((piece) => String(piece['#text'] ?? '')) : [];
}

const ENTITIES: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };

function decode(text: string): string {
  return text.includes('&')
    ? text.replace(/&(?:#(\d{1,7})|#x([0-9a-fA-F]{1,6})|(amp|lt|gt|quot|apos));/g, (_, decimal, hex, name) =>
        name ? ENTITIES[name as string]! : codePoint(decimal ? Number(decimal) : parseInt(hex as string, 16)),
      )
    : text;
}

const codePoint = (code: number) => (code > 0 && code <= 0x10ffff ? String.fromCodePoint(code) : '\uFFFD');

function refuse(source: string): Problem | null {
  const find = placeFinder(source);
  if (source.length > MAX_XML_CHARACTERS) {
    return problem('The file is larger than any score.', 'Export only the part that you need.');
  }
  const entity = source.slice(0, 100_000).search(/<!ENTITY/i);
  if (entity >= 0) {
    return problem(
      'The file defines XML entities, which scores have no use for and which can do harm; it was not read.',
      'Export the tune again from the program that made it.',
      find(entity),
    );
  }
  const much = tooMuch(source);
  return much && problem(much.message, much.remedy, find(much.at));
}

/** What no score has, found by going through the tags once: the parser would take long over it, or need a deep stack. */
function tooMuch(source: string): { readonly message: string; readonly remedy: string; readonly at: number } | null {
  let [depth, elements, measures] = [0, 0, 0];
  for (let at = source.indexOf('<'); at >= 0; at = source.indexOf('<', at + 1)) {
    const next = source.charCodeAt(at + 1);
    if (next === 0x21 || next === 0x3f) continue;
    if (next === 0x2f) {
      depth -= 1;
      continue;
    }
    const end = source.indexOf('>', at);
    if (end < 0) return null;
    if (source.charCodeAt(end - 1) !== 0x2f) depth += 1;
    elements += 1;
    if (next === M || next === P) {
      const [name] = TAG.exec(source.slice(at + 1, at + 10)) ?? [''];
      if (name === 'measure' || name === 'part') elements = 0;
      if (name === 'part') measures = 0;
      if (name === 'measure') measures += 1;
    }
    const again = 'Export the tune again.';
    if (depth > MAX_DEPTH) return { message: 'The XML is nested deeper than any score.', remedy: again, at };
    if (end - at > MAX_TAG) return { message: 'A tag is longer than any of a score.', remedy: again, at };
    if (elements > MAX_IN_MEASURE)
      return {
        message: `A bar holds more than ${MAX_IN_MEASURE.toLocaleString('en')} signs.`,
        remedy: 'Write bar lines in the program it comes from.',
        at,
      };
    if (measures > LIMITS.bars)
      return {
        message: `The score has more than ${LIMITS.bars.toLocaleString('en')} bars.`,
        remedy: 'Export only the tune that you need.',
        at,
      };
  }
  return null;
}
const [M, P] = [0x6d, 0x70];
const TAG = /^[\w-]+/;

function problem(message: string, remedy: string, place: Partial<Place> = {}): Problem {
  return { severity: 'error', message, remedy, ...place };
}

function refusal(message: string, remedy: string, place: Partial<Place> = {}): { ok: false; problems: Problem[] } {
  return { ok: false, problems: [problem(message, remedy, place)] };
}

/** The validator's words without its quoting of whole tags. */
const plain = (message: string) => message.replace(/\s+/g, ' ').slice(0, 160);

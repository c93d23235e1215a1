/**
 * Hostile XML in, a tree with places out. No entities beyond the five of XML, a limit to size and
 * depth, and an error with line and column for what is not well formed.
 */
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import type { Place } from '../../music/index.ts';
import type { Problem, ReadResult } from '../problem.ts';

/** A full score of an hour's music stays below this. */
export const MAX_XML_CHARACTERS = 40_000_000;
/** Scores nest ten or twelve deep. */
const MAX_DEPTH = 60;

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

/** Turns character places into lines and columns. */
export function placeFinder(source: string): (at: number) => Place {
  const starts = [0];
  for (let at = source.indexOf('\n'); at >= 0; at = source.indexOf('\n', at + 1)) starts.push(at + 1);
  return (at) => {
    let low = 0;
    let high = starts.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (starts[middle]! <= at) low = middle;
      else high = middle - 1;
    }
    return { line: low + 1, column: at - starts[low]! + 1 };
  };
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
  const deep = tooDeep(source);
  return deep === null
    ? null
    : problem('The XML is nested deeper than any score.', 'Export the tune again.', find(deep));
}

/** Where nesting passes the limit; the parser itself would need a stack as deep. */
function tooDeep(source: string): number | null {
  let depth = 0;
  for (let at = source.indexOf('<'); at >= 0; at = source.indexOf('<', at + 1)) {
    const next = source.charCodeAt(at + 1);
    if (next === 0x21 || next === 0x3f) continue;
    if (next === 0x2f) depth -= 1;
    else {
      const end = source.indexOf('>', at);
      if (end < 0) return null;
      if (source.charCodeAt(end - 1) !== 0x2f) depth += 1;
      if (depth > MAX_DEPTH) return at;
    }
  }
  return null;
}

function problem(message: string, remedy: string, place: Partial<Place> = {}): Problem {
  return { severity: 'error', message, remedy, ...place };
}

function refusal(message: string, remedy: string, place: Partial<Place> = {}): { ok: false; problems: Problem[] } {
  return { ok: false, problems: [problem(message, remedy, place)] };
}

/** The validator's words without its quoting of whole tags. */
const plain = (message: string) => message.replace(/\s+/g, ' ').slice(0, 160);

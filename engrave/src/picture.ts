/** The engraver's picture as a tree: where its groups are, and what stands where in them. Lengths are the engraver's. */
import { XMLParser } from 'fast-xml-parser';

interface Node {
  readonly [tag: string]: readonly Node[] | Attributes | undefined;
}
type Attributes = Readonly<Record<string, string>>;

export interface Element {
  readonly tag: string;
  readonly attributes: Attributes;
  readonly children: readonly Element[];
}

const ATTRIBUTES = ':@';

const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  parseTagValue: false,
  parseAttributeValue: false,
  processEntities: false,
  ignoreDeclaration: true,
});

function elementsOf(nodes: readonly Node[]): readonly Element[] {
  return nodes.flatMap((node) => {
    const tag = Object.keys(node).find((name) => name !== ATTRIBUTES && name !== '#text');
    if (tag === undefined) return [];
    const attributes = (node[ATTRIBUTES] ?? {}) as Attributes;
    return [{ tag, attributes, children: elementsOf(node[tag] as readonly Node[]) }];
  });
}

const classesOf = ({ attributes }: Element): readonly string[] => (attributes['class'] ?? '').split(' ');

/** Groups of a class, however deep; not those within one of them. */
export function inside(element: Element, name: string): readonly Element[] {
  return element.children.flatMap((child) => (classesOf(child).includes(name) ? [child] : inside(child, name)));
}

/** Where the first sign in a group stands. */
function signIn(group: Element): { readonly x: number; readonly y: number } | null {
  const use = group.children.find(({ tag }) => tag === 'use');
  const at = /translate\(([-\d.]+),? ([-\d.]+)\)/.exec(use?.attributes['transform'] ?? '');
  return at && { x: Number(at[1]), y: Number(at[2]) };
}

const RESTS = ['rest', 'mRest'];

/** Everything with an id that has a head, and rests, with where their signs stand. */
export function headsIn(
  staff: Element,
): readonly { readonly id: string; readonly at: { readonly x: number; readonly y: number } }[] {
  return staff.children.flatMap((child) => {
    // What is not drawn has no place.
    if (child.attributes['visibility'] === 'hidden') return [];
    const id = child.attributes['id'];
    const classes = classesOf(child);
    const group = classes.includes('note')
      ? child.children.find((one) => classesOf(one).includes('notehead'))
      : classes.some((one) => RESTS.includes(one))
        ? child
        : undefined;
    const at = group && signIn(group);
    return at && id !== undefined ? [{ id, at }] : headsIn(child);
  });
}

/** Where the paths of a group begin. */
export function startOf(group: Element): readonly { readonly x: number; readonly y: number }[] {
  return group.children.flatMap(({ tag, attributes }) => {
    const at = tag === 'path' ? /^M([-\d.]+) ([-\d.]+)/.exec(attributes['d'] ?? '') : null;
    return at ? [{ x: Number(at[1]), y: Number(at[2]) }] : [];
  });
}

/** Heights of a staff's lines, from the top. */
export const staffLines = (staff: Element): readonly number[] => startOf(staff).map(({ y }) => y);

export interface Picture {
  readonly viewBox: string;
  /** What is drawn, as text. */
  readonly body: string;
  readonly defs: string;
  readonly systems: readonly Element[];
}

/** @throws where the engraver gave none */
export function pictureIn(svg: string): Picture {
  const begin = svg.indexOf('<svg class="definition-scale"');
  const from = svg.indexOf('>', begin) + 1;
  const to = svg.lastIndexOf('</svg>', svg.lastIndexOf('</svg>') - 1);
  const viewBox = /viewBox="([^"]+)"/.exec(svg.slice(begin, from))?.[1];
  if (begin < 0 || to < from || viewBox === undefined) throw new Error('The engraver gave no picture');
  const body = svg.slice(from, to);
  const defs = svg.slice(svg.indexOf('<defs>'), svg.indexOf('</defs>') + '</defs>'.length);
  const [root] = elementsOf(parser.parse(`<svg>${body}</svg>`) as readonly Node[]);
  return { viewBox, body, defs: svg.includes('<defs>') ? defs : '', systems: root ? inside(root, 'system') : [] };
}

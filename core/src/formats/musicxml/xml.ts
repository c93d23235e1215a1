/** XML as a tree of ordered nodes, printed by fast-xml-parser. */
import { XMLBuilder } from 'fast-xml-parser';

export type XmlNode = Readonly<Record<string, unknown>>;
type Child = XmlNode | string | number | false | null | undefined;
type Attributes = Readonly<Record<string, string | number | undefined>>;

/** @example el('step', {}, 'A') // { step: [{ '#text': 'A' }] } */
export function el(
  name: string,
  attributes: Attributes = {},
  ...children: readonly (Child | readonly Child[])[]
): XmlNode {
  const nodes = children.flat().flatMap((child) => {
    if (child === false || child === null || child === undefined) return [];
    return [typeof child === 'object' ? child : { '#text': String(child) }];
  });
  const given = Object.fromEntries(Object.entries(attributes).filter(([, value]) => value !== undefined));
  return { [name]: nodes, ...(Object.keys(given).length > 0 && { ':@': given }) };
}

const builder = new XMLBuilder({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  suppressEmptyNode: true,
});

/** The document, headed by an XML declaration and the given doctype. */
export function printXml(root: XmlNode, doctype: string): string {
  return `<?xml version="1.0" encoding="UTF-8"?>\n${doctype}\n${builder.build([root])}\n`;
}

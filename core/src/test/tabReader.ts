/**
 * A second reader of exported MusicXML with a tablature staff: it shares no code with the writer or with the reader of
 * the core. What each string and fret sounds, it works out from the staff's own tuning, as a program would that draws
 * nothing but tablature.
 */
import { XMLParser } from 'fast-xml-parser';

type Node = Readonly<Record<string, unknown>>;
const parser = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '@', preserveOrder: true });
const SEMITONES: Readonly<Record<string, number>> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

const nameOf = (node: Node) => Object.keys(node).find((key) => key !== ':@') ?? '';
const inside = (node: Node) => node[nameOf(node)] as readonly Node[];
const all = (nodes: readonly Node[], name: string) => nodes.filter((node) => nameOf(node) === name);
const child = (node: Node, ...path: readonly string[]): Node | undefined =>
  path.reduce<Node | undefined>((at, name) => at && all(inside(at), name)[0], node);
const textOf = (node: Node | undefined): string | undefined => {
  const text = node && inside(node)[0]?.['#text'];
  return text === undefined ? undefined : String(text);
};
const numberAt = (node: Node, ...path: readonly string[]) => Number(textOf(child(node, ...path)) ?? Number.NaN);

/** A sound of one staff: when, in quarters from the start of its bar, and which MIDI number. */
export interface Sound {
  readonly bar: number;
  readonly at: number;
  readonly quarters: number;
  readonly midi: number;
}

/** What the staff with notes says, and what the staff with frets says. */
export function staves(xml: string): { readonly notes: readonly Sound[]; readonly frets: readonly Sound[] } {
  const score = all(parser.parse(xml) as readonly Node[], 'score-partwise')[0]!;
  const measures = all(inside(all(inside(score), 'part')[0]!), 'measure');
  const [notes, frets]: [Sound[], Sound[]] = [[], []];
  const tuning = new Map<number, number>();
  let divisions = 1;
  let octaves = 0;
  measures.forEach((measure, bar) => {
    let time = 0;
    let last = 0;
    for (const node of inside(measure)) {
      switch (nameOf(node)) {
        case 'attributes': {
          divisions = Number(textOf(child(node, 'divisions')) ?? divisions);
          octaves = Number(textOf(child(node, 'transpose', 'octave-change')) ?? octaves);
          for (const details of all(inside(node), 'staff-details'))
            for (const string of all(inside(details), 'staff-tuning'))
              tuning.set(Number((string[':@'] as Node)['@line']), midiOf(string, 'tuning-'));
          break;
        }
        case 'backup':
          time -= numberAt(node, 'duration') / divisions;
          break;
        case 'forward':
          time += numberAt(node, 'duration') / divisions;
          break;
        case 'note': {
          if (child(node, 'grace')) break;
          const quarters = numberAt(node, 'duration') / divisions;
          if (!child(node, 'chord')) {
            last = time;
            time += quarters;
          }
          const technical = child(node, 'notations', 'technical');
          const fret = technical && child(technical, 'fret');
          if (fret) {
            // Lines count from below, strings from the highest.
            const string = numberAt(technical, 'string');
            const open = tuning.get(tuning.size + 1 - string)!;
            frets.push({ bar, at: last, quarters, midi: open + Number(textOf(fret)) });
          } else if (child(node, 'pitch') && (textOf(child(node, 'staff')) ?? '1') === '1') {
            notes.push({ bar, at: last, quarters, midi: midiOf(child(node, 'pitch')!, '') + 12 * octaves });
          }
          break;
        }
      }
    }
  });
  return { notes, frets };
}

function midiOf(node: Node, prefix: string): number {
  const step = SEMITONES[textOf(child(node, `${prefix}step`)) ?? 'C']!;
  const alter = Number(textOf(child(node, `${prefix}alter`)) ?? 0);
  return 12 * (numberAt(node, `${prefix}octave`) + 1) + step + alter;
}

/** How far a picture's ink reaches up and down: the engraver leaves room around it that a sheet has no use for. */

/** In staff spaces, from where a sign stands: a clef is taller than all others. */
const REACH = { clef: { up: 4.6, down: 2.8 }, other: { up: 1.7, down: 1.7 }, text: { up: 1.9, down: 0.7 } } as const;

export interface Ink {
  readonly top: number;
  readonly bottom: number;
}

const TOKEN =
  /<g\b[^>]*class="([^"]*)"[^>]*>|<use\b[^>]*transform="translate\([-\d.]+,? ([-\d.]+)\)|<path\b[^>]*\bd="([^"]*)"|<(?:polygon|polyline)\b[^>]*points="([^"]*)"|<text\b[^>]*\by="([-\d.]+)"[^>]*[^/]>/g;

/**
 * Of a picture without its words, in the engraver's units.
 * @param units in a staff space
 * @returns null where nothing is drawn
 */
export function inkOf(body: string, units: number): Ink | null {
  let [top, bottom] = [Infinity, -Infinity];
  const add = (from: number, to = from): void => {
    top = Math.min(top, from);
    bottom = Math.max(bottom, to);
  };
  const margin = Number(/class="page-margin" transform="translate\([-\d.]+,? ([-\d.]+)\)"/.exec(body)?.[1] ?? 0);
  let clef = false;
  for (const [, classes, sign, path, points, text] of body.matchAll(TOKEN)) {
    if (classes !== undefined) clef = /\bclef\b/.test(classes);
    else if (sign !== undefined) {
      const { up, down } = clef ? REACH.clef : REACH.other;
      add(Number(sign) - up * units, Number(sign) + down * units);
    } else if (path !== undefined) for (const at of heights(path)) add(at);
    else if (points !== undefined) for (const at of heights(points)) add(at);
    else add(Number(text) - REACH.text.up * units, Number(text) + REACH.text.down * units);
  }
  return bottom > top ? { top: top + margin, bottom: bottom + margin } : null;
}

/** Every second number of absolute coordinates. */
const heights = (text: string): readonly number[] =>
  [...text.matchAll(/-?\d+(?:\.\d+)?/g)].flatMap(([number], index) => (index % 2 === 1 ? [Number(number)] : []));

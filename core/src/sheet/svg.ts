/** Shapes and text as SVG for paper. */
import type { Stop } from '../hand/index.ts';
import type { FingerSigns } from '../paper/index.ts';
import type { LegendSign } from './legend.ts';
import type { Shape } from './shapes.ts';
import { fingerSign } from './signs.ts';
import { styleOf, type Ink } from './styles.ts';
import { ACCIDENTALS, textWidth, type Face } from './textWidth.ts';

export const INK = '#1d1a16';
const SOFT = '#6b6257';
const ACCENT = '#9a4a1c';
export const TEXT_FONT = 'Atkinson Hyperlegible Next';
export const TITLE_FONT = 'Fraunces';
/** Has the letters and signs that the other two lack. */
export const FALLBACK_FONT = 'DejaVu Sans';

const escapeXml = (text: string) =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/** Letters that the shipped text fonts cover: Latin with its extensions, and common punctuation. */
const COVERED =
  /^[\u0020-\u017F\u0192\u0218-\u021B\u0237\u02C6-\u02DD\u2010-\u2026\u2030\u2039\u203A\u20AC\u2122\u2212]*$/;

/** Text whose missing signs come from the fallback font; a word that lacks a letter whole, so that it is found as one. */
export function richText(text: string): string {
  const runs: { covered: boolean; text: string }[] = [];
  const add = (covered: boolean, piece: string) => {
    const last = runs.at(-1);
    if (last?.covered === covered) last.text += piece;
    else runs.push({ covered, text: piece });
  };
  for (const word of text.normalize('NFC').split(/(\s+)/)) {
    const lacking = [...word].some((letter) => /\p{L}/u.test(letter) && !COVERED.test(letter));
    if (lacking) add(false, word);
    else for (const letter of word) add(COVERED.test(letter), letter);
  }
  return runs
    .map((run) =>
      run.covered ? escapeXml(run.text) : `<tspan font-family="${FALLBACK_FONT}">${escapeXml(run.text)}</tspan>`,
    )
    .join('');
}

export interface TextOptions {
  readonly size: number;
  readonly anchor?: 'start' | 'middle' | 'end';
  readonly font?: string;
  readonly weight?: 'normal' | 'bold';
  readonly colour?: string;
}

export function textSvg(
  x: number,
  y: number,
  text: string,
  { size, anchor = 'start', font = TEXT_FONT, weight = 'normal', colour = INK }: TextOptions,
): string {
  const face: Face = font === TITLE_FONT ? 'title' : weight === 'bold' ? 'bold' : 'text';
  const placed = placedRuns(text, size, face);
  const before = placed && anchor !== 'start' ? textWidth(text, size, face) / (anchor === 'middle' ? 2 : 1) : 0;
  const said = placed
    ? placed
        .map((run) => `<tspan x="${round(x - before + run.x)}"${run.family}>${escapeXml(run.text)}</tspan>`)
        .join('')
    : richText(text);
  return `<text x="${round(x)}" y="${round(y)}" font-family="${font}" font-size="${round(size)}" font-weight="${weight}" text-anchor="${placed ? 'start' : anchor}" fill="${colour}">${said}</text>`;
}

interface PlacedRun {
  readonly x: number;
  readonly text: string;
  /** The attribute that says so, where it is not the text's own font. */
  readonly family: string;
}

/**
 * The text fonts lack sharps and flats, and another font's have room beside them that tears a name apart: each piece
 * is put to its place. Null where there is nothing to put, or letters are lacking too.
 */
function placedRuns(text: string, size: number, face: Face): readonly PlacedRun[] | null {
  const pieces = text.normalize('NFC').split(/([♭♮♯])/);
  if (pieces.length === 1 || pieces.some((piece) => !ACCIDENTALS[piece] && !COVERED.test(piece))) return null;
  let at = 0;
  return pieces.filter(Boolean).map((piece): PlacedRun => {
    const sign = ACCIDENTALS[piece];
    // A space at the beginning of what is put somewhere is not drawn.
    const spaces = piece.length - piece.trimStart().length;
    const run = {
      x: at + (sign ? sign.before * size : textWidth(' ', size, face) * spaces),
      text: piece.trimStart(),
      family: sign ? ` font-family="${FALLBACK_FONT}"` : '',
    };
    at += textWidth(piece, size, face);
    return run;
  });
}

const round = (value: number) => Math.round(value * 100) / 100;

const INKS: Readonly<Record<Ink, string>> = { ink: INK, soft: SOFT, accent: ACCENT, trouble: ACCENT };

/** One shape as printed. Text stands on its middle, as it does on the string lines. */
export function shapeSvg(shape: Shape): string {
  const drawn = drawnSvg(shape);
  // A click on the page leads back to the note.
  return 'note' in shape && shape.note ? `<g data-note="${escapeXml(shape.note)}">${drawn}</g>` : drawn;
}

function drawnSvg(shape: Shape): string {
  const style = styleOf(shape.role);
  const colour = (shape.kind === 'line' && shape.colour) || INKS[style.line.ink];
  const stroke = `stroke="${colour}" stroke-width="${(shape.kind === 'line' && shape.width) || style.line.width}"`;
  const dash = (shape.kind === 'line' ? shape.dash : undefined) ?? style.line.dash;
  const dashed = dash ? ` stroke-dasharray="${dash}"` : '';
  switch (shape.kind) {
    case 'line':
      return `<line x1="${round(shape.x1)}" y1="${round(shape.y1)}" x2="${round(shape.x2)}" y2="${round(shape.y2)}" ${stroke}${dashed}/>`;
    case 'path':
      return `<path d="${shape.d}" fill="none" ${stroke}${dashed}/>`;
    case 'dot':
      return `<circle cx="${round(shape.x)}" cy="${round(shape.y)}" r="${shape.r}" fill="${INK}"/>`;
    case 'patch':
      return `<rect x="${round(shape.x)}" y="${round(shape.y)}" width="${round(shape.width)}" height="${round(shape.height)}" fill="#ffffff"/>`;
    case 'text': {
      const { size, weight, ink } = style.text;
      return textSvg(shape.x, shape.y + size * 0.35, shape.text, {
        size,
        weight,
        colour: INKS[ink],
        anchor: shape.anchor,
      });
    }
  }
}

/** A straight line on paper. */
export function lineSvg(
  [x1, y1]: readonly [number, number],
  [x2, y2]: readonly [number, number],
  { colour = INK, width, dash = '' }: { readonly colour?: string; readonly width: number; readonly dash?: string },
): string {
  const dashed = dash && ` stroke-dasharray="${dash}"`;
  return `<line x1="${round(x1)}" y1="${round(y1)}" x2="${round(x2)}" y2="${round(y2)}" stroke="${colour}" stroke-width="${width}"${dashed}/>`;
}

/** A sign of the legend, drawn as in the lanes, about 12 wide, its middle at (x, y). */
export function legendSvg(sign: LegendSign, x: number, y: number, signs: FingerSigns): string {
  const path = (d: string, colour = INK) => `<path d="${d}" fill="none" stroke="${colour}" stroke-width="1.3"/>`;
  const digit = (text: string) => textSvg(x, y + 3.6, text, { size: 10.5, weight: 'bold', anchor: 'middle' });
  const finger = (stop: Pick<Stop, 'finger' | 'sign'>) => {
    const drawn = fingerSign(stop, 0, 0, { signs }).map(shapeSvg).join('');
    return `<g transform="translate(${round(x)} ${round(y)}) scale(0.82)">${drawn}</g>`;
  };
  switch (sign) {
    case 'down':
      return path(`M${x - 4} ${y + 4} v-8 h8 v8`);
    case 'up':
      return path(`M${x - 3.5} ${y - 4.5} l3.5 9 l3.5 -9`);
    case 'slur':
      return path(`M${x - 6} ${y - 2} v4 h12 v-4`, SOFT);
    case 'retake':
      return path(`M${x - 2} ${y + 4} a4 4 0 1 1 4 -4`, ACCENT);
    case 'hook':
      return path(`M${x - 3} ${y - 4} v8 m3 -4 h5`, ACCENT);
    case 'accent':
      return path(`M${x - 4} ${y - 2.5} l8 2.5 l-8 2.5`);
    case 'region':
      return (
        path(`M${x - 8} ${y} h16 M${x - 8} ${y - 2.5} v5`, SOFT) +
        `<path d="M${x - 8} ${y} h8" fill="none" stroke="${ACCENT}" stroke-width="3"/>`
      );
    case 'hair':
      return path(`M${x - 7} ${y + 4} h14 M${x - 7} ${y - 4} h14`, SOFT) + path(`M${x - 5} ${y + 3} l5 -6 l5 6`);
    case 'open':
      return digit('0');
    case 'low':
      return finger({ finger: 2, sign: 'low' });
    case 'high':
      return finger({ finger: 3, sign: 'high' });
    case 'extended':
      return finger({ finger: 4, sign: 'extended' });
    case 'back':
      return finger({ finger: 1, sign: 'extended' });
    case 'position':
      return textSvg(x, y + 3.6, 'I', { size: 10, weight: 'bold', anchor: 'middle', colour: SOFT });
    case 'harmonic':
      return finger({ finger: 4, sign: 'harmonic' });
    case 'block':
      return path(`M${x - 2} ${y - 5} h3 v10 h-3`);
    case 'hop':
      return `<path d="M${x - 6} ${y + 3} Q${x} ${y - 7} ${x + 6} ${y + 3}" fill="none" stroke="${ACCENT}" stroke-width="1" stroke-dasharray="2 2"/>`;
    case 'slide':
      return path(`M${x - 5} ${y + 4} L${x + 4} ${y - 3}`);
    case 'shift':
      return path(`M${x - 4} ${y + 4} l8 -7 m-4.5 0 h4.5 v4.5`, ACCENT);
    case 'hold':
      return path(`M${x - 6} ${y - 1} v3 h12 v-3`);
    case 'whole':
      return path(`M${x - 3.5} ${y} a3.5 3 0 1 0 7 0 a3.5 3 0 1 0 -7 0`);
    case 'half':
      return path(`M${x - 3} ${y - 3} a3 2.6 0 1 0 6 0 a3 2.6 0 1 0 -6 0 M${x} ${y - 0.4} v6`);
    case 'quarter':
      return path(`M${x} ${y - 6} v12`);
    case 'eighth':
      return path(`M${x - 1} ${y - 6} v12 q5 -1 5 -6`);
    case 'sixteenth':
      return path(`M${x - 1} ${y - 6} v12 q5 -1 5 -6 M${x - 1} ${y + 2} q5 -1 5 -6`);
    case 'dotted':
      return path(`M${x - 1} ${y - 6} v12`) + `<circle cx="${x + 4}" cy="${y - 2}" r="1.3" fill="${INK}"/>`;
    case 'rest':
      return path(`M${x - 2} ${y - 6} l4 4.5 l-4 4 l4 4.5`);
    case 'tie':
      return path(`M${x - 6} ${y - 2} Q${x} ${y + 4} ${x + 6} ${y - 2}`);
    case 'tuplet2':
    case 'tuplet3':
    case 'tuplet4':
    case 'tuplet5':
    case 'tuplet6':
    case 'tuplet7':
      return textSvg(x, y + 3.6, sign.slice('tuplet'.length), { size: 9.5, weight: 'bold', anchor: 'middle' });
    case 'tuplet':
      return textSvg(x, y + 3.6, 'n', { size: 9.5, weight: 'bold', anchor: 'middle' });
    case 'time':
      return textSvg(x, y + 3.4, '2×', { size: 9.5, weight: 'bold', anchor: 'middle', colour: SOFT });
    case 'grace':
      return textSvg(x, y + 2.8, '1', { size: 7.8, weight: 'bold', anchor: 'middle' });
    case 'repeat':
      return (
        `<path d="M${x - 6} ${y - 5} v10" stroke="${INK}" stroke-width="2.4"/>` +
        `<path d="M${x + 6} ${y - 5} v10" stroke="${INK}" stroke-width="2.4"/>` +
        [-2.5, 2.5]
          .map((dy) =>
            [-2.5, 2.5].map((dx) => `<circle cx="${x + dx}" cy="${y + dy}" r="1.1" fill="${INK}"/>`).join(''),
          )
          .join('')
      );
    case 'ending':
      return textSvg(x, y + 3.4, '1. 2.', { size: 8, weight: 'bold', anchor: 'middle' });
    case 'unreached':
      return path(`M${x} ${y - 5} l4 5 l-4 5 l-4 -5 Z`, ACCENT);
    case 'melisma':
      return `<path d="M${x - 7} ${y + 3} h14" stroke="${INK}" stroke-width="0.8"/>`;
    case 'touch':
      return (
        lineSvg([x, y - 4], [x, y + 4], { width: 3.4 }) +
        [-4, 4]
          .map((dy) => `<circle cx="${x}" cy="${y + dy}" r="3" fill="#ffffff" stroke="${INK}" stroke-width="0.8"/>`)
          .join('')
      );
    case 'other':
      return `<circle cx="${x}" cy="${y}" r="2.6" fill="#ffffff" stroke="${INK}" stroke-width="0.8"/>`;
    case 'locked':
      return digit('2') + path(`M${x - 5} ${y + 6.5} h10`, ACCENT);
  }
}

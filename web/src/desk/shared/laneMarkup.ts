/**
 * The shapes of a lane as SVG text for the screen: a strip has hundreds, and the browser reads text far faster than
 * elements can be compared one by one. How each role is drawn says the table that the sheet is drawn by too.
 */
import { styleOf, type Ink, type Shape } from '@nokta/core/sheet';

const INKS: Readonly<Record<Ink, string>> = {
  ink: 'var(--ink)',
  soft: 'var(--soft)',
  accent: 'var(--accent)',
  trouble: 'rgb(var(--v-theme-error))',
};
const ESCAPES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const escaped = (text: string) => text.replace(/[&<>"]/g, (sign) => ESCAPES[sign]!);

function lineAttributes(shape: Shape & { readonly kind: 'line' | 'path' }): string {
  const { ink, width, dash } = styleOf(shape.role).line;
  const own = shape.kind === 'line' ? shape : null;
  // A dark colour chosen for paper is seen on a dark screen too.
  const stroke = own?.colour ? `color-mix(in srgb, ${escaped(own.colour)} 65%, var(--ink))` : INKS[ink];
  const dashed = own?.dash ?? dash;
  return `stroke="${stroke}" stroke-width="${own?.width ?? width}"${dashed ? ` stroke-dasharray="${dashed}"` : ''}`;
}

function markupOf(shape: Shape): string {
  const role = `class="${shape.role}"`;
  switch (shape.kind) {
    case 'line':
      return `<line ${role} x1="${shape.x1}" y1="${shape.y1}" x2="${shape.x2}" y2="${shape.y2}" ${lineAttributes(shape)}/>`;
    case 'path':
      return `<path ${role} d="${shape.d}" ${lineAttributes(shape)}/>`;
    case 'dot':
      return `<circle ${role} cx="${shape.x}" cy="${shape.y}" r="${shape.r}"/>`;
    case 'patch':
      return `<rect class="patch" x="${shape.x}" y="${shape.y}" width="${shape.width}" height="${shape.height}"/>`;
    case 'text': {
      const { ink, size, weight } = styleOf(shape.role).text;
      return `<text ${role} x="${shape.x}" y="${shape.y}" fill="${INKS[ink]}" font-size="${size}" font-weight="${weight}" text-anchor="${shape.anchor}" dominant-baseline="central">${escaped(shape.text)}</text>`;
    }
  }
}

/** @example laneMarkup([{ kind: 'dot', role: 'finger-dot', x: 4, y: 2, r: 1 }]) // '<circle class="finger-dot" cx="4" cy="2" r="1"/>' */
export const laneMarkup = (shapes: readonly Shape[]): string => shapes.map(markupOf).join('');

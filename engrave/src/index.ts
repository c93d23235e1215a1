/**
 * Engraving by Verovio: one phrase as one line of staff, with the place of every note head, so that
 * tab, hand and bow lanes can line up with it. Runs in a web worker and on the server, never on the
 * main thread.
 */
import createVerovioModule from 'verovio/wasm';
import { VerovioToolkit } from 'verovio/esm';
import { headsIn, inside, pictureIn, startOf, staffLines, type Element } from './picture.ts';

export interface Place {
  readonly x: number;
  readonly y: number;
}

/** Its outer lines. */
export interface Staff {
  readonly top: number;
  readonly bottom: number;
}

/** One line of staff, or of several under each other. All lengths are in staff spaces, so that whoever draws it chooses the size. */
export interface EngravedLine {
  /** Contents for `<svg viewBox={viewBox}>`; ink is `currentColor`, heads carry `data-note`. */
  readonly markup: string;
  /** The engraver's own units. */
  readonly viewBox: string;
  readonly width: number;
  readonly height: number;
  /** Centre of each note head and rest by its id. */
  readonly heads: Readonly<Record<string, Place>>;
  /** Right-hand bar lines. */
  readonly barlines: readonly number[];
  /** From the top: one for each voice. */
  readonly staves: readonly Staff[];
  /** Of the first. */
  readonly staffTop: number;
  readonly staffBottom: number;
}

/** Engraver's units in a staff space. */
const UNITS = 180;
/** Half the width of a black note head at the engraver's scale, in its units. */
const HALF_HEAD = 108;

let toolkit: Promise<InstanceType<typeof VerovioToolkit>> | null = null;

/** Makes the engine ready before it is needed: it takes longer to start than to engrave. */
export async function warmUp(): Promise<void> {
  await loaded();
}

async function loaded(): Promise<InstanceType<typeof VerovioToolkit>> {
  if (toolkit) return toolkit;
  toolkit = createVerovioModule().then((module) => {
    const made = new VerovioToolkit(module);
    made.setOptions({
      breaks: 'none',
      header: 'none',
      footer: 'none',
      adjustPageHeight: true,
      adjustPageWidth: true,
      pageMarginTop: 20,
      pageMarginBottom: 20,
      pageMarginLeft: 0,
      pageMarginRight: 0,
      scale: 100,
      lyricSize: 3.5,
      lyricWordSpace: 1.8,
      svgViewBox: true,
      smuflTextFont: 'none',
    });
    return made;
  });
  // In the browser the engine is a file to fetch: what did not arrive now may arrive at the next line.
  toolkit.catch(() => (toolkit = null));
  return toolkit;
}

/**
 * How far apart the notes stand: on paper as usual, spread or wide where lines would be short; on the desk so
 * that a strip is long and low.
 */
const SPACING = {
  paper: { spacingLinear: 0.3, spacingNonLinear: 0.56 },
  spread: { spacingLinear: 0.42, spacingNonLinear: 0.6 },
  wide: { spacingLinear: 0.62, spacingNonLinear: 0.62 },
  desk: { spacingLinear: 0.36, spacingNonLinear: 0.57 },
} as const;
export type Spacing = keyof typeof SPACING;

/**
 * Engraves MusicXML as one line.
 *
 * @throws if the engraver cannot read the document, or leaves a note out of the picture: a bug in what wrote it
 */
export async function engraveLine(musicXml: string, spacing: Spacing): Promise<EngravedLine> {
  const key = `${spacing} ${musicXml}`;
  const known = engraved.get(key);
  if (known) {
    // The line that was used last goes last.
    engraved.delete(key);
    engraved.set(key, known);
    return known;
  }
  const line = await engraveAnew(musicXml, spacing);
  engraved.set(key, line);
  const oldest = engraved.size > LINES_KEPT ? engraved.keys().next().value : undefined;
  if (oldest !== undefined) engraved.delete(oldest);
  return line;
}

/** Another lane, another page, the same staff: lines that were engraved are kept, the last so many. */
const engraved = new Map<string, EngravedLine>();
const LINES_KEPT = 120;

async function engraveAnew(musicXml: string, spacing: Spacing): Promise<EngravedLine> {
  const verovio = await loaded();
  verovio.setOptions(SPACING[spacing]);
  if (!verovio.loadData(musicXml)) throw new Error(`The engraver could not read the music: ${verovio.getLog()}`);
  const line = readSvg(verovio.renderToSVG(1));
  const lost = soundedIds(musicXml).filter((id) => !line.heads[id]);
  if (lost.length > 0) throw new Error(`The engraver's picture has no place for ${lost.join(', ')}`);
  return line;
}

/** Ids of everything in the document that has a pitch, and so must have a place in the picture. */
function soundedIds(musicXml: string): readonly string[] {
  return [...musicXml.matchAll(/<note id="([^"]+)"[^>]*>(?:(?!<\/note>)[^])*?<pitch>/g)].map(([, id]) => id!);
}

const NOTHING: Element = { tag: 'g', attributes: {}, children: [] };

/** Takes the engraver's picture apart. */
function readSvg(svg: string): EngravedLine {
  const { viewBox, body, defs, systems } = pictureIn(svg);
  const [, , width, height] = viewBox.split(' ').map(Number) as [number, number, number, number];
  const heads: Record<string, Place> = {};
  const barlines: number[] = [];
  let staves: readonly Staff[] = [];
  for (const measure of systems.flatMap((system) => inside(system, 'measure'))) {
    const own = inside(measure, 'staff');
    for (const staff of own)
      for (const { id, at } of headsIn(staff)) heads[id] = { x: (at.x + HALF_HEAD) / UNITS, y: at.y / UNITS };
    if (staves.length === 0) staves = own.map(staffOf);
    // Of a double one the first stroke.
    const [right] = startOf(inside(measure, 'barLine').at(-1) ?? NOTHING);
    if (right) barlines.push(right.x / UNITS);
  }
  const [first] = staves;
  return {
    markup:
      defs +
      ordinarySigns(body)
        .replace(/<desc>[\s\S]*?<\/desc>/g, '')
        .replace(/ id="([^"]+)"( class="note")/g, ' data-note="$1"$2')
        .replace(/<g id="[^"]+"/g, '<g'),
    viewBox,
    width: width / UNITS,
    height: height / UNITS,
    heads,
    barlines,
    staves,
    staffTop: first?.top ?? 0,
    staffBottom: first?.bottom ?? 4,
  };
}

const staffOf = (staff: Element): Staff => {
  const lines = staffLines(staff).map((y) => y / UNITS);
  return { top: lines[0] ?? 0, bottom: lines.at(-1) ?? 4 };
};

/** Engraver's size of chord symbols; accidentals in them come as music-font characters of another size. */
const CHORD_SIZE = '405px';
const ORDINARY: Readonly<Record<string, string>> = {
  '\uEA64': '♭',
  '\uEA65': '♮',
  '\uEA66': '♯',
  '\uE1D5': '♩',
  '\uE1D7': '♪',
};

/** Ordinary fonts have accidentals and notes elsewhere than music fonts. */
function ordinarySigns(markup: string): string {
  return markup.replace(
    /<tspan font-family="Leipzig" font-size="[^"]*">([\uE000-\uF8FF])<\/tspan>/g,
    (_, sign: string) => `<tspan font-size="${CHORD_SIZE}">${ORDINARY[sign] ?? ''}</tspan>`,
  );
}

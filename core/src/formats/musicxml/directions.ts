/** What stands above and below the staff: tempo, signs of the way, dynamics, words. */
import { untilInWords, wayInWords } from '../ways.ts';
import {
  NOTE_TYPES,
  TICKS_PER_QUARTER,
  valueLength,
  type Bar,
  type Dynamic,
  type NoteType,
  type Tempo,
} from '../../music/index.ts';
import { child, children, textOf, type XmlElement } from './tree.ts';

export interface Direction {
  readonly tempo?: Tempo;
  readonly dynamic?: Dynamic;
  readonly label?: string;
  readonly words?: string;
  /** Segno, coda, Fine, D.C. and D.S. of the bar. */
  readonly bar: Partial<Bar>;
  /** Elements that say nothing here. */
  readonly unknown: readonly string[];
}

const DYNAMICS = /^(p{1,4}|f{1,4}|mp|mf|sfz)$/;
/** Dynamics that are near enough to one of ours. */
const NEAR: Readonly<Record<string, Dynamic>> = {
  sf: 'sfz',
  sffz: 'sfz',
  fz: 'sfz',
  rf: 'sfz',
  rfz: 'sfz',
  sfp: 'sfz',
  fp: 'f',
};
/** Signs that are for other players or for the eye alone. */
const SILENT = new Set([
  'bracket',
  'dashes',
  'image',
  'staff-divide',
  'principal-voice',
  'accordion-registration',
  'harp-pedals',
  'scordatura',
]);

export function readDynamic(element: XmlElement | undefined): Dynamic | null {
  const name = element?.children[0]?.name ?? '';
  return DYNAMICS.test(name) ? (name as Dynamic) : (NEAR[name] ?? null);
}

export function readDirection(element: XmlElement): Direction {
  const types = children(element, 'direction-type').flatMap((type) => type.children);
  const named = (name: string) => types.find((type) => type.name === name);
  const sound = child(element, 'sound');
  const words = types
    .filter(({ name }) => name === 'words')
    .map(({ text }) => text)
    .filter(Boolean)
    .join(' ');
  const way = { ...readWay(sound, words), ...(named('segno') && { segno: true }), ...readCoda(named('coda'), sound) };
  const tempo = readMetronome(named('metronome'), sound, words);
  const dynamic = readDynamic(named('dynamics'));
  const label = named('rehearsal')?.text;
  const saysMore = words !== '' && Object.keys(way).length === 0 && !tempo?.text;
  return {
    bar: way,
    ...(tempo && { tempo }),
    ...(dynamic && { dynamic }),
    ...(label && { label }),
    ...(saysMore && { words }),
    unknown: types
      .map(({ name }) => name)
      .filter(
        (name) => !['words', 'segno', 'coda', 'metronome', 'dynamics', 'rehearsal'].includes(name) && !SILENT.has(name),
      ),
  };
}

/** The coda sign says where to leave, or where to go on: the sound tells, else the words, else the place. */
function readCoda(sign: XmlElement | undefined, sound: XmlElement | undefined): Partial<Bar> {
  if (!sign) return {};
  return sound?.attributes['tocoda'] === undefined ? { coda: true } : { toCoda: true };
}

/** Jumps by their sound, or by the words alone, as hand-made files have them. */
export function readWay(sound: XmlElement | undefined, words: string): Partial<Bar> {
  const given = sound?.attributes ?? {};
  const until = untilInWords(words);
  if (given['dalsegno'] !== undefined) return { jump: { back: 'segno', until } };
  if (given['dacapo'] !== undefined) return { jump: { back: 'start', until } };
  if (given['fine'] !== undefined) return { fine: true };
  if (given['tocoda'] !== undefined) return { toCoda: true };
  const said = wayInWords(words);
  if (Object.keys(said).length > 0) return said;
  if (given['segno'] !== undefined) return { segno: true };
  return given['coda'] !== undefined ? { coda: true } : {};
}

function readMetronome(
  metronome: XmlElement | undefined,
  sound: XmlElement | undefined,
  words: string,
): Tempo | undefined {
  const text = words ? { text: words } : {};
  const bpm = Number(/\d+(\.\d+)?/.exec(textOf(metronome, 'per-minute'))?.[0]);
  const unit = textOf(metronome, 'beat-unit') as NoteType;
  if (metronome && bpm > 0 && NOTE_TYPES.includes(unit)) {
    const dots = Math.min(3, children(metronome, 'beat-unit-dot').length) as 0 | 1 | 2 | 3;
    return { beat: valueLength({ type: unit, dots }), bpm, ...text };
  }
  const quarters = Number(sound?.attributes['tempo']);
  return quarters > 0 ? { beat: TICKS_PER_QUARTER, bpm: Math.round(quarters * 1000) / 1000, ...text } : undefined;
}

/** Tempo of a `sound` that stands by itself. */
export function readSoundTempo(sound: XmlElement): Tempo | undefined {
  return readMetronome(undefined, sound, '');
}

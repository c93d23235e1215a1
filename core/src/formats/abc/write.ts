/** ABC out, to the 2.1 standard; what is written here reads back the same. */
import {
  LETTERS,
  TICKS_PER_WHOLE,
  nearestFifths,
  isStandard,
  sameKey,
  signatureAlter,
  valueLength,
  type Alter,
  type Bar,
  type Key,
  type Letter,
  type Metre,
  type Mode,
  type Note,
  type Pitch,
  type Syllable,
  type Tempo,
  type Ticks,
  type Tune,
  type TuneEvent,
} from '../../music/index.ts';
import { writeDecoration, writeNavigation } from './signs.ts';

const UNIT: Ticks = TICKS_PER_WHOLE / 8;
const MODE_NAME: Readonly<Record<Mode, string>> = {
  major: '',
  ionian: 'ion',
  minor: 'm',
  aeolian: 'aeo',
  dorian: 'dor',
  phrygian: 'phr',
  lydian: 'lyd',
  mixolydian: 'mix',
  locrian: 'loc',
};
const ACCIDENTAL: Readonly<Record<string, string>> = { '-2': '__', '-1': '_', '0': '=', '1': '^', '2': '^^' };
const BARS_PER_LINE = 4;

/** @example writeAbc(tune).startsWith('X:1\n') // true */
export function writeAbc(tune: Tune, number = 1): string {
  const first = tune.bars[0];
  if (!first) return '';
  const field = (name: string, values: readonly string[]) =>
    values.filter(Boolean).map((value) => `${name}:${encode(value)}`);
  const header = [
    `X:${number}`,
    ...field('T', [tune.title, ...tune.alsoKnownAs]),
    ...field('C', [tune.composer]),
    ...field('O', [tune.origin]),
    ...field('R', [tune.style]),
    ...field('N', tune.notes),
    `M:${metreText(first.metre)}`,
    'L:1/8',
    ...(tune.tempo ? [`Q:${tempoText(tune.tempo)}`] : []),
    `K:${keyText(first.key)}`,
  ];
  return [...header, ...musicLines(tune), ''].join('\n');
}

/** A percent sign starts a comment and a backslash an accent, so both are escaped. */
const encode = (text: string) =>
  text
    .replace(/\\/g, '\\\\')
    .replace(/%/g, '\\%')
    .replace(/\s*\n\s*/g, ' ');

function metreText({ beats, unit, symbol }: Metre): string {
  if (symbol === 'free') return 'none';
  return symbol === 'common' ? 'C' : symbol === 'cut' ? 'C|' : `${beats}/${unit}`;
}

function tempoText({ beat, bpm, text }: Tempo): string {
  return `${text ? `"${text.replaceAll('"', "'")}" ` : ''}${fraction(beat, TICKS_PER_WHOLE)}=${bpm}`;
}

function fraction(numerator: number, denominator: number): string {
  let [a, b] = [numerator, denominator];
  while (b) [a, b] = [b, a % b];
  return `${numerator / a}/${denominator / a}`;
}

function keyText(key: Key): string {
  const sign = ['', '#', 'b'].at(key.tonic.alter)!;
  const name = `${key.tonic.letter}${sign}${MODE_NAME[key.mode]}`;
  if (isStandard(key)) return name;
  const accidentals = LETTERS.flatMap((letter) => {
    const alter = signatureAlter(key, letter);
    return alter === 0 ? [] : [`${ACCIDENTAL[alter]}${letter.toLowerCase()}`];
  });
  // Without explicit accidentals `exp` means an empty signature.
  return [name, 'exp', ...accidentals].join(' ') + (nearestFifths(key) === 0 && accidentals.length === 0 ? ' =c' : '');
}

function musicLines(tune: Tune): readonly string[] {
  const slurStarts = count(tune.slurs.map(({ from }) => from));
  // A slur that nobody closed goes out as it came in.
  const slurEnds = count(tune.slurs.filter(({ from, to }) => from !== to).map(({ to }) => to));
  const marked = tune.bars.some((bar) => bar.events.some((event) => event.kind === 'note' && event.lineEnd));
  const sung = tune.bars.some((bar) => bar.events.some((event) => event.kind === 'note' && event.words));
  const lines: string[] = [];
  let music = '';
  let notes: Note[] = [];
  const flush = () => {
    if (music.trim() === '') return;
    const words = wordLines(notes);
    // Words belong to all the music since the last ones: a line without any says so.
    lines.push(music.trim(), ...(words.length === 0 && sung && notes.length > 0 ? ['w:*'] : words));
    music = '';
    notes = [];
  };
  tune.bars.forEach((bar, index) => {
    const before = tune.bars[index - 1];
    music += barStart(bar, before, timesFrom(tune.bars, index));
    const accidentals = new Map<Letter, Map<number, Alter>>();
    const navigation = writeNavigation(bar);
    let breakAfterBar = !marked && index % BARS_PER_LINE === BARS_PER_LINE - 1;
    bar.events.forEach((event, position) => {
      const last = position === bar.events.length - 1;
      const signs = [...(position === 0 ? navigation.start : []), ...(last ? navigation.end : [])];
      music += signs.map((sign) => `!${sign}!`).join('');
      music += tupletStart(bar.events, position);
      music += '('.repeat(slurStarts.get(event.id) ?? 0);
      music += eventText(event, bar.key, accidentals);
      music += ')'.repeat(slurEnds.get(event.id) ?? 0);
      if (event.kind === 'note') notes.push(event);
      if (!last && spaceAfter(event, bar)) music += ' ';
      if (event.kind === 'note' && event.lineEnd) {
        if (last) breakAfterBar = true;
        else flush();
      }
    });
    music += ` ${barEnd(bar, tune.bars[index + 1])}`;
    if (breakAfterBar) flush();
    else music += ' ';
  });
  flush();
  return lines;
}

function count(ids: readonly string[]): ReadonlyMap<string, number> {
  const counts = new Map<string, number>();
  for (const id of ids) counts.set(id, (counts.get(id) ?? 0) + 1);
  return counts;
}

/** How often the section that opens here is played. */
function timesFrom(bars: readonly Bar[], index: number): number {
  const end = bars.slice(index).find((bar, at) => bar.repeatEnd !== undefined || (at > 0 && bar.repeatStart));
  return end?.repeatEnd ?? 2;
}

/** Fields in brackets for what changes here, then the opening repeat or ending. */
function barStart(bar: Bar, before: Bar | undefined, times: number): string {
  const changes = before
    ? [
        ...(metreText(bar.metre) === metreText(before.metre) ? [] : [`[M:${metreText(bar.metre)}]`]),
        ...(sameKey(bar.key, before.key) ? [] : [`[K:${keyText(bar.key)}]`]),
      ]
    : [];
  const tempo = bar.tempo ? [`[Q:${tempoText(bar.tempo)}]`] : [];
  const label = bar.label ? [`[P:${bar.label}]`] : [];
  const repeat = bar.repeatStart ? `|${':'.repeat(Math.max(1, times - 1))} ` : '';
  const ending = bar.endings ? `${before ? '' : '|'}[${bar.endings.join(',')} ` : '';
  return `${repeat}${ending}${[...label, ...changes, ...tempo].join('')}`;
}

function barEnd(bar: Bar, next: Bar | undefined): string {
  if (bar.repeatEnd) return `${':'.repeat(bar.repeatEnd - 1)}|`;
  if (bar.barline === 'final') return '|]';
  // A bracket that closes before the music goes on needs a double bar to say so.
  if (bar.barline === 'double' || (bar.endingStop && next && !next.endings)) return '||';
  return bar.barline === 'invisible' ? '[|]' : '|';
}

function tupletStart(events: readonly TuneEvent[], position: number): string {
  const tuplet = events[position]!.tuplet;
  if (tuplet?.edge !== 'start') return '';
  const rest = events.slice(position);
  const length = rest.findIndex((event) => event.tuplet?.edge === 'stop') + 1;
  return `(${tuplet.actual}:${tuplet.normal}:${length || tuplet.actual}`;
}

function eventText(event: TuneEvent, key: Key, accidentals: Map<Letter, Map<number, Alter>>): string {
  const chord = `${event.chordSymbol ? `"${event.chordSymbol}"` : ''}${event.annotation ? `"^${event.annotation.replaceAll('"', "'")}"` : ''}`;
  const length = lengthText(valueLength(event.value));
  if (event.kind === 'rest') return `${chord}${event.invisible ? 'x' : 'z'}${length}`;
  const graces = event.graces ?? [];
  const grace =
    graces.length > 0
      ? `{${graces[0]!.slash ? '/' : ''}${graces.map(({ pitch }) => pitchText(pitch, key, accidentals)).join('')}}`
      : '';
  const heads = event.heads.map(
    (head) => pitchText(head.pitch, key, accidentals) + (head.tied && event.heads.length > 1 ? '-' : ''),
  );
  const body = heads.length > 1 ? `[${heads.join('')}]` : heads[0]!;
  const tie = event.heads.length === 1 && event.heads[0]!.tied ? '-' : '';
  return `${chord}${signsText(event)}${grace}${body}${length}${tie}`;
}

function signsText(note: Note): string {
  const names = [
    ...(note.dynamic ? [note.dynamic] : []),
    ...(note.decorations ?? []).filter((sign) => sign !== 'staccato').map(writeDecoration),
    ...(note.bow ? [`${note.bow}bow`] : []),
    ...note.heads.flatMap(({ finger }) => (finger === undefined ? [] : [fingerName(finger)])),
    ...(note.heads.length === 1 && note.heads[0]!.finger !== undefined
      ? (note.heads[0]!.otherFingers ?? []).map(fingerName)
      : []),
  ];
  // Readers know staccato by its dot, not all by its name.
  const dot = note.decorations?.includes('staccato') ? '.' : '';
  return names.map((name) => `!${name}!`).join('') + dot;
}

const fingerName = (finger: string) => (finger === 'T' ? 'thumb' : finger);

function lengthText(length: Ticks): string {
  const text = fraction(length, UNIT);
  const [top, bottom] = text.split('/') as [string, string];
  return bottom === '1' ? (top === '1' ? '' : top) : text;
}

/**
 * Readers differ on whether an accidental reaches other octaves of its bar, so a sign is written
 * whenever either reading would be wrong.
 */
function pitchText(pitch: Pitch, key: Key, accidentals: Map<Letter, Map<number, Alter>>): string {
  const inBar = accidentals.get(pitch.letter) ?? new Map<number, Alter>();
  accidentals.set(pitch.letter, inBar);
  const signature = signatureAlter(key, pitch.letter);
  const expected = new Set<Alter>([inBar.get(pitch.octave) ?? signature, ...inBar.values()]);
  const needed = inBar.size > 0 ? expected.size > 1 || !expected.has(pitch.alter) : pitch.alter !== signature;
  if (needed) inBar.set(pitch.octave, pitch.alter);
  const sign = needed ? ACCIDENTAL[pitch.alter] : '';
  const letter = pitch.octave >= 5 ? pitch.letter.toLowerCase() : pitch.letter;
  const octave = pitch.octave >= 5 ? "'".repeat(pitch.octave - 5) : ','.repeat(4 - pitch.octave);
  return `${sign}${letter}${octave}`;
}

/** Notes shorter than a quarter stand together within a beat of the metre, as beams do. */
function spaceAfter(event: TuneEvent, bar: Bar): boolean {
  const end = bar.offset + event.at + event.duration;
  const group = TICKS_PER_WHOLE / (bar.metre.unit === 8 && bar.metre.beats % 3 === 0 ? 8 / 3 : 4);
  return end % group === 0 || event.duration >= TICKS_PER_WHOLE / 4;
}

function wordLines(notes: readonly Note[]): readonly string[] {
  const verses = Math.max(0, ...notes.map((note) => note.words?.length ?? 0));
  return Array.from({ length: verses }, (_, verse) => {
    const words = notes.map((note) => note.words?.[verse] ?? null);
    const pieces = words.map((word, index) => {
      if (word) return wordText(word);
      // An underscore has already taken this note.
      return words[index - 1]?.extend ? '' : '*';
    });
    return `w:${pieces.filter(Boolean).join(' ').replaceAll('- ', '-')}`;
  });
}

function wordText({ text, hyphen, extend }: Syllable): string {
  const escaped = text.replace(/[\\*_|~-]/g, (sign) => `\\${sign}`).replaceAll(' ', '~');
  return escaped + (hyphen ? '-' : '') + (extend ? '_' : '');
}

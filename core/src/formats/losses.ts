/**
 * What a file cannot hold of a tune: it is written, read back, and held against the tune. MIDI, which plays repeats out
 * and holds sounds only, is told by its nature.
 */
import {
  barNumbers,
  midi,
  pitchName,
  type Bar,
  type Note,
  type Tempo,
  type Tune,
  type TuneEvent,
} from '../music/index.ts';
import { readAbc } from './abc/read.ts';
import { writeAbc } from './abc/write.ts';
import { readMusicXml } from './musicxml/read.ts';
import { writeMusicXml } from './musicxml/write.ts';

/** Formats that may hold less than a tune. */
export type LossyFormat = 'abc' | 'musicxml' | 'mid';

export const LOSSES = [
  'notes',
  'rests',
  'graces',
  'grace-slashes',
  'grace-fingers',
  'fingers',
  'other-fingers',
  'strings',
  'bows',
  'signs',
  'dynamics',
  'words',
  'chord-symbols',
  'annotations',
  'metres',
  'keys',
  'repeats',
  'bar-lines',
  'part-names',
  'way-through',
  'tempi',
  'titles',
] as const;
export type LossKind = (typeof LOSSES)[number];

export interface Loss {
  readonly what: LossKind;
  /** Places where it is not as it was. */
  readonly count: number;
  /** The first of them, as people count bars; null where it belongs to no bar. */
  readonly bar: number | null;
}

type Read<T> = readonly (readonly [what: LossKind, of: (one: T) => unknown])[];

const OF_NOTE: Read<Note> = [
  [
    'notes',
    ({ heads, value, tuplet }) => [heads.map(({ pitch, tied }) => [pitchName(pitch), tied]), value, tuplet?.actual],
  ],
  ['graces', ({ graces }) => graces?.map(({ pitch }) => midi(pitch))],
  ['grace-slashes', ({ graces }) => graces?.map(({ slash }) => slash)],
  ['grace-fingers', ({ graces }) => graces?.map(({ finger, string }) => [finger, string])],
  ['fingers', ({ heads }) => heads.map(({ finger }) => finger)],
  ['other-fingers', ({ heads }) => heads.map(({ otherFingers }) => otherFingers)],
  ['strings', ({ heads }) => heads.map(({ string }) => string)],
  ['bows', ({ bow }) => bow],
  ['signs', ({ decorations }) => decorations && [...decorations].sort()],
  ['dynamics', ({ dynamic }) => dynamic],
  ['words', ({ words }) => words],
];
const OF_EVENT: Read<TuneEvent> = [
  ['chord-symbols', ({ chordSymbol }) => chordSymbol],
  ['annotations', ({ annotation }) => annotation],
];
const speed = (tempo: Tempo | null | undefined) => tempo && Math.round((tempo.beat * tempo.bpm) / 10);
const OF_BAR: Read<Bar> = [
  ['rests', ({ events }) => events.flatMap((event) => (event.kind === 'rest' ? [event.duration] : []))],
  ['metres', ({ metre }) => [metre.beats, metre.unit]],
  ['keys', ({ key }) => [key.tonic, key.mode, key.signature]],
  ['repeats', ({ repeatStart, repeatEnd, endings }) => [repeatStart, repeatEnd, endings]],
  ['bar-lines', ({ barline, repeatEnd }) => (repeatEnd ? null : barline)],
  ['part-names', ({ label }) => label],
  ['way-through', ({ segno, coda, toCoda, fine, jump }) => [segno, coda, toCoda, fine, jump]],
  ['tempi', ({ tempo }) => speed(tempo)],
];
const OF_TUNE: Read<Tune> = [
  [
    'titles',
    ({ title, composer, origin, style, notes, alsoKnownAs }) => [title, composer, origin, style, notes, alsoKnownAs],
  ],
  ['tempi', ({ tempo }) => speed(tempo)],
];

/** What there is nothing of counts as nothing, however it is said. */
const text = (value: unknown): string =>
  JSON.stringify(value, (_, inner: unknown) => (inner === false || inner === undefined ? null : inner)) ?? 'null';

/**
 * What is not in a file as it is in the tune, kind by kind.
 * @example lossesIn(tuneOf('G4 A4 |'), 'musicxml') // []
 */
export function lossesIn(tune: Tune, ending: LossyFormat): readonly Loss[] {
  const told = new Map<LossKind, { count: number; bar: number | null }>();
  const add = (what: LossKind, bar: number | null) => {
    const known = told.get(what);
    if (known) known.count += 1;
    else told.set(what, { count: 1, bar });
  };
  const numbers = barNumbers(tune.bars);
  if (ending === 'mid') tellSilent(tune, numbers, add);
  else {
    const back = readBack(tune, ending);
    compareAll(OF_TUNE, [tune], back ? [back] : [], () => null, add);
    compareAll(OF_BAR, tune.bars, back?.bars ?? [], (index) => numbers[index]!, add);
    const events = (of: Tune) => of.bars.flatMap((bar, index) => bar.events.map((event) => ({ event, bar: index })));
    const [all, others] = [events(tune), back ? events(back) : []];
    const notes = (list: typeof all) => list.filter(({ event }) => event.kind === 'note');
    const barOf = (list: typeof all) => (index: number) => numbers[list[index]!.bar]!;
    compareAll(
      OF_EVENT,
      all.map(({ event }) => event),
      others.map(({ event }) => event),
      barOf(all),
      add,
    );
    const own = notes(all);
    compareAll(
      OF_NOTE,
      own.map(({ event }) => event as Note),
      notes(others).map(({ event }) => event as Note),
      barOf(own),
      add,
    );
  }
  return LOSSES.flatMap((what) => {
    const found = told.get(what);
    return found ? [{ what, ...found }] : [];
  });
}

function compareAll<T>(
  reads: Read<T>,
  tune: readonly T[],
  back: readonly T[],
  barOf: (index: number) => number | null,
  add: (what: LossKind, bar: number | null) => void,
): void {
  tune.forEach((one, index) => {
    const other = back[index];
    for (const [what, of] of reads)
      if (text(of(one)) !== (other === undefined ? 'null' : text(of(other)))) add(what, barOf(index));
  });
}

function readBack(tune: Tune, ending: Exclude<LossyFormat, 'mid'>): Tune | null {
  const read = ending === 'abc' ? readAbc(writeAbc(tune)) : readMusicXml(writeMusicXml(tune));
  return read.ok ? read.value.tune : null;
}

/** What makes no sound. */
const SILENT: readonly LossKind[] = ['fingers', 'other-fingers', 'strings', 'bows', 'signs', 'words'];

function tellSilent(tune: Tune, numbers: readonly number[], add: (what: LossKind, bar: number | null) => void): void {
  const nothing = { kind: 'note', id: '', at: 0, duration: 0, value: { type: 'quarter', dots: 0 }, heads: [] } as const;
  tune.bars.forEach(({ events }, index) => {
    for (const event of events) {
      if (event.chordSymbol) add('chord-symbols', numbers[index]!);
      if (event.annotation) add('annotations', numbers[index]!);
      if (event.kind !== 'note') continue;
      if (event.graces) add('graces', numbers[index]!);
      const bare: Note = { ...nothing, heads: event.heads.map(({ pitch }) => ({ pitch })) };
      for (const [what, of] of OF_NOTE)
        if (SILENT.includes(what) && text(of(event)) !== text(of(bare))) add(what, numbers[index]!);
    }
  });
}

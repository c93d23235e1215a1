/** The form of a tune: parts, phrases, what is the same, what is left to learn. */
import { barLength, beatLength, isPickup, playedOrder, type PlayedBar, type Ticks, type Tune } from '../music/index.ts';
import { timed } from './align.ts';
import { countedBars } from './boundaries.ts';
import { findKey, isHome, restingSound } from './closing.ts';
import { figuresOf } from './figures.ts';
import { layOut, type LaidPhrase, type Layout } from './layout.ts';
import { findLicks } from './licks.ts';
import { materialsOf } from './materials.ts';
import { motionsOf } from './motion.ts';
import { isTooLongToPart, plainForm } from './plain.ts';
import { planOf } from './plan.ts';
import { barAt, barBeatAt, downbeatOf, readForForm, soundFrom, type Reading } from './reading.ts';
import {
  NOTHING,
  barTextsOf,
  comparePhrases,
  moreTelling,
  type PhraseComparison,
  type PhraseSounds,
} from './relate.ts';
import { traitsOf } from './traits.ts';
import {
  LEAD_IN,
  TAG,
  phrasesOf,
  type BarMaterial,
  type Form,
  type Part,
  type Phrase,
  type Relation,
  type SharedBar,
} from './model.ts';

/** @example analyseForm(tune).parts.map((part) => part.label) // ['A'] */
export function analyseForm(tune: Tune): Form {
  const reading = readForForm(tune);
  if (isTooLongToPart(tune)) return plainForm(reading);
  return describe(reading, layOut(reading));
}

/**
 * The form of a version whose bars are as long as the tune's: its phrases lie where the tune's do.
 * @example formText(formLike(reel, layoutOf(reel))) // 'AA'
 */
export function formLike(version: Tune, layout: Layout): Form {
  return describe(readForForm(version), layout);
}

function describe(reading: Reading, layout: Layout): Form {
  const { tune } = reading;
  const ids = layout.map((_, index) => `p${index + 1}`);
  const materials = materialsOf(reading, layout, ids);
  const key = findKey(reading);
  const home = key?.disagrees ? key.heard : tune.bars[0]!.key;
  const played = playedOrder(tune.bars);
  const sections = sectionsOf(layout, reading, played, materials);
  const compared: { id: string; sounds: PhraseSounds }[] = [];
  const parts = sections.map((section): Part => {
    const { label, firstBar, lastBar, times, like, length, from } = section;
    const phrases = section.phrases.map((laid, index): Phrase => {
      const number = section.firstNumber + index;
      const sounds = soundsIn(reading, laid);
      const own = phraseSounds(reading, laid, sounds);
      const id = ids[from + index]!;
      const resting = restingSound(reading, sounds);
      const relation = relate(own, compared);
      const shares = relation.kind === 'new' ? sharedBars(materials, id) : [];
      compared.push({ id, sounds: own });
      const downbeat = downbeatOf(reading, laid.from, laid.to);
      return {
        id,
        from: laid.from,
        to: laid.to,
        label:
          laid.name ??
          (section.phrases.length === 1 && isWord(label) ? label : `${label}${isWord(label) ? ' ' : ''}${number}`),
        start: barBeatAt(reading, laid.from),
        end: barBeatAt(reading, sounds.at(-1)?.onset ?? laid.from),
        downbeat,
        bars: own.bars,
        closing: resting && isHome(tune, reading, resting, home) ? 'closed' : 'open',
        restsOn: resting?.note.id ?? null,
        relation,
        shares,
        motions: motionsOf(sounds),
        figures: figuresOf(reading, sounds, downbeat),
        held: laid.held,
        named: laid.name !== null,
        notes: sounds.flatMap(({ ids: notes }) => notes),
      };
    });
    return { label, bars: [reading.numbers[firstBar]!, reading.numbers[lastBar]!], times, like, length, phrases };
  });
  const phrases = phrasesOf({ parts });
  const form = {
    parts,
    bars: materials,
    licks: findLicks(reading),
    learn: planOf(tune, phrases, materials),
    key: home,
  };
  return { ...form, traits: traitsOf(tune, form) };
}

/** Names of several letters stand apart from the number of a phrase. */
const isWord = (label: string) => label.length > 2;

function soundsIn(reading: Reading, { from, to }: LaidPhrase) {
  return reading.sounds.slice(soundFrom(reading, from), soundFrom(reading, to));
}

function phraseSounds(reading: Reading, { from, to }: LaidPhrase, sounds: Reading['sounds']): PhraseSounds {
  const downbeat = downbeatOf(reading, from, to);
  const { metre } = reading.bars[barAt(reading, downbeat)]!;
  const bar = barLength(metre);
  const end = firstTime(reading, downbeat, to);
  // Phrases are compared as they are played the first time.
  const all = timed(
    sounds.filter(({ onset }) => onset < end),
    downbeat,
  );
  const body = all.filter(({ at }) => at >= 0);
  return {
    pickup: all.filter(({ at }) => at < 0),
    body,
    barTexts: barTextsOf(body, bar),
    bar,
    beat: beatLength(metre),
    bars: Math.max(1, Math.round((end - downbeat) / bar)),
  };
}

/** Where the phrase ends when it is played first: before its later endings. */
function firstTime(reading: Reading, from: Ticks, to: Ticks): Ticks {
  const { bars, starts } = reading;
  for (let index = barAt(reading, from) + 1; index < bars.length && starts[index]! < to; index += 1) {
    const { endings } = bars[index]!;
    if (endings && !endings.includes(1)) return starts[index]!;
  }
  return to;
}

function relate(own: PhraseSounds, compared: readonly { id: string; sounds: PhraseSounds }[]): Relation {
  let best: PhraseComparison = NOTHING;
  let of: string | null = null;
  for (const { id, sounds } of compared) {
    const found = comparePhrases(own, sounds);
    if (found.kind === 'new' || !moreTelling(found, best)) continue;
    best = found;
    of = id;
    // Nothing tells more than the very same.
    if (found.kind === 'same' && found.differs.where === null && !found.differs.pickup) break;
  }
  return { kind: best.kind, of, differs: best.differs, differences: best.differences };
}

/** Bars of a new phrase that stood in an earlier one. */
function sharedBars(bars: readonly BarMaterial[], phrase: string): readonly SharedBar[] {
  return bars.flatMap(({ number, material, phrase: own, counts }, index): SharedBar[] => {
    const first = bars[material]!;
    if (own !== phrase || !counts || material === index || first.phrase === phrase) return [];
    return [{ bar: number, ofPhrase: first.phrase, ofBar: first.number }];
  });
}

interface Section {
  readonly label: string;
  readonly phrases: Layout;
  /** Index of its first phrase. */
  readonly from: number;
  /** Number of its first phrase within its letter. */
  readonly firstNumber: number;
  readonly firstBar: number;
  readonly lastBar: number;
  readonly times: number;
  readonly like: number | null;
  readonly length: number;
}

/** The phrases in their parts, each part with its letter. */
function sectionsOf(
  layout: Layout,
  reading: Reading,
  played: readonly PlayedBar[],
  materials: readonly BarMaterial[],
): readonly Section[] {
  const starts = layout.flatMap(({ part }, index) => (part ? [index] : []));
  const plain = starts.map((from, index) => {
    const phrases = layout.slice(from, starts[index + 1] ?? layout.length);
    const firstBar = firstBarOf(reading, phrases[0]!);
    const next = layout[starts[index + 1] ?? -1];
    const lastBar = next ? Math.max(firstBar, firstBarOf(reading, next) - 1) : reading.bars.length - 1;
    const counted = countedBars(reading, firstBar, lastBar);
    return { from, phrases, firstBar, lastBar, counted, times: timesPlayed(played, firstBar, lastBar) };
  });
  const contents = plain.map(({ counted }) => counted.map((bar) => materials[bar]!.material));
  const labels = new Map<number, string>();
  const likes = plain.map(({ phrases }, index) => {
    // A part that the teacher named is its own.
    if (phrases[0]!.partNamed) return null;
    const earlier = contents.findIndex(
      (other, at) => at < index && labels.get(at) === undefined && isWrittenOutAgain(other, contents[index]!),
    );
    return earlier >= 0 ? earlier : null;
  });
  // Written out a third time is like the first, not like the second.
  const first = (index: number): number => (likes[index] === null ? index : first(likes[index]!));
  likes.forEach((like, index) => like !== null && (likes[index] = first(like)));
  nameParts(plain, likes, labels);
  const counts = new Map<string, number>();
  return plain.map(({ counted, ...section }, index): Section => {
    const label = labels.get(index)!;
    const firstNumber = (counts.get(label) ?? 0) + 1;
    counts.set(label, firstNumber - 1 + section.phrases.length);
    return { ...section, label, firstNumber, like: likes[index]!, length: counted.length };
  });
}

/** The bar that a part is counted from: its own pickup's, or else the one that it leads to. */
function firstBarOf(reading: Reading, { from, to }: LaidPhrase): number {
  const bar = barAt(reading, from);
  if (reading.starts[bar] === from && isPickup(reading.bars, bar)) return bar;
  return barAt(reading, downbeatOf(reading, from, to));
}

/** A pickup outside the repeat is played once; the bars inside say how often the part comes. */
function timesPlayed(played: readonly PlayedBar[], firstBar: number, lastBar: number): number {
  return Math.max(...played.filter(({ index }) => index >= firstBar && index <= lastBar).map(({ time }) => time), 0);
}

/** Parts are one where they are about as long and begin with the same music; endings may differ. */
function isWrittenOutAgain(earlier: readonly number[], later: readonly number[]): boolean {
  if (later.length < 2 || Math.abs(earlier.length - later.length) > earlier.length / 4) return false;
  const half = Math.ceil(later.length / 2);
  const same = (count: number) => later.slice(0, count).filter((material, bar) => material === earlier[bar]).length;
  return same(half) >= 0.75 * half && same(later.length) >= later.length / 2;
}

/** Labels of the source and the teacher where there are any, letters for the rest. */
function nameParts(
  sections: readonly { readonly phrases: Layout; readonly times: number; readonly counted: readonly number[] }[],
  likes: readonly (number | null)[],
  labels: Map<number, string>,
): void {
  const given = sections.map(({ phrases }) => phrases[0]!.partLabel || null);
  const used = new Set<string>(given.filter((label) => label !== null));
  const free = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ'.split('').filter((letter) => !used.has(letter));
  const taken = new Set<string>();
  sections.forEach((section, index) => {
    const like = likes[index];
    const own = given[index];
    const named = section.phrases[0]!.partNamed;
    const word = own ? null : sideRole(sections, index);
    const label =
      named && own
        ? own
        : typeof like === 'number'
          ? labels.get(like)!
          : own && !taken.has(own)
            ? own
            : (word ?? free.shift() ?? `Part ${index + 1}`);
    taken.add(label);
    labels.set(index, label);
  });
}

const SHORT = 4;

/** A few bars before the first repeat, or after the last, are no part of their own. */
function sideRole(
  sections: readonly { readonly times: number; readonly counted: readonly number[] }[],
  index: number,
): string | null {
  const { times, counted } = sections[index]!;
  if (times !== 1 || counted.length > SHORT) return null;
  const aside = (neighbour: (typeof sections)[number] | undefined) =>
    neighbour !== undefined && neighbour.times > 1 && neighbour.counted.length >= 2 * counted.length;
  if (index === 0) return aside(sections[1]) ? LEAD_IN : null;
  return index === sections.length - 1 && aside(sections[index - 1]) ? TAG : null;
}

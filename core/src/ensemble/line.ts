/**
 * A line that goes with a tune, for a hand under a contract: open strings, a bass, off-beats, a second voice. Its notes are the cheapest
 * way through what can be stopped under each spot: exact for prices of note against chord, note against tune, and note against note.
 */
import { bowSlice } from '../bow/index.ts';
import { formLike, layoutOf } from '../form/index.ts';
import type { Breach, Limits, LineRole, Rule } from '../grade/index.ts';
import { handSlice } from '../hand/index.ts';
import { chordAt, harmonyOf, type Harmony } from '../harmony/index.ts';
import type { Instrument, Tuning } from '../instrument/index.ts';
import {
  barStarts,
  chroma,
  midi,
  soundingNotes,
  spellInKey,
  valueOf,
  type Bpm,
  type Midi,
  type Pitch,
  type SoundingNote,
  type Tune,
  type TuneEvent,
} from '../music/index.ts';
import { stringsUnder, weighVersion } from '../version/index.ts';
import { cheapestWay, type Option } from './cheapest.ts';
import { LINE_PRICES, type LinePrices } from './prices.ts';
import { PACES, spotsOf, type Spot } from './spots.ts';

export interface LineContext {
  /** In the key that was chosen. */
  readonly tune: Tune;
  readonly instrument: Instrument;
  readonly tuning: Tuning;
  readonly tempo: Bpm;
  readonly limits: Limits;
}

/** What a note is to its chord. */
export type ChordTone = 'root' | 'third' | 'fifth' | 'seventh' | 'passing';

export interface LineNote {
  /** Of its spot, and of the note that is written. */
  readonly id: string;
  readonly pitches: readonly Pitch[];
  readonly chord: string;
  /** Of the lowest of its pitches. */
  readonly tone: ChordTone;
  /** Semitones under what the tune sounds there, above it if negative; null where the tune is silent. */
  readonly under: number | null;
  /** Other notes that would do, the best first. */
  readonly other: readonly LineWay[];
}

/** Notes that a teacher can choose for a spot. */
export interface LineWay {
  /** Semitones above the lowest home note of the instrument, lowest first: in another key the choice is the same degree. */
  readonly name: string;
  readonly pitches: readonly Pitch[];
}

export interface CompanionLine {
  readonly role: LineRole;
  /** With the bars, repeats, keys and tempo of the tune. */
  readonly tune: Tune;
  readonly notes: readonly LineNote[];
  /** Spots of choices that are not met: their bar is gone, or the note cannot be stopped here. */
  readonly missed: readonly string[];
  readonly breaches: readonly Breach[];
}

/** Rounds in which notes that the hand or the bow cannot do become dearer. */
const ROUNDS = 6;
/** What a note costs more after it broke something. */
const RAISE = 4;
/** Notes that are told as others that would do. */
const MOST_OTHERS = 5;
const SPEED: ReadonlySet<Rule> = new Set<Rule>(['notesPerSecond', 'crossingsPerSecond', 'shortest', 'skips']);

/**
 * The line of a role, in the rhythm that the contract bears: the role's own, else slower.
 * @param chosen by spot: the name of the way that a teacher wants there
 * @example companionLine('bass', { ...facts, tune: reel, limits: contractFor('violin', 2).limits }).notes[0].tone // 'root'
 */
export function companionLine(
  role: LineRole,
  context: LineContext,
  chosen: Readonly<Record<string, string>> = {},
): CompanionLine {
  let best: CompanionLine | null = null;
  for (const pace of PACES) {
    const spots = spotsOf(role, context.tune, harmonyOf(context.tune), context.limits, pace);
    const line = onSpots(role, context, spots, chosen);
    if (!best || line.breaches.length < best.breaches.length) best = line;
    if (!line.breaches.some(({ rule }) => SPEED.has(rule)) || role === 'bass' || role === 'off-beats') break;
  }
  return best!;
}

/** One or two notes that can be stopped together. */
export interface Stop {
  /** Lowest first. */
  readonly pitches: readonly Midi[];
  /** Of the lowest. */
  readonly string: number;
  readonly open: boolean;
}

function onSpots(
  role: LineRole,
  context: LineContext,
  spots: readonly Spot[],
  chosen: Readonly<Record<string, string>>,
): CompanionLine {
  const { tune, limits } = context;
  const sounding = spots.filter(({ sounds }) => sounds);
  const under = underSpots(tune, sounding);
  const layout = layoutOf(tune);
  const raised = new Map<string, number>();
  let crossing = 1;
  let best: CompanionLine | null = null;
  const places = stringsUnder(context, limits);
  const home = homeOf(context);
  // What a teacher chose is there; the notes beside it are looked at again, all others stay.
  const base = Object.keys(chosen).length > 0 ? onSpots(role, context, spots, {}) : null;
  const spoken = sounding.map(({ id }) => chosen[id] !== undefined);
  const wantedAt = sounding.map(({ id }, index): string | undefined => {
    if (spoken[index]) return chosen[id];
    if (!base || spoken[index - 1] || spoken[index + 1]) return undefined;
    return nameOf(base.notes[index]!.pitches.map(midi), home);
  });
  for (let round = 0; round < ROUNDS; round += 1) {
    const ways = places.map((choice) => {
      const stops = stopsOf(context, choice, role);
      const all = sounding.map((spot, index) =>
        stops.map((stop) => ({
          stop,
          price:
            notePrice(role, stop, under[index]!, {
              isFirst: index === 0,
              isLast: index === sounding.length - 1,
              limits,
            }) + (raised.get(`${spot.id} ${nameOf(stop.pitches, home)}`) ?? 0),
        })),
      );
      const options = all.map((own, index) => {
        const wanted = own.filter(({ stop }) => nameOf(stop.pitches, home) === wantedAt[index]);
        return wanted.length > 0 ? wanted : own;
      });
      const way = cheapestWay(options, (before, after, index) =>
        joinPrice(role, before, after, under[index - 1]!, under[index]!, crossing),
      );
      return { ...way, all };
    });
    const way = ways.reduce((one, other) => (other.cost < one.cost - 1e-9 ? other : one));
    const line = written(role, context, spots, under, { ...way, home, wished: chosen });
    const breaches = weighVersion(
      { ...context, hand: handSlice.first, bow: bowSlice.first },
      line.tune,
      formLike(line.tune, layout),
      limits,
    );
    if (!best || breaches.length < best.breaches.length) best = { ...line, breaches };
    if (breaches.length === 0) break;
    const at = new Map(sounding.map(({ id }, index) => [id, way.chosen[index]!]));
    for (const { note, rule } of breaches) {
      const stop = at.get(note);
      if (!stop) continue;
      if (rule === 'skips' || rule === 'crossingsPerSecond') crossing *= 1.5;
      const key = `${note} ${nameOf(stop.pitches, home)}`;
      raised.set(key, (raised.get(key) ?? 0) + RAISE);
    }
  }
  return best!;
}

const nameOf = (pitches: readonly Midi[], home: Midi): string => pitches.map((pitch) => pitch - home).join(' ');

/** The lowest home note that the strings have. */
function homeOf({ tune, tuning }: LineContext): Midi {
  const lowest = Math.min(...tuning.pitches.map(midi));
  const tonic = tune.bars[0] ? chroma(tune.bars[0].key.tonic) : 0;
  return lowest + ((tonic - lowest + 1200) % 12);
}

/** What the tune and its chord do while a spot sounds. */
interface Under {
  readonly spot: Spot;
  readonly chord: Harmony | null;
  /** What the tune sounds when it begins, and later on a beat of it. */
  readonly tops: readonly Midi[];
  readonly key: Tune['bars'][number]['key'];
}

function underSpots(tune: Tune, spots: readonly Spot[]): readonly Under[] {
  const harmony = harmonyOf(tune);
  const sounds = soundingNotes(tune);
  const top = ({ note }: SoundingNote): Midi => midi(note.heads.at(-1)!.pitch);
  let first = 0;
  return spots.map((spot) => {
    while (first < sounds.length && sounds[first]!.onset + sounds[first]!.duration <= spot.from) first += 1;
    const tops: Midi[] = [];
    for (let at = first; at < sounds.length && sounds[at]!.onset < spot.to; at += 1) tops.push(top(sounds[at]!));
    return { spot, chord: chordAt(harmony, spot.from), tops, key: tune.bars[spot.barIndex]!.key };
  });
}

/** What can be stopped: single notes; and with an open string, where two may sound at once. */
function stopsOf(
  { limits, tuning }: LineContext,
  places: ReadonlyMap<Midi, readonly number[]>,
  role: LineRole,
): readonly Stop[] {
  const open = tuning.pitches.map(midi);
  const single = [...places].map(([pitch, strings]): Stop => {
    const string = strings.find((one) => open[one] === pitch) ?? strings[0]!;
    return { pitches: [pitch], string, open: open[string] === pitch };
  });
  const two = limits.doubleStops !== 'none' && (role === 'drone' || role === 'off-beats');
  if (!two) return single;
  const pairs = single.flatMap((low) =>
    single.flatMap((high): Stop[] => {
      const neighbours = high.string === low.string + 1 && high.pitches[0]! > low.pitches[0]!;
      if (!neighbours || !(low.open || high.open)) return [];
      return [{ pitches: [low.pitches[0]!, high.pitches[0]!], string: low.string, open: low.open && high.open }];
    }),
  );
  return [...single, ...pairs];
}

/** What a pitch is to a chord. */
function toneOf(pitch: Midi, chord: Harmony | null): ChordTone {
  if (!chord || !chord.tones.includes(pitch % 12)) return 'passing';
  const above = (pitch - chord.tones[0]! + 120) % 12;
  if (above === 0) return 'root';
  if (above === 3 || above === 4) return 'third';
  return above >= 6 && above <= 8 ? 'fifth' : 'seventh';
}

const CLASHES: ReadonlySet<number> = new Set([1, 11]);

function notePrice(
  role: LineRole,
  stop: Stop,
  under: Under,
  { isFirst, isLast, limits }: { readonly isFirst: boolean; readonly isLast: boolean; readonly limits: Limits },
): number {
  const prices: LinePrices = LINE_PRICES[role];
  const { chord, spot, tops, key } = under;
  const place = spot.strong ? 'strong' : spot.onBeat ? 'beat' : 'off';
  let price = stop.open ? 0 : prices.stopped;
  if (isFirst && toneOf(stop.pitches[0]!, chord) !== 'root') price += prices.turned;
  for (const [voice, pitch] of stop.pitches.entries()) {
    const tone = toneOf(pitch, chord);
    price += tone === 'passing' ? prices.passing[place] : prices.tones[tone];
    const spelled = spellInKey(pitch, key);
    if ((key.signature[spelled.letter] ?? 0) !== spelled.alter)
      price += limits.accidentals === 0 ? FORBIDDEN : tone === 'passing' ? prices.strangePassing : prices.strange;
    const first = tops[0];
    if (first !== undefined) {
      const away = first - pitch;
      if (away < 0) price += prices.above + prices.aboveStep * -away;
      if (voice === stop.pitches.length - 1) price += prices.interval(away);
      price += prices.away * Math.max(0, Math.abs(away) - FAR);
    }
    // What the tune passes through does not clash: what it begins with there does.
    tops.forEach((top, index) => {
      if (CLASHES.has(Math.abs(top - pitch) % 12)) price += index === 0 ? prices.clash : prices.clash * PASSED;
    });
    if (isLast && tone !== 'root' && !(tone === 'third' && role !== 'bass')) price += prices.rest;
  }
  if (stop.pitches.length > 1) price += prices.two;
  return price + prices.high * (stop.pitches[0]! / 12);
}
/** A note outside the signature where none may be. */
const FORBIDDEN = 60;
/** The line may lie so far from the tune, in semitones, before that costs. */
const FAR = 16;
/** What a clash costs with a note that the tune only passes through, as a share. */
const PASSED = 0.15;

function joinPrice(role: LineRole, before: Stop, after: Stop, from: Under, to: Under, crossing: number): number {
  const prices = LINE_PRICES[role];
  const step = after.pitches[0]! - before.pitches[0]!;
  const size = Math.abs(step);
  let price = size > 2 ? prices.leap * (size - 2) : 0;
  if (size > 7) price += prices.wide;
  const strings = Math.abs(after.string - before.string);
  price += prices.crossing * crossing * strings + (strings > 1 ? prices.skip * crossing : 0);
  const sameChord = from.chord !== null && from.chord === to.chord;
  if (step === 0) price += sameChord ? prices.again : prices.held;
  if (!sameChord && toneOf(after.pitches[0]!, to.chord) !== 'root') price += prices.turned;
  const [was, is] = [from.tops[0], to.tops[0]];
  if (was !== undefined && is !== undefined && was !== is && step !== 0) {
    const [one, other] = [(was - before.pitches[0]! + 120) % 12, (is - after.pitches[0]! + 120) % 12];
    // Two voices that move alike at a fifth or an octave are one voice.
    if (one === other && (one === 0 || one === 7)) price += prices.parallel;
  }
  return price;
}

function written(
  role: LineRole,
  { tune }: LineContext,
  spots: readonly Spot[],
  under: readonly Under[],
  {
    chosen,
    all,
    home,
    wished,
  }: {
    readonly chosen: readonly Stop[];
    readonly all: readonly (readonly Option<Stop>[])[];
    readonly home: Midi;
    readonly wished: Readonly<Record<string, string>>;
  },
): Omit<CompanionLine, 'breaches'> {
  const starts = barStarts(tune.bars);
  const stops = new Map(under.map(({ spot }, index) => [spot.id, chosen[index]!]));
  const events: TuneEvent[][] = tune.bars.map(() => []);
  for (const { id, barIndex, from, to } of spots) {
    const stop = stops.get(id);
    const { key } = tune.bars[barIndex]!;
    const place = { id, at: from - starts[barIndex]!, duration: to - from, value: valueOf(to - from)! };
    events[barIndex]!.push(
      stop
        ? { kind: 'note', ...place, heads: stop.pitches.map((pitch) => ({ pitch: spellInKey(pitch, key) })) }
        : { kind: 'rest', ...place },
    );
  }
  const notes = under.map(({ spot, chord, tops, key }, index): LineNote => {
    const stop = chosen[index]!;
    const other = all[index]!.filter((option) => option.stop !== stop)
      .toSorted((a, b) => a.price - b.price)
      .slice(0, MOST_OTHERS);
    return {
      id: spot.id,
      pitches: stop.pitches.map((pitch) => spellInKey(pitch, key)),
      chord: chord?.name ?? '',
      tone: toneOf(stop.pitches[0]!, chord),
      under: tops[0] === undefined ? null : tops[0] - stop.pitches.at(-1)!,
      other: other.map(({ stop: { pitches } }) => ({
        name: nameOf(pitches, home),
        pitches: pitches.map((pitch) => spellInKey(pitch, key)),
      })),
    };
  });
  const missed = Object.entries(wished).flatMap(([id, name]) => {
    const stop = stops.get(id);
    return stop && nameOf(stop.pitches, home) === name ? [] : [id];
  });
  return { role, tune: { ...tune, bars: withChords(tune, events), slurs: [] }, notes, missed };
}

/** The tune's written chords stay over the line. */
function withChords(tune: Tune, events: readonly (readonly TuneEvent[])[]): Tune['bars'] {
  return tune.bars.map((bar, index) => {
    const own = events[index]!;
    const symbols = new Map<string, string>();
    for (const { at, chordSymbol } of bar.events) {
      const over = own.findLast((event) => event.at <= at);
      if (chordSymbol !== undefined && over && !symbols.has(over.id)) symbols.set(over.id, chordSymbol);
    }
    return {
      ...bar,
      events: own.map((event) => (symbols.has(event.id) ? { ...event, chordSymbol: symbols.get(event.id)! } : event)),
    };
  });
}

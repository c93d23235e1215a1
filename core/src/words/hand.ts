/** Why a finger is where it is, and what another way would cost. */
import type { Because, FingeredNote, RuleDifference } from '../hand/index.ts';
import { stringNames, type Instrument } from '../instrument/index.ts';
import { USUAL_NAMES, type Names } from '../paper/index.ts';
import { fingerText } from './fingers.ts';
import { limitText } from './handTrouble.ts';
import { RULES } from './handRules.ts';

const NUMBERS = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'] as const;
const number = (count: number) => NUMBERS[count] ?? String(count);
/** Reasons beyond these are too small to say. */
const MAX_REASONS = 3;

/** @example reasonTexts([{ rule: 'crossing', count: 2, price: 1400 }]) // ['two more string crossings'] */
export function reasonTexts(differences: readonly RuleDifference[]): readonly string[] {
  return differences.slice(0, MAX_REASONS).map(({ rule, count, price }) => {
    const size = Math.abs(count);
    const words = size === 1 ? RULES[rule].one : RULES[rule].many;
    if (count > 0) return `${number(size)} more ${words}`;
    if (count < 0) return `${number(size)} fewer ${words}`;
    return `${RULES[rule].many} with ${price > 0 ? 'less' : 'more'} time`;
  });
}

/**
 * What wishes do to a tune, beside the all-round ones: what they avoid, and what they take instead.
 * @example effectTexts([{ rule: 'longFourth', count: -2, price: -500 }]) // ['avoids two long notes on the fourth finger']
 */
export function effectTexts(differences: readonly RuleDifference[]): readonly string[] {
  const counted = (sign: 1 | -1) =>
    differences
      .filter(({ count }) => count * sign > 0)
      .slice(0, MAX_REASONS)
      .map(
        ({ rule, count }) => `${number(Math.abs(count))} ${Math.abs(count) === 1 ? RULES[rule].one : RULES[rule].many}`,
      );
  const [avoided, taken] = [counted(-1), counted(1)];
  return [
    ...(avoided.length > 0 ? [`avoids ${avoided.join(', ')}`] : []),
    ...(taken.length > 0 ? [`takes ${taken.join(', ')} instead`] : []),
  ];
}

const COUNTED = {
  crossings: RULES.crossing,
  shifts: RULES.shift,
  extensions: RULES.extension,
  blocks: { one: 'block', many: 'blocks' },
  hops: { one: 'hop', many: 'hops' },
} as const;

/** @example totalsText({ crossings: 16, shifts: 0, extensions: 6, blocks: 1, hops: 0 }) // '16 string crossings, 6 extensions, 1 block in all' */
export function totalsText(totals: Readonly<Record<keyof typeof COUNTED, number>>): string {
  const told = (Object.keys(COUNTED) as (keyof typeof COUNTED)[])
    .filter((kind) => totals[kind] > 0)
    .map((kind) => `${totals[kind]} ${totals[kind] === 1 ? COUNTED[kind].one : COUNTED[kind].many}`);
  return told.length > 0 ? `${told.join(', ')} in all` : 'The hand stays, on one string';
}

const MOVING_TIMES = {
  'open-string': ', and the hand moves while the open string sounds',
  rest: ', and the hand moves in the rest',
  join: ', and the hand moves between the phrases',
} as const;

/** What decides for a finger, as a teacher says it. @example becauseText({ kind: 'reaches', position: 'I' }, fingering.notes[0], INSTRUMENT.violin) // '3 stretches, and the hand stays in I' */
export function becauseText(
  because: Because,
  { stops }: Pick<FingeredNote, 'stops'>,
  instrument: Instrument,
  called: Names = USUAL_NAMES,
): string {
  const top = stops.at(-1)!;
  const finger = top.finger === 0 ? 'open' : fingerText(top, called);
  const string = `${stringNames(instrument)[top.string]!} string`;
  const place = 'position' in because ? (because.position === 'half' ? 'half position' : because.position) : '';
  switch (because.kind) {
    case 'pedal':
      return 'open, because it rings on while the other notes move';
    case 'beside-pedal':
      return `on the ${string}, so that the open string rings on`;
    case 'turns-back':
      return `${finger}, because the line goes back down`;
    case 'same-string':
      return `${finger}, because the line is on the ${string}`;
    case 'goes-on':
      return `${finger}, because the line goes on along the ${string}`;
    case 'comes-down':
      return `${finger}, because the line comes down the ${string}`;
    case 'open':
      return `${finger}, the surest of all`;
    case 'limit':
      return `${finger}: ${because.limits.map(limitText).join('; ')}`;
    case 'across':
      return `${top.finger} stays over both strings`;
    case 'reaches':
      return `${top.finger} ${top.finger === 1 ? 'reaches back' : 'stretches'}, and the hand stays in ${place}`;
    case 'moves': {
      const when = because.during ? MOVING_TIMES[because.during] : '';
      return because.notes > 1
        ? `to ${place}: the next ${number(because.notes)} notes lie there${when}`
        : `to ${place} for this note${when}`;
    }
    case 'lies':
      return because.notes > 1
        ? `${place}: the next ${number(because.notes)} notes lie there`
        : `${place}, where the hand is`;
    case 'home':
      return `${finger}, its place in ${place}`;
    case 'again':
      return `${top.finger} stays down until it is needed again`;
    case 'usual':
      return 'as the same phrase has it elsewhere';
    case 'harmonic':
      return 'the harmonic has time to ring';
  }
}

/**
 * Why a note is fingered as it is, a reason a line.
 * @example whyTexts({ ...fingering.notes[0], why: { choice: 'only', because: [] } }, INSTRUMENT.violin) // ['the only way here']
 */
export function whyTexts(
  note: Pick<FingeredNote, 'why' | 'stops'>,
  instrument: Instrument,
  called: Names = USUAL_NAMES,
): readonly string[] {
  if (!note.why || note.stops.length === 0) return [];
  if (note.why.choice === 'set') return ['set by you'];
  const said = note.why.because.map((because) => becauseText(because, note, instrument, called));
  return note.why.choice === 'only' ? ['the only way here', ...said.slice(0, 1)] : said;
}

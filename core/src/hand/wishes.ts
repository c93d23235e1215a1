/**
 * What a teacher or a learner prefers: named presets, each a set of limits and of weights on the rules,
 * with an inside that can be looked at and changed. Section "Left hand" of the domain, decision 8.
 */
import { z } from 'zod';
import type { HandModel } from './hands/index.ts';
import { resolveLimits, type LimitLayer, type ResolvedLimits } from './limits.ts';
import { type HandLimits } from './handLimits.ts';
import { PLAIN_WEIGHTS, RULE_NAMES, type RuleName, type Weights } from './ruleNames.ts';

export const PRESET_IDS = [
  'all-round',
  'first-lessons',
  'ringing',
  'one-string',
  'no-fourth',
  'small-hands',
  'third-position',
  'orchestra',
] as const;
export type PresetId = (typeof PRESET_IDS)[number];

export interface Preset {
  readonly id: PresetId;
  readonly name: string;
  /** One sentence: for whom, and what it does. */
  readonly text: string;
  readonly limits: HandLimits;
  /** Weights that differ from 1. */
  readonly weights: Partial<Weights>;
}

export const PRESETS: Readonly<Record<PresetId, Preset>> = {
  'all-round': {
    id: 'all-round',
    name: 'All-round',
    text: 'What comes easiest to this hand, whatever its limits.',
    limits: {},
    weights: {},
  },
  'first-lessons': {
    id: 'first-lessons',
    name: 'First lessons',
    text: 'First position, open strings, no fourth finger on violin and viola, no stretches.',
    limits: { maxPosition: 'I', noFourth: true, noExtension: true },
    weights: { moved: 1.5, lowFirst: 2, hop: 1.5 },
  },
  ringing: {
    id: 'ringing',
    name: 'Fiddle with ringing strings',
    text: 'Lets open strings ring wherever they fit; the hand stays in first position unless it must not.',
    limits: {},
    weights: { ring: 1, fourth: 1.25, position: 2, crossing: 0.8 },
  },
  'one-string': {
    id: 'one-string',
    name: 'One-string tone',
    text: 'Keeps a phrase on the string that it is on, for an even tone, and avoids open strings.',
    limits: {},
    weights: { crossing: 3, position: 0.3, shift: 0.75, openTone: 2, fourth: 0.5, sameShift: 1.5 },
  },
  'no-fourth': {
    id: 'no-fourth',
    name: 'No fourth finger',
    text: 'For a learner whose fourth finger is not ready.',
    limits: { noFourth: true },
    weights: {},
  },
  'small-hands': {
    id: 'small-hands',
    name: 'Small hands',
    text: 'No stretches; no long notes on the fourth finger, wide double stops, or low first with a high third.',
    limits: { noExtension: true },
    weights: {
      longFourth: 10,
      spread: 8,
      lowFirst: 1.5,
      reach: 2,
      double: 1.5,
      wideDouble: 5,
      shift: 0.9,
      position: 0.5,
    },
  },
  'third-position': {
    id: 'third-position',
    name: 'Third position learner',
    text: 'Up to III, and glad to use it: staying there is cheap, going there in quick notes is not.',
    limits: { maxPosition: 'III' },
    weights: { position: 0.02, openTone: 1, fourth: 0.5, longFourth: 0.2, moved: 0.5, sameShift: 1.5 },
  },
  orchestra: {
    id: 'orchestra',
    name: 'Orchestra',
    text: 'Even tone and safe places: few open strings on long notes, no finger hopping, shifts where there is time.',
    limits: {},
    weights: { openTone: 0.75, hop: 1.5, slide: 1.5, slurShift: 1.5, harmonic: 1.5 },
  },
};

/**
 * Teachers differ in whether a fourth finger or an open string comes first; without a word, the line decides.
 * `times` changes how much a rule counts, `least` how much it counts at least.
 */
export const OPEN_STRINGS = {
  fourth: {
    title: 'the fourth finger first',
    times: { fourth: 0.3, longFourth: 0.5, openTurn: 3 },
    least: { openTone: 3 },
  },
  open: { title: 'the open string first', times: { fourth: 1.5, openTurn: 0 }, least: { ring: 1 } },
} as const satisfies Record<
  string,
  { readonly title: string; readonly times: Partial<Weights>; readonly least: Partial<Weights> }
>;
export type OpenStrings = keyof typeof OPEN_STRINGS;
export const OPEN_STRING_IDS = Object.keys(OPEN_STRINGS) as readonly OpenStrings[];

/** What an arrangement, or a part of it, wishes. */
export interface HandWishes {
  readonly preset: PresetId;
  /** Left out, the line decides. */
  readonly openStrings?: OpenStrings;
  /** Changed weights, over the preset's. */
  readonly weights?: Partial<Weights>;
}

export const FIRST_WISHES: HandWishes = { preset: 'all-round' };

/** Nobody counts a rule more than this. */
const MOST_WEIGHT = 10;
export const wishesSchema = z.strictObject({
  preset: z.enum(PRESET_IDS),
  openStrings: z.enum(OPEN_STRING_IDS).optional(),
  weights: z.partialRecord(z.enum(RULE_NAMES), z.number().min(0).max(MOST_WEIGHT)).optional(),
}) satisfies z.ZodType<HandWishes, HandWishes>;

/** Steps of "how much it counts" that people choose among. */
export const WEIGHT_STEPS = [
  { value: 0, text: 'not at all' },
  { value: 0.5, text: 'less' },
  { value: 1, text: 'as usual' },
  { value: 2, text: 'more' },
  { value: 4, text: 'much more' },
] as const;

/** The rules that the inside of a preset shows, in the words of a wish. */
export const WISH_RULES: readonly { readonly rule: RuleName; readonly text: string }[] = [
  { rule: 'fourth', text: 'Avoid the fourth finger' },
  { rule: 'longFourth', text: 'No long notes on the fourth finger' },
  { rule: 'moved', text: 'Avoid low and high fingers' },
  { rule: 'extension', text: 'Avoid stretches' },
  { rule: 'spread', text: 'No low first with a high third' },
  { rule: 'wideDouble', text: 'No wide double stops' },
  { rule: 'reach', text: 'Avoid opening and closing the hand' },
  { rule: 'crossing', text: 'Stay on one string' },
  { rule: 'hop', text: 'Avoid a finger hopping across' },
  { rule: 'slide', text: 'Avoid a finger sliding about' },
  { rule: 'position', text: 'Stay in first position' },
  { rule: 'shift', text: 'Avoid shifts' },
  { rule: 'slurShift', text: 'No shifts inside a slur' },
  { rule: 'openTone', text: 'Avoid open strings' },
  { rule: 'openTurn', text: 'No open string where the line turns back' },
  { rule: 'ring', text: 'Let open strings ring' },
  { rule: 'harmonic', text: 'Avoid harmonics' },
  { rule: 'usual', text: 'Same phrase, same fingers' },
];

export interface Profile extends ResolvedLimits {
  readonly weights: Weights;
}

const known = new Map<string, Profile>();
/** Each mixture that a teacher tries makes one; beyond so many they are begun anew. */
const MOST_KNOWN = 500;

/**
 * Limits and weights that hold for these wishes; the same object for the same wishes, so that what was priced
 * for it is found again.
 * @param layers limits beside the instrument's and the preset's
 * @example profileOf(HANDS.violin, { preset: 'no-fourth' }, [teacherLimits({ noFourth: false })]).limits.noFourth // false
 */
export function profileOf(hand: HandModel, wishes: HandWishes, layers: readonly LimitLayer[]): Profile {
  const key = JSON.stringify([hand.id, wishes.preset, wishes.openStrings, wishes.weights, layers]);
  let profile = known.get(key);
  if (profile) return profile;
  if (known.size >= MOST_KNOWN) known.clear();
  known.set(key, (profile = mixed(hand, wishes, layers)));
  return profile;
}

function mixed(hand: HandModel, wishes: HandWishes, layers: readonly LimitLayer[]): Profile {
  const preset = PRESETS[wishes.preset];
  const resolved = resolveLimits(hand, [{ by: 'preset', name: preset.name, limits: preset.limits }, ...layers]);
  const taught = hand.school && (resolved.limits[hand.school.limit] ?? null);
  const school = hand.school?.choices.find(({ id }) => id === taught)?.weights ?? {};
  const open: { readonly times: Partial<Weights>; readonly least: Partial<Weights> } | null = wishes.openStrings
    ? OPEN_STRINGS[wishes.openStrings]
    : null;
  const weights = Object.fromEntries(
    RULE_NAMES.map((rule) => {
      const own = wishes.weights?.[rule];
      const usual = preset.weights[rule] ?? PLAIN_WEIGHTS[rule];
      const first = Math.max(usual * (open?.times[rule] ?? 1), open?.least[rule] ?? 0);
      return [rule, (own ?? first) * (school[rule] ?? 1)];
    }),
  ) as Weights;
  // Known by who it is: by plain weights a fingering costs the effort it asks.
  const plain = RULE_NAMES.every((rule) => weights[rule] === PLAIN_WEIGHTS[rule]);
  return { ...resolved, weights: plain ? PLAIN_WEIGHTS : weights };
}

/** Strings and their load in words. */
import type { Frame } from '../hand/index.ts';
import type { Semitones } from '../music/index.ts';
import { IN_TUNE } from '../practice/index.ts';
import type { CautionLevel, RetuningStep, StringTension, TuningCheck } from '../instrument/index.ts';

const ADVICE: Readonly<Record<CautionLevel, string>> = {
  none: '',
  note: 'Turn slowly, and see that the bridge stays upright.',
  caution:
    'This loads the string, bridge and top. Turn slowly, see that the bridge stays upright, and keep your eyes away from the string.',
  advise:
    'This is more than these strings are made for. Use another gauge, and ask a luthier first, all the more for an old instrument.',
  slack: 'A string this slack sounds rough and rattles. A thicker gauge will do better.',
};

/**
 * Advice for each string that needs some, those with the same advice together, the loudest first.
 * @example stringCautions([]) // []
 */
export function stringCautions(strings: readonly StringTension[]): readonly string[] {
  const levels: readonly CautionLevel[] = ['advise', 'caution', 'slack', 'note'];
  return levels.flatMap((level) => {
    const names = strings.filter((string) => string.level === level).map(({ name }) => name);
    if (names.length === 0) return [];
    const which =
      names.length === 1 ? `${names[0]} string` : `${names.slice(0, -1).join(', ')} and ${names.at(-1)} strings`;
    return [`${which}: ${ADVICE[level]}`];
  });
}

const CHECKS: Readonly<Record<TuningCheck, string>> = {
  unison: 'in unison with',
  octave: 'an octave from',
  fifth: 'a fifth from',
  fourth: 'a fourth from',
};

/**
 * One step of the way to a tuning: which peg, how far, and what to check it against.
 * @example retuningText({ name: 'G', semitones: 2, to: 'A3', check: { how: 'octave', name: 'A' } }) // 'G peg: 2 semitones (200 cents) up to A3, an octave from the open A string'
 */
export function retuningText({ name, semitones, to, check }: RetuningStep): string {
  const size = Math.abs(semitones);
  const far = `${size} ${size === 1 ? 'semitone' : 'semitones'} (${100 * size} cents) ${semitones > 0 ? 'up' : 'down'}`;
  return `${name} peg: ${far} to ${to}${check ? `, ${CHECKS[check.how]} the open ${check.name} string` : ''}`;
}

/**
 * How a string stands to its pitch.
 * @param cents above it, below if negative
 * @example tunedText(-12.4) // '12 cents too low: tighten a touch'
 */
export function tunedText(cents: number): string {
  const size = Math.round(Math.abs(cents));
  if (Math.abs(cents) <= IN_TUNE) return 'In tune';
  const how = size > 60 ? '' : size > 20 ? ' a little' : ' a touch';
  return `${size} cents too ${cents < 0 ? 'low: tighten' : 'high: slacken'}${how}`;
}

/**
 * How two strings stand to each other.
 * @param beats a second; null while nothing is known
 * @example beatsText(0, 'fifth') // 'A pure fifth: it stands still'
 */
export function beatsText(beats: number | null, interval: string): string {
  if (beats === null) return 'Play both strings, long and even';
  if (beats < 0.3) return `A pure ${interval}: it stands still`;
  return `The ${interval} beats ${beats.toFixed(1)} times a second: turn until it slows and stands still`;
}

/**
 * What a tape at a place on the string is called: by the finger that lies there in first position, or by the position whose first
 * finger it marks; by its semitones where nothing else does.
 * @example tapeName(framesFor(HANDS.violin), 2) // '1st finger'
 * @example tapeName(framesFor(HANDS.violin), 3) // 'low 2nd finger'
 */
export function tapeName(frames: readonly Frame[], semitones: Semitones): string {
  const places = frames
    .filter(({ position }) => position === 'I')
    .flatMap(({ places: own }) => own)
    .filter((place) => place.semitones === semitones && place.sign !== 'harmonic');
  const first =
    ['home', 'low', 'high'].flatMap((sign) => places.filter((place) => place.sign === sign))[0] ?? places[0];
  if (first?.sign === 'extended') return `${ORDINAL_FINGERS[first.finger]} finger, stretched`;
  if (first) return `${first.sign === 'home' ? '' : `${first.sign} `}${ORDINAL_FINGERS[first.finger]} finger`;
  const frame = frames.find(({ base }) => base === semitones);
  return frame ? `1st finger in ${frame.position}` : `${semitones} semitones`;
}
const ORDINAL_FINGERS = ['open', '1st', '2nd', '3rd', '4th'] as const;

/** Strings and their load in words. */
import { midi, pitch } from '../music/index.ts';
import type { CautionLevel, StringTension } from '../instrument/index.ts';

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
 * Short advice about a retuning; empty where none is due.
 * @example cautionText('none') // ''
 */
export const cautionText = (level: CautionLevel): string => ADVICE[level];

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

/**
 * The way to a tuning, string by string: which peg, how far, and what to check it against.
 * @param back the way back to the usual tuning
 * @example retuningSteps([]) // []
 */
export function retuningSteps(strings: readonly StringTension[], back = false): readonly string[] {
  const moved = strings.filter(({ semitones }) => semitones !== 0);
  // What goes down first takes load off before anything is wound up.
  const ordered = [...moved].sort((a, b) => (back ? b.semitones - a.semitones : a.semitones - b.semitones));
  return ordered.map(({ name, from, to, semitones }) => {
    const way = back ? -semitones : semitones;
    const aim = back ? from : to;
    const size = Math.abs(way);
    const far = `${size} ${size === 1 ? 'semitone' : 'semitones'} (${100 * size} cents) ${way > 0 ? 'up' : 'down'}`;
    return `${name} peg: ${far} to ${aim}${checkText(strings, name, aim, back)}`;
  });
}

/** Against another open string that makes an octave, a fifth or a fourth with it, best one that stays as it is. */
function checkText(strings: readonly StringTension[], name: string, aim: string, back: boolean): string {
  const target = midi(pitch(aim));
  const others = strings
    .filter((other) => other.name !== name)
    .map((other) => ({ other, at: midi(pitch(back ? other.from : other.to)) }));
  for (const [size, called] of CHECKS) {
    const found = others
      .filter(({ at }) => Math.abs(at - target) === size)
      .sort((a, b) => Number(a.other.semitones !== 0) - Number(b.other.semitones !== 0))[0];
    if (found) return `, ${called} the open ${found.other.name} string`;
  }
  return '';
}
const CHECKS = [
  [0, 'in unison with'],
  [12, 'an octave from'],
  [7, 'a fifth from'],
  [5, 'a fourth from'],
] as const;

/** Strings and their load in words. */
import type { CautionLevel } from '../instrument/index.ts';

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

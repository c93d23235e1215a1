/** What was changed to make a version, in words. */
import type { Change } from '../grade/index.ts';
import { USUAL_NAMING, noteName, type Naming } from './naming.ts';

/**
 * One change, as a sentence.
 * @example changeText({ kind: 'grace', bar: 1, beat: 1, noteId: 'n1', kept: pitch('A4'), dropped: [] }) // 'Without the grace note.'
 */
export function changeText({ kind, kept, dropped }: Change, naming: Naming = USUAL_NAMING): string {
  const name = noteName(kept, naming);
  switch (kind) {
    case 'left-out':
      return `${name} carries the beat; ${dropped.map((pitch) => noteName(pitch, naming)).join(' ')} left out.`;
    case 'moved-to-beat':
      return `${name} comes on the beat.`;
    case 'one-note':
      return 'The top note alone, not the double stop.';
    case 'grace':
      return 'Without the grace note.';
    case 'sign':
      return 'Without the ornament.';
    case 'slur':
      return 'Every note has its own bow.';
  }
}

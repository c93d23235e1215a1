/** How relations are said on strips and in the panel. */
import type { Relation } from '@nokta/core/form';

/** "like A1 but for bar 4": how a phrase relates to an earlier one; empty for new material. */
export function relationText({ kind, differs }: Relation, like: string): string {
  if (kind === 'new' || !like) return '';
  const but = differs ? ` but for ${differs}` : '';
  const more = /^(a bar|more|less|from)/.test(differs) ? `, ${differs}` : but;
  return {
    same: `same as ${like}${but}`,
    'same-but-ending': `like ${like}${more}`,
    'same-but-start': `like ${like}${but}`,
    'same-start': `starts like ${like}, other ${differs}`,
    'same-rhythm': `rhythm of ${like}`,
    transposed: `like ${like}, ${differs}`,
    octave: `like ${like}, ${differs}`,
  }[kind];
}

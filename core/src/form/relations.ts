/**
 * Each phrase beside the earlier ones. Only those are compared that can have something to say: they share a bar at the
 * same place, a bar that moves alike, or their whole rhythm; so what is all new costs next to nothing, however long.
 */
import type { Relation } from './model.ts';
import { NOTHING, comparePhrases, moreTelling, type PhraseComparison, type PhraseSounds } from './relate.ts';

interface Known {
  readonly id: string;
  readonly sounds: PhraseSounds;
}

/** What so many earlier phrases have in common marks none of them; the first of them stand for all. */
const MOST_ALIKE = 40;
/** Notes that a bar has to have before its motion says something. */
const FEWEST_MOVED = 3;

export class Relations {
  readonly #known: Known[] = [];
  readonly #byKey = new Map<string, number[]>();

  /** What this phrase is of those before it; from now on it is one of them. */
  relate(id: string, sounds: PhraseSounds): Relation {
    const keys = keysOf(sounds);
    const near = new Set(keys.flatMap((key) => this.#byKey.get(key) ?? []));
    let best: PhraseComparison = NOTHING;
    let of: string | null = null;
    for (const index of [...near].sort((a, b) => a - b)) {
      const earlier = this.#known[index]!;
      const found = comparePhrases(sounds, earlier.sounds);
      if (found.kind === 'new' || !moreTelling(found, best)) continue;
      best = found;
      of = earlier.id;
      // Nothing tells more than the very same.
      if (found.kind === 'same' && found.differs.where === null && !found.differs.pickup) break;
    }
    this.#remember({ id, sounds }, keys);
    return { kind: best.kind, of, differs: best.differs, differences: best.differences };
  }

  #remember(phrase: Known, keys: readonly string[]): void {
    const index = this.#known.push(phrase) - 1;
    for (const key of keys) {
      const list = this.#byKey.get(key);
      if (!list) this.#byKey.set(key, [index]);
      else if (list.length < MOST_ALIKE) list.push(index);
    }
  }
}

function keysOf({ barTexts, barContours, rhythm }: PhraseSounds): readonly string[] {
  const keys = rhythm === null ? [] : [`r ${rhythm}`];
  barTexts.forEach((text, bar) => text !== '' && keys.push(`t${bar}${text}`));
  barContours.forEach((text, bar) => {
    if (text.split(' ').length > FEWEST_MOVED) keys.push(`c${bar}${text}`);
  });
  return [...new Set(keys)];
}

/** Bow patterns: laid over phrases, recorded from strokes, given up. */
import {
  BY_SYLLABLE,
  PATTERN_IDS,
  patternOf,
  recordedPattern,
  spanOf,
  type BowDecisions,
  type OwnPattern,
} from '@nokta/core/bow';
import type { Phrase } from '@nokta/core/form';
import { bowPatternText } from '@nokta/core/words';
import { useDesk } from '../rooms/store.ts';

/** Where a pattern is laid. */
export const PATTERN_SCOPES = ['phrase', 'same', 'selection', 'tune'] as const;
export type PatternScope = (typeof PATTERN_SCOPES)[number];

export function usePatternActions() {
  const desk = useDesk();
  const decided = (): BowDecisions | undefined => desk.record?.decisions.bow;
  const decide = (bow: Partial<BowDecisions>, label: string): Promise<void> => desk.decide({ bow }, label);

  /** The phrases that a pattern is laid over, or the notes that are chosen. */
  function stretches(scope: PatternScope): readonly { readonly from: string; readonly to: string }[] {
    const own = desk.selectedPhrase;
    if (scope === 'selection') {
      const chosen = desk.range.flatMap(({ ids }) => ids);
      return chosen.length > 0 ? [{ from: chosen[0]!, to: chosen.at(-1)! }] : [];
    }
    if (!own || scope === 'tune') return [];
    const phrases = scope === 'same' ? sameAs(desk.phrases, own) : [own];
    return phrases.flatMap(({ notes }) => (notes.length > 0 ? [{ from: notes[0]!, to: notes.at(-1)! }] : []));
  }

  /** What laying a pattern changes: where one lay before over the very same stretch, that one is taken away. */
  function patternChange(pattern: string | null, scope: PatternScope): Partial<BowDecisions> {
    const now = decided();
    if (!now) return {};
    if (scope === 'tune') return { pattern };
    const over = stretches(scope);
    const kept = now.laid.filter(({ from, to }) => !over.some((one) => one.from === from && one.to === to));
    // The tune's own pattern needs nobody to lay it.
    const laid =
      pattern === now.pattern && kept.length < now.laid.length ? [] : over.map((one) => ({ ...one, pattern }));
    return { laid: [...kept, ...laid] };
  }

  function layPattern(pattern: string | null, scope: PatternScope): Promise<void> {
    const name = pattern === null ? 'As the tune has it' : bowPatternText(pattern, decided()?.own).name;
    desk.spoken = name;
    return decide(patternChange(pattern, scope), `lay a pattern: ${name}`);
  }

  /** The pattern of a phrase: its own, or the tune's. */
  function patternAt(phrase: Phrase | null): string | null {
    const now = decided();
    const first = phrase?.notes[0];
    return now?.laid.findLast(({ from }) => from === first)?.pattern ?? now?.pattern ?? null;
  }

  /** The next pattern on the phrase of the selected note. */
  function nextPattern(): Promise<void> {
    const own = decided()?.own ?? [];
    const all = [null, ...PATTERN_IDS.filter((id) => id !== BY_SYLLABLE || hasWords()), ...own.map(({ id }) => id)];
    const at = all.indexOf(patternAt(desk.selectedPhrase));
    return layPattern(all[(at + 1) % all.length]!, 'phrase');
  }

  const hasWords = (): boolean =>
    desk.arrangement?.tune.bars.some(({ events }) => events.some((event) => event.kind === 'note' && event.words)) ??
    false;

  /** The strokes of the chosen notes as a pattern with a name. */
  function recordPattern(name: string): Promise<void> {
    const now = decided();
    const chosen = new Set(desk.range.flatMap(({ ids }) => ids));
    const strokes = (desk.arrangement?.bowing.strokes ?? []).filter(
      ({ notes, time }) => time === 1 && chosen.has(notes[0]!),
    );
    const recorded = desk.arrangement && recordedPattern(desk.arrangement.tune, strokes);
    if (!now) return Promise.resolve();
    if (!recorded) {
      desk.refused = 'These strokes are too many for a pattern: choose a bar or two.';
      return Promise.resolve();
    }
    const number = now.own.reduce((most, { id }) => Math.max(most, Number(id.split('-')[1])), 0) + 1;
    const pattern: OwnPattern = { id: `own-${number}`, name, ...recorded };
    desk.spoken = `${name}: groups of ${recorded.groups.join(', ')}`;
    return decide({ own: [...now.own, pattern] }, `keep the pattern ${name}`);
  }

  function dropPattern(id: string): Promise<void> {
    const now = decided();
    if (!now) return Promise.resolve();
    return decide(
      {
        own: now.own.filter((one) => one.id !== id),
        laid: now.laid.filter(({ pattern }) => pattern !== id),
        pattern: now.pattern === id ? null : now.pattern,
      },
      'give up a pattern',
    );
  }

  return { patternChange, layPattern, patternAt, nextPattern, recordPattern, dropPattern, hasWords };
}

/** Phrases that are the same as one, itself among them. */
export function sameAs(phrases: readonly Phrase[], one: Phrase): readonly Phrase[] {
  const rootOf = ({ id, relation }: Phrase) => (relation.kind === 'same' ? relation.of : id);
  return phrases.filter((phrase) => rootOf(phrase) === rootOf(one));
}

/** Short values of a pattern, as a row of groups: what it looks like. */
export function groupsOf(id: string, own: readonly OwnPattern[]): readonly number[] {
  const pattern = patternOf(id, own);
  if (!pattern) return [];
  const times = Math.max(1, Math.floor(8 / spanOf(pattern)));
  return Array.from({ length: times }, () => pattern.groups).flat();
}

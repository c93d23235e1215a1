/** Styles of paper that older programs kept in the browser: they go to the server, once, and are the same in every window. */
import { readStyle, type SheetStyle } from '@nokta/core/paper';
import { useKept } from '../kept/store.ts';
import { useLearners } from '../learners/store.ts';

const NAMED = 'nokta-sheet-styles';
const OF_HANDS = 'nokta-hand-styles';

/** @returns null where there is nothing, where it cannot be read, or where the browser's storage is closed */
function stored(key: string): unknown {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null');
  } catch {
    return null;
  }
}

/** @returns what was kept under names, whatever of it can be read */
function namedStyles(): readonly { readonly name: string; readonly style: SheetStyle }[] {
  const all = stored(NAMED);
  if (!Array.isArray(all)) return [];
  return all.flatMap((one: unknown) => {
    const { name, style } = (one ?? {}) as { name?: unknown; style?: unknown };
    return typeof name === 'string' && name.trim() ? [{ name: name.trim().slice(0, 60), style: readStyle(style) }] : [];
  });
}

export async function moveStyles(): Promise<void> {
  const kept = useKept();
  const learners = useLearners();
  if (stored(NAMED) !== null) {
    let all = true;
    for (const { name, style } of namedStyles()) all = (await kept.keep('style', name, { style })) && all;
    if (all) localStorage.removeItem(NAMED);
  }
  const ofHands = stored(OF_HANDS);
  if (ofHands === null || typeof ofHands !== 'object') return;
  await learners.need();
  if (learners.problem) return;
  for (const [name, style] of Object.entries(ofHands)) {
    // Hands were known by their names then.
    const learner = learners.all.find(({ value }) => value.person.name === name);
    if (learner && learner.value.paper.style === null) {
      learners.change(learner.id, (now) => ({ ...now, paper: { style: readStyle(style) } }), 'how their sheets look');
    }
  }
  localStorage.removeItem(OF_HANDS);
}

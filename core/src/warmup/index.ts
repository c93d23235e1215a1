/** Warm-ups made from the tune's own hard spots, for this hand. Section 7 of the domain. */
import type { Arrangement } from '../arrange/index.ts';
import { isNote, midi } from '../music/index.ts';
import { USUAL_NAMES, WARM_UP_KINDS, type Names, type WarmUpChoice, type WarmUpKind } from '../paper/index.ts';
import { arranged } from './drill.ts';
import { KINDS } from './kinds.ts';
import { warmUpWords, type WarmUpWords } from './text.ts';

export type { WarmUpWords };

export interface WarmUp extends WarmUpChoice, WarmUpWords {
  /** Unique within its arrangement. */
  readonly id: string;
  /** The drill, fingered and bowed. */
  readonly arrangement: Arrangement;
}

/** So many stand on the page at first: ten minutes' work. */
const MOST = 8;

/**
 * Every drill that the tune has a reason for, in the order in which they are played.
 * @example possibleWarmUps(arrangement)[0].kind // 'scale'
 */
export function possibleWarmUps(arrangement: Arrangement): readonly WarmUpChoice[] {
  const { tune } = arrangement;
  const fingers = new Set<string>();
  let spots = 0;
  return WARM_UP_KINDS.flatMap((kind) =>
    KINDS[kind].needs(arrangement).flatMap((note): readonly WarmUpChoice[] => {
      if (KINDS[kind].drill(arrangement, note) === null) return [];
      // One hard spot is not drilled twice under two names, nor once more where its bar comes again.
      if (note && OF_FINGERS.has(kind)) {
        const { events } = tune.bars[note.barIndex]!;
        const bar = JSON.stringify(
          events.map((one) => [one.duration, isNote(one) && one.heads.map(({ pitch }) => midi(pitch))]),
        );
        if (fingers.has(bar) || (kind === 'spot' && (spots += 1) > MOST_SPOTS)) return [];
        fingers.add(bar);
      }
      return [{ kind, note: note?.id ?? null }];
    }),
  );
}
const MOST_SPOTS = 2;
/** What the left hand finds hard: the reason is told by the first that names it. */
const OF_FINGERS: ReadonlySet<WarmUpKind> = new Set<WarmUpKind>(['block', 'shift', 'double-stop', 'spot']);

/**
 * The drills of an arrangement: those that the teacher kept, else those that it has a reason for. One whose note is
 * gone is left out.
 * @example warmUpsOf(arrangement)[0].title // 'Scale of G major'
 */
export function warmUpsOf(arrangement: Arrangement, names: Names = USUAL_NAMES): readonly WarmUp[] {
  const { warmUps } = arrangement.decisions.sheet;
  return (warmUps ?? possibleWarmUps(arrangement).slice(0, MOST)).flatMap((choice) =>
    warmUpOf(arrangement, choice, names),
  );
}

/** @example warmUpId({ kind: 'spot', note: 'n7' }) // 'spot-n7' */
export const warmUpId = ({ kind, note }: WarmUpChoice): string => (note === null ? kind : `${kind}-${note}`);

function warmUpOf(arrangement: Arrangement, choice: WarmUpChoice, names: Names): readonly WarmUp[] {
  const note = arrangement.fingering.notes.find(({ id }) => id === choice.note) ?? null;
  if (choice.note !== null && note === null) return [];
  const drill = KINDS[choice.kind].drill(arrangement, note);
  if (!drill) return [];
  const words = warmUpWords(choice.kind, arrangement, note, names);
  return [{ ...choice, ...words, id: warmUpId(choice), arrangement: arranged(arrangement, words.title, drill) }];
}
export * from './scale.ts';

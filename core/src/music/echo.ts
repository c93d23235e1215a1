/** A stretch of a tune played once more at once, an octave away: bars are cut, copied and made whole again. */
import { octaveOn, type Stretch } from './stretch.ts';
import { barLength, type Ticks } from './time.ts';
import { barStarts, type Bar, type EventId, type HeldPhrase, type Note, type Tune } from './tune.ts';

/** Why a stretch cannot be played again at once. */
export type NoEcho = 'uneven' | 'repeat-inside' | 'held-over';
export type Echoed = { readonly ok: true; readonly tune: Tune } | { readonly ok: false; readonly why: NoEcho };

/** Ids of an echo: its notes are others than those it echoes. @example echoId('n4') // 'e.n4' */
export const echoId = (id: EventId): EventId => `e.${id}`;

/** A bar, or what is left of it where it was cut. */
interface Piece extends Bar {
  /** The bar goes on in the next piece. */
  readonly cut?: boolean;
}

/**
 * The tune with a stretch played once more, an octave away, before it goes on. Signs of repeats and endings enclose
 * both; stretch and echo are held as phrases, so that they stay call and answer.
 * @param octaves up, down if negative
 * @example withEcho(reel, { from: 0, to: 26880 }, -1).ok // true
 */
export function withEcho(tune: Tune, stretch: Stretch, octaves: number): Echoed {
  const [before, own, after] = cutAt(tune.bars, stretch);
  const inner = own.slice(0, -1);
  if (own.length === 0) return { ok: false, why: 'uneven' };
  const leaves = inner.some((bar) => bar.repeatEnd || bar.endingStop || bar.jump || bar.fine);
  // A phrase that runs into an ending ends otherwise the next time: its echo would be heard once only.
  if (leaves || own.slice(1).some((bar) => bar.endings)) return { ok: false, why: 'repeat-inside' };
  const isHeld = ({ events }: Piece) =>
    events.at(-1)?.kind === 'note' && (events.at(-1) as Note).heads.some(({ tied }) => tied);
  if (isHeld(own.at(-1)!) || (before.length > 0 && isHeld(before.at(-1)!))) return { ok: false, why: 'held-over' };

  const called = own.map((piece, index) => (index === own.length - 1 ? withoutClosing(piece) : piece));
  const move = octaveOn(octaves);
  const echoed = own.map((piece) => withoutOpening(copied(piece, move)));
  const seam = joined(called, echoed, true);
  if (!seam) return { ok: false, why: 'uneven' };
  const opened = joined(before, seam, false);
  const bars = opened && joined(opened, after, false);
  if (!bars) return { ok: false, why: 'uneven' };

  const ids = new Set(own.flatMap(({ events }) => events.map(({ id }) => id)));
  const slurs = tune.slurs
    .filter(({ from, to }) => ids.has(from) && ids.has(to))
    .map(({ from, to }) => ({ from: echoId(from), to: echoId(to) }));
  const made = { ...tune, bars: bars.map((bar): Bar => without(bar, ['cut'])), slurs: [...tune.slurs, ...slurs] };
  return { ok: true, tune: withPhrases(made, own, after) };
}

/** The bars before a stretch, in it, and after it; those that an end of it goes through are cut. */
function cutAt(bars: readonly Bar[], { from, to }: Stretch): readonly [Piece[], Piece[], Piece[]] {
  const parts: [Piece[], Piece[], Piece[]] = [[], [], []];
  const starts = barStarts(bars);
  for (const [index, bar] of bars.entries()) {
    const start = starts[index]!;
    const cuts = [from - start, to - start].filter((at) => at > 0 && at < bar.length);
    let rest: Piece = bar;
    let done = 0;
    for (const at of cuts) {
      const [left, right] = cutBar(rest, at - done);
      parts[partOf(start + done)].push(left);
      rest = right;
      done = at;
    }
    parts[partOf(start + done)].push(rest);
  }
  return parts;

  function partOf(at: Ticks): 0 | 1 | 2 {
    return at < from ? 0 : at < to ? 1 : 2;
  }
}

function cutBar(bar: Piece, at: Ticks): readonly [Piece, Piece] {
  const left = withoutClosing({ ...bar, events: bar.events.filter((event) => event.at < at), length: at });
  const events = bar.events.filter((event) => event.at >= at).map((event) => ({ ...event, at: event.at - at }));
  const right = withoutOpening({ ...bar, id: `${bar.id}+`, events, length: bar.length - at, offset: bar.offset + at });
  return [{ ...left, cut: true }, right];
}

/** What stands at the left bar line of a bar, and at the right one. */
const OPENING: readonly (keyof Bar)[] = ['repeatStart', 'endings', 'label', 'segno', 'coda', 'tempo'];
const CLOSING: readonly (keyof Bar)[] = ['repeatEnd', 'endingStop', 'toCoda', 'fine', 'jump'];
const without = (bar: Piece, signs: readonly string[]): Piece =>
  Object.fromEntries(Object.entries(bar).filter(([name]) => !signs.includes(name))) as unknown as Piece;
const withoutOpening = (bar: Piece): Piece => without(bar, OPENING);
const withoutClosing = (bar: Piece): Piece => ({ ...without(bar, CLOSING), barline: 'single' });

function copied(piece: Piece, move: (note: Note) => Note): Piece {
  return {
    ...piece,
    id: echoId(piece.id),
    events: piece.events.map((event) => {
      const own = { ...event, id: echoId(event.id) };
      if (own.kind !== 'note') return own;
      const moved = move(own);
      return moved.graces
        ? { ...moved, graces: moved.graces.map((grace) => ({ ...grace, id: echoId(grace.id) })) }
        : moved;
    }),
  };
}

/**
 * Pieces and what follows them, the bar at the seam made whole again. Null where it does not add up.
 * @param anew the two did not follow each other before
 */
function joined(left: readonly Piece[], right: readonly Piece[], anew: boolean): readonly Piece[] | null {
  const [last, first] = [left.at(-1), right[0]];
  if (!last || !first || (!last.cut && !anew)) return [...left, ...right];
  const ends = last.offset + last.length;
  if (ends === first.offset && first.offset > 0) {
    const events = [...last.events, ...first.events.map((event) => ({ ...event, at: event.at + last.length }))];
    const { id, offset, key, metre } = last;
    if (metre.beats !== first.metre.beats || metre.unit !== first.metre.unit) return null;
    const opened = without(last, [...CLOSING, 'cut']);
    const whole = {
      ...opened,
      ...without(first, OPENING),
      id,
      offset,
      key,
      metre,
      events,
      length: last.length + first.length,
    };
    return [...left.slice(0, -1), whole, ...right.slice(1)];
  }
  const adds = first.offset === 0 && (ends === barLength(last.metre) || last.metre.symbol === 'free');
  return adds ? [...left, ...right] : null;
}

/** Call and answer as held phrases, each from its first note to the next one's. */
function withPhrases(tune: Tune, own: readonly Piece[], after: readonly Piece[]): Tune {
  const firstNote = (pieces: readonly Piece[]) =>
    pieces.flatMap(({ events }) => events.flatMap((event) => (event.kind === 'note' ? [event.id] : [])))[0];
  const call = firstNote(own);
  const next = firstNote(after);
  if (!call) return tune;
  const starts = new Map(
    tune.bars.flatMap((bar) =>
      bar.events.map((event) => [event.id, { note: event.id, bar: bar.id, at: event.at }] as const),
    ),
  );
  const [begins, answers, ends] = [starts.get(call)!, starts.get(echoId(call))!, next ? starts.get(next)! : null];
  const parting = tune.parting ?? { held: [], parts: [], order: [] };
  const others = parting.held.filter((one) => one.from.note !== call && one.to?.note !== next);
  const named = parting.held.find((one) => one.from.note === call);
  const held: readonly HeldPhrase[] = [...others, { ...named, from: begins, to: answers }, { from: answers, to: ends }];
  return { ...tune, parting: { ...parting, held } };
}

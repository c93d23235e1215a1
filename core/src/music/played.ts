/**
 * Played order: repeats, numbered endings, D.C., D.S., Fine and coda unfolded.
 * Whatever depends on direction or time runs on this order.
 */
import type { Bar, Jump } from './tune.ts';

export interface PlayedBar {
  readonly index: number;
  /** Which time the bar is being played, from 1. */
  readonly time: number;
}

/** No real tune is longer; guards against signs that send the player round for ever. */
const MAX_PLAYED_BARS = 20_000;

/** The bars in the order they sound. @example playedOrder(tuneOf('|: A8 |1 B8 :|2 c8 |]').bars).map(({ index }) => index) // [0, 1, 0, 2] */
export function playedOrder(bars: readonly Bar[]): readonly PlayedBar[] {
  const order: PlayedBar[] = [];
  const times = bars.map(() => 0);
  const segno = bars.findIndex((bar) => bar.segno);
  const coda = bars.findIndex((bar) => bar.coda);
  let sectionStart = 0;
  /** The section was opened by a repeat sign; a double bar inside it then means nothing. */
  let opened = false;
  let pass = 1;
  let jumped: Jump | null = null as Jump | null;
  let leftForCoda = false;
  let index = 0;

  while (index < bars.length && order.length < MAX_PLAYED_BARS) {
    const bar = bars[index]!;
    if (bar.repeatStart && index !== sectionStart) {
      sectionStart = index;
      pass = 1;
    }
    if (bar.repeatStart) opened = true;
    if (bar.endings && !bar.endings.includes(pass) && hasEnding(bars, sectionStart, pass)) {
      index = endingEnd(bars, index) + 1;
      continue;
    }
    times[index]! += 1;
    order.push({ index, time: times[index]! });

    // A Fine ends the second round, even where the sign is a plain D.C. or D.S.; before a coda it does not.
    if (jumped && bar.fine && jumped.until !== 'coda') break;
    // Who jumps back leaves for a coda that is there, though the sign says no more than D.S.; but not for a Fine's sake.
    if (jumped && !leftForCoda && bar.toCoda && jumped.until !== 'fine' && coda >= 0) {
      leftForCoda = true;
      index = coda;
      jumped = { ...jumped, until: 'end' };
      sectionStart = index;
      pass = 1;
      continue;
    }
    // After D.C. or D.S. repeats are played once more only as their last time.
    if (bar.repeatEnd && pass < bar.repeatEnd && !jumped) {
      pass += 1;
      index = sectionStart;
      continue;
    }
    if (closesSection(bars, index, opened)) {
      sectionStart = index + 1;
      opened = false;
      pass = jumped ? lastPass(bars, index + 1) : 1;
    }
    if (bar.jump && !jumped) {
      jumped = bar.jump;
      index = bar.jump.back === 'segno' && segno >= 0 ? segno : 0;
      sectionStart = index;
      pass = lastPass(bars, index);
      continue;
    }
    index += 1;
  }
  return order;
}

function hasEnding(bars: readonly Bar[], from: number, pass: number): boolean {
  for (let index = from; index < bars.length; index += 1) {
    const bar = bars[index]!;
    if (index > from && bar.repeatStart) return false;
    if (bar.endings?.includes(pass)) return true;
  }
  return false;
}

/** Last bar under the ending bracket that opens at `from`. */
function endingEnd(bars: readonly Bar[], from: number): number {
  for (let index = from; index < bars.length; index += 1) {
    const bar = bars[index]!;
    if (bar.endingStop || bar.repeatEnd || bars[index + 1]?.endings) return index;
  }
  return bars.length - 1;
}

/**
 * A section is over after its last repeat sign or ending; without an opening sign a double bar
 * starts a new one too, since a later end sign goes back no further than that.
 */
function closesSection(bars: readonly Bar[], index: number, opened: boolean): boolean {
  const bar = bars[index]!;
  if (continuesEnding(bars, index)) return false;
  return Boolean(bar.repeatEnd || bar.endingStop) || (!opened && (bar.barline === 'double' || bar.barline === 'final'));
}

/** The bar after a repeat sign opens the next ending, so the section goes on. */
function continuesEnding(bars: readonly Bar[], index: number): boolean {
  return Boolean(bars[index + 1]?.endings);
}

/** The last time through the section that starts here: the one that takes its last ending. */
function lastPass(bars: readonly Bar[], from: number): number {
  let last = 1;
  for (let index = from; index < bars.length; index += 1) {
    const bar = bars[index]!;
    if (index > from && bar.repeatStart) break;
    if (bar.endings) last = Math.max(last, ...bar.endings);
    if (bar.repeatEnd && !continuesEnding(bars, index)) break;
  }
  return last;
}

/**
 * Where a phrase may begin: for each bar line the best place for a phrase that leads to it. That is the line itself,
 * with the rest that it may begin with, a pickup before it, or, where a note is held over the line, what sounds next.
 */
import { barLength, beatLength, isPickup, type Bar, type Ticks } from '../music/index.ts';
import { cutEvidence, endsClause, joinedSounds, marksEnd, medianGap } from './evidence.ts';
import { soundFrom, type Reading } from './reading.ts';

const PICKUP = {
  /** As long as the part's own, or the tune's. */
  own: 1.5,
  tune: 0.8,
  /** The very notes of the part's own. */
  sameNotes: 0.9,
  /** Of another length than any that was heard. */
  strange: -1.8,
  /** None, though the part itself began with one. */
  missing: -0.8,
} as const;
/** The note before is held over the bar line: the joint is there. */
const HELD_OVER = 0.6;

export interface Pickup {
  readonly length: Ticks;
  /** The part itself began with it; else it is only what the tune began with. */
  readonly own: boolean;
  /** Index of its first sound; null where there is none. */
  readonly from: number | null;
}

export interface Place {
  readonly at: Ticks;
  readonly score: number;
  /** A note is held over the bar line; the phrase begins after it. */
  readonly late: boolean;
  /** The page says that a line ends before it: by a fermata, a breath, or words in a tune that goes by the beat. */
  readonly endsLine: boolean;
}

export interface Places {
  /** The best place for a phrase that leads to this bar line; null where none can begin. */
  best(bar: number, pickup: Pickup): Place | null;
}

export function pickupOf(reading: Reading, firstBar: number): Pickup {
  const { bars, starts, pickup } = reading;
  if (isPickup(bars, firstBar)) {
    const from = soundFrom(reading, starts[firstBar]!);
    return { length: bars[firstBar]!.length, own: true, from };
  }
  return { length: pickup, own: false, from: pickup > 0 ? 0 : null };
}

export function placesOf(reading: Reading): Places {
  const { bars, starts, sounds, numbers } = reading;
  const evidence = cutEvidence(reading);
  const joined = joinedSounds(reading);
  const hymnLike = goesByTheBeat(reading);
  return {
    best(bar, pickup) {
      const line = starts[bar]!;
      const before = bars[bar - 1];
      const atLine = soundFrom(reading, line);
      let best: Place | null = null;
      const offer = (index: number, at: Ticks, more: number, late = false) => {
        if (index >= sounds.length || joined.has(index)) return;
        const score = (evidence[index] ?? 0) + more;
        if (score > (best?.score ?? -Infinity)) best = { at, score, late, endsLine: endsLine(index) };
      };
      const first = sounds[atLine];
      const missing = pickup.length > 0 && pickup.own ? PICKUP.missing : 0;
      if (first?.onset === line) offer(atLine, line, missing);
      // What is left of the bar and leads to the next bar line is that one's pickup.
      else if (first && first.onset < starts[bar + 1]! && !isLead(starts[bar + 1]! - first.onset, bars[bar]!, pickup)) {
        if (isHeldOver(atLine, line)) offer(atLine, first.onset, HELD_OVER, true);
        else offer(atLine, line, missing);
      }
      if (!before || numbers[bar] === numbers[bar - 1]) return best;
      const usual = Math.max(barLength(before.metre) / 2, pickup.length);
      for (let index = atLine - 1; index >= 0; index -= 1) {
        const length = line - sounds[index]!.onset;
        if (length >= barLength(before.metre)) break;
        const marked = index > 0 && marksEnd(sounds[index - 1]!.last);
        if (length > usual && !marked) continue;
        // A pickup that is only likely must follow a longer note or silence.
        if (!pickup.own && !marked && !followsLonger(index)) continue;
        const fits = length === pickup.length;
        const match = fits ? (pickup.own ? PICKUP.own : PICKUP.tune) : marked ? 0 : PICKUP.strange;
        offer(
          index,
          sounds[index]!.onset,
          match + (fits && isSamePickup(index, atLine, pickup) ? PICKUP.sameNotes : 0),
        );
      }
      return best;
    },
  };

  function endsLine(index: number): boolean {
    const before = sounds[index - 1];
    if (!before) return false;
    return marksEnd(before.last) || (hymnLike && endsClause(before.note));
  }

  function isHeldOver(index: number, line: Ticks): boolean {
    const before = sounds[index - 1];
    return before !== undefined && before.onset < line && before.onset + before.duration > line;
  }

  function isSamePickup(from: number, to: number, pickup: Pickup): boolean {
    if (pickup.from === null) return false;
    for (let index = from; index < to; index += 1) {
      const [own, other] = [sounds[index]!, sounds[pickup.from + index - from]];
      if (own.top !== other?.top || own.onset - sounds[from]!.onset !== other.onset - sounds[pickup.from]!.onset)
        return false;
    }
    return true;
  }

  function followsLonger(index: number): boolean {
    const before = sounds[index - 1];
    const own = sounds[index]!;
    if (!before) return false;
    return before.onset + before.duration < own.onset || before.duration > own.duration;
  }
}

/** The tune moves mostly by the beat, and its bars have four of them. */
function goesByTheBeat(reading: Reading): boolean {
  const { metre } = reading.bars[0]!;
  return metre.beats === 4 && medianGap(reading) >= beatLength(metre);
}

/** So much before a bar line is a pickup: less than half a bar, or as much as the tune begins with. */
function isLead(length: Ticks, bar: Bar, pickup: Pickup): boolean {
  return 2 * length < barLength(bar.metre) || length === pickup.length;
}

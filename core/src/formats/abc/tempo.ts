/** `Q:` as a tempo. */
import { TICKS_PER_QUARTER, TICKS_PER_WHOLE, type Tempo } from '../../music/index.ts';
import type { ParsedTempo } from './parsed.ts';

/** Speeds that a source may claim, in beats per minute; anything else is a slip of the pen. */
const SLOWEST = 10;
const FASTEST = 600;

/** @param count of whole notes a beat, and beats a minute */
export function tempoOf({ beat, bpm }: { readonly beat: number; readonly bpm: number }): Tempo | null {
  return readTempo({ duration: [beat], bpm });
}

export function readTempo(parsed: ParsedTempo | undefined): Tempo | null {
  if (!parsed?.bpm || parsed.bpm < SLOWEST || parsed.bpm > FASTEST) return null;
  const parts = parsed.duration ?? [];
  // Where no beat is named it is a quarter; one of no length is told, and left out, with all that does not add up.
  const beat =
    parts.length > 0 ? Math.round(parts.reduce((sum, part) => sum + part, 0) * TICKS_PER_WHOLE) : TICKS_PER_QUARTER;
  const text = [parsed.preString, parsed.postString].filter(Boolean).join(' ');
  return { beat, bpm: parsed.bpm, ...(text && { text }) };
}

/** `K:` and `M:` fields as keys and metres. */
import {
  LIMITS,
  LETTERS,
  MODES,
  keyOf,
  type Alter,
  type Key,
  type Letter,
  type Metre,
  type Mode,
  type PitchClass,
  type Signature,
} from '../../music/index.ts';
import type { ParsedKey, ParsedMeter } from './parsed.ts';

const ALTER_OF: Readonly<Record<string, Alter>> = { sharp: 1, flat: -1, natural: 0, dblsharp: 2, dblflat: -2 };
/** The pipes' scale: `HP` prints no signature, `Hp` prints it; both sound F and C sharp. */
const PIPES: Key = { ...keyOf({ letter: 'A', alter: 0 }, 'mixolydian') };

/** Alteration named by the parser, or null for quarter tones. */
export function alterOf(name: string): Alter | null {
  return ALTER_OF[name] ?? null;
}

/** @param source the text of the field, which alone tells `exp` from added accidentals */
export function readKey(parsed: ParsedKey, source: string): Key {
  if (/^H[pP]$/.test(parsed.root)) return PIPES;
  if (parsed.root === 'none' || !(LETTERS as readonly string[]).includes(parsed.root)) {
    return { tonic: { letter: 'C', alter: 0 }, mode: 'major', signature: signatureFrom(parsed) };
  }
  const tonic: PitchClass = {
    letter: parsed.root as Letter,
    alter: parsed.acc === '#' ? 1 : parsed.acc === 'b' ? -1 : 0,
  };
  const mode = readMode(parsed.mode);
  if (/\bexp\b/.test(source)) return { tonic, mode, signature: explicitSignature(source) };
  return { tonic, mode, signature: signatureFrom(parsed) };
}

function readMode(text: string): Mode {
  const name = text.trim().toLowerCase();
  if (name === '') return 'major';
  if (name === 'm') return 'minor';
  return MODES.find((mode) => mode.startsWith(name.slice(0, 3))) ?? 'major';
}

function signatureFrom(parsed: ParsedKey): Signature {
  return Object.fromEntries(
    (parsed.accidentals ?? []).flatMap(({ acc, note }) => {
      const alter = alterOf(acc);
      return alter ? [[note.toUpperCase(), alter]] : [];
    }),
  );
}

function explicitSignature(source: string): Signature {
  const signs: Readonly<Record<string, Alter>> = { '^': 1, '^^': 2, _: -1, __: -2 };
  return Object.fromEntries(
    [...source.matchAll(/(\^\^|\^|__|_)([A-Ga-g])/g)].map(([, sign, note]) => [note!.toUpperCase(), signs[sign!]!]),
  );
}

/** `M:none`, or an empty one. */
export const isFree = (parsed: ParsedMeter | undefined): boolean =>
  parsed !== undefined && parsed.type !== 'common_time' && parsed.type !== 'cut_time' && !parsed.value?.length;

/** Null for free metre, and for one that no music has. */
export function readMetre(parsed: ParsedMeter | undefined): Metre | null {
  if (!parsed) return null;
  if (parsed.type === 'common_time') return { beats: 4, unit: 4, symbol: 'common' };
  if (parsed.type === 'cut_time') return { beats: 2, unit: 2, symbol: 'cut' };
  const parts = parsed.value ?? [];
  if (parts.length === 0) return null;
  const unit = Number(parts.at(-1)!.den || 4);
  // 2+3/8 counts five eighths; 3/4+2/8 is brought to the smaller unit.
  const smallest = Math.max(unit, ...parts.map(({ den }) => Number(den || unit)));
  const beats = parts
    .map(
      ({ num, den }) => num.split('+').reduce((sum, part) => sum + Number(part), 0) * (smallest / Number(den || unit)),
    )
    .reduce((sum, part) => sum + part, 0);
  return Number.isInteger(beats) && beats > 0 && beats <= LIMITS.beats && [1, 2, 4, 8, 16, 32].includes(smallest)
    ? { beats, unit: smallest }
    : null;
}

/** The part of abcjs's parse result that we read; its own types leave most of this open. */
import abcjs from 'abcjs';

export interface ParsedPitch {
  readonly pitch: number;
  readonly accidental?: string;
  readonly startTie?: object;
  readonly endTie?: boolean;
  readonly startSlur?: readonly { readonly label: number }[];
  readonly endSlur?: readonly number[];
}

export interface ParsedNote {
  readonly el_type: 'note';
  readonly startChar: number;
  readonly endChar: number;
  /** In whole notes, tuplets not counted. */
  readonly duration: number;
  readonly pitches?: readonly ParsedPitch[];
  readonly rest?: { readonly type: string; readonly text?: number };
  readonly startTriplet?: number;
  readonly endTriplet?: boolean;
  readonly tripletMultiplier?: number;
  readonly gracenotes?: readonly {
    readonly pitch: number;
    readonly accidental?: string;
    readonly acciaccatura?: boolean;
  }[];
  readonly decoration?: readonly string[];
  readonly chord?: readonly { readonly name: string; readonly position: string }[];
  readonly lyric?: readonly { readonly syllable: string; readonly divider: string }[];
  readonly startSlur?: readonly { readonly label: number }[];
  readonly endSlur?: readonly number[];
}

export interface ParsedBar {
  readonly el_type: 'bar';
  readonly startChar: number;
  readonly type: string;
  readonly startEnding?: string;
  readonly endEnding?: boolean;
  readonly decoration?: readonly string[];
  readonly chord?: readonly { readonly name: string; readonly position: string }[];
}

export interface ParsedKey {
  readonly root: string;
  readonly acc: string;
  readonly mode: string;
  readonly accidentals?: readonly { readonly acc: string; readonly note: string }[];
  readonly startChar?: number;
  readonly endChar?: number;
}

export interface ParsedMeter {
  readonly type: string;
  readonly value?: readonly { readonly num: string; readonly den: string }[];
}

export interface ParsedTempo {
  readonly duration?: readonly number[];
  readonly bpm?: number;
  readonly preString?: string;
  readonly postString?: string;
}

export type ParsedElement =
  | ParsedNote
  | ParsedBar
  | (ParsedKey & { readonly el_type: 'key' })
  | (ParsedMeter & { readonly el_type: 'meter' })
  | (ParsedTempo & { readonly el_type: 'tempo' })
  | { readonly el_type: 'part'; readonly title: string }
  | { readonly el_type: 'stem' | 'clef' | 'style' | 'overlay' | 'scale' | 'color' | 'transpose' | 'gap' | 'midi' };

export interface ParsedStaff {
  readonly voices: readonly (readonly ParsedElement[])[];
  readonly key?: ParsedKey;
  readonly meter?: ParsedMeter;
  readonly clef?: { readonly type: string; readonly transpose?: number };
  readonly title?: readonly (string | undefined)[];
}

export interface ParsedTune {
  readonly lines: readonly {
    readonly staff?: readonly ParsedStaff[];
    readonly text?: unknown;
    readonly subtitle?: unknown;
  }[];
  readonly metaText: { readonly tempo?: ParsedTempo; readonly unalignedWords?: readonly unknown[] };
  readonly warnings?: readonly string[];
}

/** Parses one tune without a DOM. Undefined where there is none, or where the parser itself stumbles over it. */
export function parseAbc(text: string): ParsedTune | undefined {
  try {
    return abcjs.parseOnly(text)[0] as unknown as ParsedTune | undefined;
  } catch {
    return undefined;
  }
}

/** What lanes are drawn with: plain shapes with a role, so that screen and paper share one drawing. */

/** Decides ink, weight and size; the screen styles it, the sheet prints it. */
export type Role =
  | 'string'
  | 'string-name'
  | 'barline'
  | 'finger'
  | 'finger-grace'
  | 'finger-dot'
  | 'finger-letter'
  | 'finger-locked'
  | 'bow'
  | 'stroke'
  | 'retake'
  | 'hook'
  | 'bow-time'
  | 'bow-later'
  | 'region'
  | 'region-part'
  | 'hair'
  | 'hair-middle'
  | 'hair-down'
  | 'hair-up'
  | 'hair-strained'
  | 'hair-dot'
  | 'drift'
  | 'frog'
  | 'position'
  | 'ribbon'
  | 'hold'
  | 'block'
  | 'hop'
  | 'glide'
  | 'shift-arrow'
  | 'shift'
  | 'unreached'
  | 'count'
  | 'count-rest'
  | 'stem'
  | 'repeat'
  | 'ending'
  | 'metre'
  | 'key'
  | 'note-head'
  | 'beam'
  | 'flag'
  | 'rhythm-dot'
  | 'rest'
  | 'rest-bar'
  | 'tie'
  | 'tuplet'
  | 'note-name'
  | 'word'
  | 'melisma'
  | 'chord';

export type Shape =
  | {
      readonly kind: 'line';
      readonly role: Role;
      readonly x1: number;
      readonly y1: number;
      readonly x2: number;
      readonly y2: number;
      readonly width?: number;
      readonly dash?: string;
      /** One that the teacher chose; else the role's ink. */
      readonly colour?: string;
    }
  | {
      readonly kind: 'text';
      readonly role: Role;
      readonly x: number;
      readonly y: number;
      readonly text: string;
      readonly anchor: 'start' | 'middle' | 'end';
      readonly note?: string;
    }
  | {
      readonly kind: 'dot';
      readonly role: Role;
      readonly x: number;
      readonly y: number;
      readonly r: number;
      readonly note?: string;
    }
  | { readonly kind: 'path'; readonly role: Role; readonly d: string; readonly note?: string }
  | {
      readonly kind: 'patch';
      readonly role: Role;
      readonly x: number;
      readonly y: number;
      readonly width: number;
      readonly height: number;
      readonly note?: string;
    };

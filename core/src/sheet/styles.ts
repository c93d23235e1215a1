/** How each role is drawn: one table, for screen and paper. */
import type { Role } from './shapes.ts';

/** Inks by what they are for: the screen takes them from its theme, the paper from its own palette. */
export type Ink = 'ink' | 'soft' | 'accent' | 'trouble';

export interface LineStyle {
  readonly ink: Ink;
  /** In the lanes' unit. */
  readonly width: number;
  readonly dash?: string;
}

export interface TextStyle {
  readonly ink: Ink;
  readonly size: number;
  readonly weight: 'normal' | 'bold';
}

export interface RoleStyle {
  readonly line: LineStyle;
  readonly text: TextStyle;
}

const line = (ink: Ink, width: number, dash?: string): LineStyle => ({ ink, width, ...(dash && { dash }) });
const text = (ink: Ink, size: number, weight: TextStyle['weight'] = 'bold'): TextStyle => ({ ink, size, weight });
const PLAIN: RoleStyle = { line: line('soft', 1), text: text('ink', 13) };

const STYLES: { readonly [Name in Role]?: Partial<RoleStyle> } = {
  bow: { line: line('ink', 1.5) },
  retake: { line: line('accent', 1.8) },
  hook: { line: line('accent', 1.8) },
  'bow-time': { text: text('soft', 9.5) },
  'bow-later': { line: line('soft', 1.2) },
  region: { line: line('soft', 1.1) },
  'region-part': { line: line('accent', 3.2) },
  hair: { line: line('soft', 1) },
  'hair-middle': { line: line('soft', 0.6, '1 4') },
  'hair-down': { line: line('ink', 2.2) },
  'hair-up': { line: line('ink', 1.1) },
  'hair-strained': { line: line('accent', 3) },
  'hair-dot': { line: line('ink', 2.8) },
  drift: { line: line('accent', 0.9, '3 3') },
  frog: { line: line('ink', 1.2) },
  finger: { text: text('ink', 13) },
  'finger-grace': { text: text('ink', 9.5) },
  'finger-dot': { line: line('ink', 1.5) },
  'finger-letter': { text: text('ink', 8.5) },
  'finger-locked': { line: line('accent', 1.8) },
  block: { line: line('ink', 1.5) },
  glide: { line: line('ink', 1.5) },
  hop: { line: line('accent', 1, '2 2') },
  'string-name': { text: text('soft', 10) },
  position: { text: text('soft', 10) },
  shift: { text: text('accent', 10) },
  'shift-arrow': { line: line('accent', 1.5) },
  hold: { line: line('ink', 1.1) },
  unreached: { line: line('trouble', 1.6) },
  repeat: { line: line('ink', 2.8) },
  ending: { text: text('ink', 9) },
  metre: { text: text('ink', 25) },
  key: { text: text('soft', 9) },
  stem: { line: line('ink', 1.2) },
  'note-head': { line: line('ink', 1.3) },
  beam: { line: line('ink', 2.4) },
  flag: { line: line('ink', 1.3) },
  rest: { line: line('ink', 1.2) },
  'rest-bar': { line: line('ink', 3.4) },
  tie: { line: line('ink', 1) },
  tuplet: { text: text('ink', 9.5) },
  'note-name': { text: text('ink', 10.5, 'normal') },
  melisma: { line: line('ink', 0.8) },
  word: { text: text('ink', 10.5, 'normal') },
  chord: { text: text('ink', 11.5) },
  count: { text: text('ink', 11) },
  'count-rest': { text: text('soft', 10, 'normal') },
};

/** @example styleOf('bow').line.width // 1.5 */
export const styleOf = (role: Role): RoleStyle => ({ ...PLAIN, ...STYLES[role] });

/** A finger as it is written: Nokta's dots, letters, arrows, or the number alone. One drawing for tab, staff, fingerboard and legend. */
import type { Stop } from '../hand/index.ts';
import type { FingerSigns } from '../paper/index.ts';
import type { Shape } from './shapes.ts';

/** How far from the middle of the number its dot stands. */
const DOT_AWAY = 6.9;
const DOT = 1.8;
/** Beside a stacked number: to its right, a little lower or higher. */
const DOT_BESIDE = 7.2;
const DOT_LOWER = 3.2;
const OVER_GRACE = 8.5;
/** Before the number: middle of the letter or of the arrow. */
const BEFORE = 7;

export interface FingerSignOptions {
  readonly signs: FingerSigns;
  readonly note?: string;
  readonly grace?: boolean;
  /** Others stand over or under it: its dot stands beside it, where it belongs to nobody else. */
  readonly stacked?: boolean;
  /** A grace note stands close before it: letter and arrow go behind the number. */
  readonly behind?: boolean;
}

/**
 * The number with its sign, its middle at (x, y).
 * @example fingerSign({ finger: 2, sign: 'low' }, 0, 0, { signs: 'plain' }).length // 1
 */
export function fingerSign(
  { finger, sign }: Pick<Stop, 'finger' | 'sign'>,
  x: number,
  y: number,
  { signs, note, grace = false, stacked = false, behind = false }: FingerSignOptions,
): readonly Shape[] {
  const of = note === undefined ? {} : { note };
  const number: Shape = {
    kind: 'text',
    role: grace ? 'finger-grace' : 'finger',
    x,
    y,
    text: String(finger),
    anchor: 'middle',
    ...of,
  };
  if (signs === 'plain') return [number];
  const path = (d: string): Shape => ({ kind: 'path', role: 'finger-dot', d, ...of });
  switch (sign) {
    case 'home':
      return [number];
    case 'harmonic':
      return [number, path(`M${x + 5} ${y - 6.5} a2.1 2.1 0 1 0 4.2 0 a2.1 2.1 0 1 0 -4.2 0`)];
    case 'extended':
      return [number, path(extensionSign(finger, x + 7.5, y))];
    case 'low':
    case 'high':
      // Two graces stand closer than a letter is wide: theirs stands over the number.
      if (grace && signs === 'letters')
        return [number, ...movedSign(sign, x, y - OVER_GRACE, signs, { of, stacked, at: x })];
      return [number, ...movedSign(sign, x, y, signs, { of, stacked, at: behind ? x + BEFORE : x - BEFORE })];
  }
}

function movedSign(
  sign: 'low' | 'high',
  x: number,
  y: number,
  signs: Exclude<FingerSigns, 'plain'>,
  {
    of,
    stacked,
    at,
  }: {
    readonly of: { readonly note?: string };
    readonly stacked: boolean;
    /** Of letter and arrow. */ readonly at: number;
  },
): readonly Shape[] {
  const down = sign === 'low' ? 1 : -1;
  switch (signs) {
    case 'dots':
      return [
        stacked
          ? { kind: 'dot', role: 'finger-dot', x: x + DOT_BESIDE, y: y + down * DOT_LOWER, r: DOT, ...of }
          : { kind: 'dot', role: 'finger-dot', x, y: y + down * DOT_AWAY, r: DOT, ...of },
      ];
    case 'letters':
      return [
        {
          kind: 'text',
          role: 'finger-letter',
          x: at,
          y,
          text: sign === 'low' ? 'L' : 'H',
          anchor: 'middle',
          ...of,
        },
      ];
    case 'arrows': {
      const tip = y + down * 4;
      return [
        {
          kind: 'path',
          role: 'finger-dot',
          ...of,
          d: `M${at} ${y - down * 4} V${tip} m-2.3 ${-2.7 * down} l2.3 ${2.7 * down} l2.3 ${-2.7 * down}`,
        },
      ];
    }
  }
}

/** A small plus after a finger that reaches up, a minus after the first finger that reaches back. */
function extensionSign(finger: number, x: number, y: number): string {
  const minus = `M${x - 2.2} ${y} h4.4`;
  return finger === 1 ? minus : `${minus} M${x} ${y - 2.2} v4.4`;
}

/**
 * Room that the sign takes left and right of its middle.
 * @example signRoom({ sign: 'low' }, 'letters').left // 10
 */
export function signRoom(
  { sign }: Pick<Stop, 'sign'>,
  signs: FingerSigns,
  { stacked = false, behind = false }: Pick<FingerSignOptions, 'stacked' | 'behind'> = {},
): { readonly left: number; readonly right: number } {
  const beside = (sign === 'low' || sign === 'high') && (signs === 'letters' || signs === 'arrows');
  const after = sign === 'extended' && signs !== 'plain';
  const dot = stacked && signs === 'dots' && (sign === 'low' || sign === 'high');
  return { left: beside && !behind ? 10 : 5.5, right: after || dot || (beside && behind) ? 10.5 : 5.5 };
}

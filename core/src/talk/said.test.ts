/**
 * Forty phrases with what a teacher says of each, written down before the program spoke them: what has to be said, and
 * what nobody would say. Each has its reason.
 */
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange, bestOctave, decided } from '../arrange/index.ts';
import type { InstrumentId } from '../instrument/index.ts';
import { tuneOf } from '../test/testing.ts';
import { USUAL_TALK, talkThrough, type TalkOptions } from './index.ts';

interface Case {
  readonly abc: string;
  readonly key?: string;
  readonly metre?: string;
  readonly tempo?: string;
  readonly on?: InstrumentId;
  readonly of?: Partial<TalkOptions>;
  readonly decided?: Parameters<typeof decided>[1];
  /** Of the tune's phrases, from 0. */
  readonly phrase?: number;
  readonly says: readonly RegExp[];
  readonly never?: readonly RegExp[];
  readonly why: string;
}

const TWICE = 'D2FA d2cd | e2dc B2A2 | B2cd e2dc | d8 |';
/** An odd number of strokes, so that the second time begins on the other bow. */
const ODD = 'd4 e4 | f4 e4 | d4 f4 | d8 |';

const CASES: readonly Case[] = [
  // Where it begins.
  {
    abc: 'D4 E4 | F8 |',
    key: 'D',
    says: [/the open D, down bow/],
    never: [/D, the open D/],
    why: 'an open string has its note’s name: nobody says it twice',
  },
  { abc: 'A4 B4 | c8 |', key: 'D', says: [/the open A, down bow/], never: [/A, the open A/], why: 'the same on A' },
  {
    abc: 'G4 A4 | B8 |',
    key: 'G',
    says: [/G, 3 on the D string, down bow/],
    why: 'a stopped note has name, finger and string',
  },
  {
    abc: 'A2 | d4 e4 | f8 |',
    key: 'D',
    says: [/(pickup|leads in)[^.]*the open A, up bow/],
    why: 'a pickup is led in with, up bow',
  },
  {
    abc: 'e4 f4 | g8 |',
    key: 'G',
    says: [/the open E/],
    never: [/E, the open E/],
    why: 'the open E, not the fourth finger, where nothing speaks against it',
  },
  // Where it ends.
  {
    abc: 'd4 c4 | B4 A4 | G8 |',
    key: 'G',
    tempo: '1/4=120',
    says: [/G, 3 on the D string[^.]*held for 4 beats/],
    why: 'a last note of four beats is counted out',
  },
  {
    abc: 'd4 e4 | f8 |',
    key: 'D',
    tempo: '1/4=120',
    says: [/F♯, 1 on the E string/],
    why: 'the first finger on the E string',
  },
  // Slurs by their place.
  {
    abc: 'd4 (e2 f2) | g8 |',
    key: 'G',
    says: [/[Ss]lur E, F♯ in bar 1\b/],
    never: [/up to 2 notes to a bow/],
    why: 'one slur is named by its notes and its bar',
  },
  {
    abc: '(d2 c2) B4 | (A2 B2) G4 |',
    key: 'G',
    says: [/[Ss]lur D, C in bar 1 and A, B in bar 2/],
    why: 'two slurs, each by its place',
  },
  {
    abc: 'd2 e2 f4 | g2 (f2 e2 d2) |',
    key: 'D',
    says: [/[Ss]lur G?.*F♯, E, D in bar 2/],
    why: 'three notes to a bow are named',
  },
  { abc: 'd4 e4 | f4 d4 |', key: 'D', says: [/bow to each note/], why: 'no slur: a bow to each note' },
  // Shifts where they fall.
  {
    abc: "a4 b4 | c'4 d'4 | e'8 |",
    key: 'C',
    says: [/^Start on A[^.]*in position III/],
    why: 'what begins above the first position is said to begin there',
  },
  {
    abc: "e4 a4 | d'4 c'4 | b4 a4 |",
    key: 'C',
    says: [/Bar 1: [^.]*in position III: A 1/],
    why: 'after an open string the hand is said to be where the first finger falls',
  },
  // Stretches where they fall.
  {
    abc: "a4 b4 | c'4 b4 | a8 |",
    key: 'C',
    decided: { hand: { limits: { maxPosition: 'I' } } },
    says: [/4 reaches for C/],
    why: 'with the hand kept in I the fourth finger reaches for C',
  },
  {
    abc: "b4 c'4 | b4 a4 |",
    key: 'Am',
    decided: { hand: { limits: { maxPosition: 'I' } } },
    of: { voice: 'fingers' },
    says: [/4 reaches/],
    why: 'the same, told by fingers',
  },
  // Graces where they fall.
  { abc: '{e}d4 c4 | B8 |', key: 'G', says: [/grace E/], why: 'a grace note is said before its note' },
  { abc: 'd4 {A}B4 | G8 |', key: 'G', says: [/grace A/], why: 'in the middle too' },
  {
    abc: '{B}A4 G4 | A8 |',
    key: 'G',
    of: { voice: 'fingers' },
    says: [/grace 1/],
    why: 'by its finger where fingers are told',
  },
  { abc: 'd4 c4 | B8 |', key: 'G', says: [], never: [/grace/], why: 'no grace where there is none' },
  // Rests and rhythms.
  { abc: 'd4 z4 | e4 f4 | d8 |', key: 'D', says: [/rest/], why: 'a rest inside the phrase is counted' },
  { abc: 'd4 e4 | f8 |', key: 'D', says: [], never: [/rest\b/], why: 'no rest, no word of one' },
  { abc: '(3ddd d2 e4 | f8 |', key: 'D', says: [/triplet in bar 1/], why: 'one triplet among plain notes is minded' },
  {
    abc: 'd3e f4 | g4 f4 | d4 A4 | d8 |',
    key: 'D',
    says: [/dotted D in bar 1/],
    why: 'one dotted pair among plain notes is minded',
  },
  {
    abc: 'd e4 f2 d | g8 |',
    key: 'D',
    says: [/E before the beat in bar 1|E[^.]*off the beat in bar 1/],
    why: 'a note across the beat is minded',
  },
  // Long notes.
  {
    abc: 'd4 e4 | f8 | e4 d4 | d8 |',
    key: 'D',
    tempo: '1/4=56',
    says: [],
    never: [/F♯, held for/],
    why: 'in a slow song every note is long',
  },
  {
    abc: 'dedc BABc | d8 | BABc dedc | B4 A4 |',
    key: 'G',
    tempo: '1/4=120',
    says: [/held for 4 beats/],
    why: 'among quick notes a long one is counted',
  },
  // What comes again.
  {
    abc: `${TWICE} ${TWICE}]`,
    key: 'D',
    phrase: 1,
    says: [/again/, /same fingers/],
    never: [/Bar \d+: .*E 1/],
    why: 'what is known is not told again',
  },
  {
    abc: `${ODD} ${ODD}]`,
    key: 'D',
    phrase: 1,
    says: [/again[^.]*/, /other bow/],
    why: 'seven strokes: the second time begins on the other bow, and that is said',
  },
  {
    abc: `${TWICE} D2FA d2cd | e2dc B2A2 | B2cd e2dc | B2A2 F2D2 |]`,
    key: 'D',
    phrase: 1,
    says: [/[Ll]ike A1|as bars 1 to 3/, /Bar 8: /],
    never: [/Bar 5: .*D 0/],
    why: 'bars that are known are named, the new one is told',
  },
  // The voices.
  { abc: 'd4 e4 | f4 g4 |', key: 'D', of: { voice: 'names' }, says: [/Bar 1: D E\./], why: 'names alone' },
  {
    abc: 'd4 e4 | f4 g4 |',
    key: 'D',
    of: { voice: 'fingers' },
    says: [/Bar 1: .*3.* 0|Bar 1: .*3.*E string: 0/],
    never: [/♯/],
    why: 'fingers alone, no names of notes',
  },
  {
    abc: 'D4 F4 | A4 d4 | f8 |',
    key: 'D',
    of: { plain: true, short: true },
    says: [/skips up/],
    never: [/arpeggio|major|minor/],
    why: 'children are told no chord names',
  },
  { abc: 'D4 F4 | A4 d4 | f8 |', key: 'D', of: { short: true }, says: [/arpeggio of D/], why: 'others are' },
  // The other instruments.
  { abc: 'D4 E4 | F8 |', key: 'D', on: 'cello', says: [/the open D/], why: 'the cello’s open D' },
  { abc: 'G4 A4 | B8 |', key: 'G', on: 'viola', says: [/the open G|G, 3 on the D string/], why: 'the viola’s strings' },
  {
    abc: 'D4 E4 | F4 E4 | D8 |',
    key: 'D',
    on: 'bass',
    says: [/the open D/, /Bar 1: [^.]*1/],
    why: 'the bass takes E with the first finger',
  },
  {
    abc: 'D4 _E4 | F8 |',
    key: 'Bb',
    on: 'cello',
    says: [/half position|low 1|back/],
    why: 'E flat on the D string of a cello: the hand goes back, and that is said',
  },
  // Brevity.
  { abc: TWICE, key: 'D', of: { short: true }, says: [/^(?:\S+\s+){0,44}\S+$/], why: 'a short one is a breath long' },
  {
    abc: 'd4 e4 | f8 |',
    key: 'D',
    of: { short: true },
    says: [/^(?:\S+\s+){0,29}\S+$/],
    never: [/Bar 1:/],
    why: 'a plain phrase is said in two lines',
  },
  {
    abc: "g''8 | d8 |",
    key: 'D',
    says: [/leave out G/],
    never: [/out of reach|\?/],
    why: 'what cannot be played is left out, in words for who plays',
  },
];

describe('what a teacher says', () => {
  it('is told of forty phrases', () => expect(CASES).toHaveLength(40));

  it.each(CASES.map((one, index) => [`${index + 1}: ${one.why}`, one] as const))('%s', (_, one) => {
    const {
      abc,
      key = 'C',
      metre = '4/4',
      tempo = '1/4=96',
      on = 'violin',
      of = {},
      phrase = 0,
      says,
      never = [],
    } = one;
    const tune = tuneOf(abc, { key, metre, tempo });
    const decisions = decided(decided(FIRST_DECISIONS, { key: { instrument: on } }), one.decided ?? {});
    const arrangement = arrange(
      tune,
      decided(decisions, { key: { transpose: on === 'violin' ? 0 : bestOctave(tune, decisions) } }),
    );
    const { text } = talkThrough(arrangement, { ...USUAL_TALK, short: false, ...of })[phrase]!;
    for (const expected of says) expect(text).toMatch(expected);
    for (const wrong of never) expect(text).not.toMatch(wrong);
  });
});

/** Violin and viola: fingers with a home of their own, low and high; a weak fourth; letters that decide. */
import type { Semitones } from '../../music/index.ts';
import { HOME_BASE, type FingerPlace, type Frame, type Shape } from '../vocabulary.ts';
import { harmonic, homeFirst, place, placesNamed, type Place } from './build.ts';
import type { HandModel } from './model.ts';

/**
 * Violin and viola, by the first finger's semitone: a place between two names is the upper of the lower
 * name; the spelling of a note may call it otherwise.
 */
const UPPER_PLACES = placesNamed([
  'half',
  'I',
  'lower II',
  'II',
  'III',
  'upper III',
  'IV',
  'lower V',
  'V',
  'lower VI',
  'VI',
  'VII',
  'VIII',
]);

/**
 * Home 1 2 3 4 at b, b+2, b+3, b+5: in first position 2 4 5 7 with low 1 at 1, low 2 at 3, high 3 at 6.
 * The low 3 of flat keys (A flat on the E string) stands where a home 2 does; the note's letter tells them apart.
 */
function upperFrames({ base, position, level }: Place): readonly Frame[] {
  const closed: FingerPlace[] = [
    ...(base > 1 ? [place(1, base - 1, 'low')] : []),
    place(1, base),
    // Close by a low first finger: F and G flat on the E string.
    ...(base === HOME_BASE ? [{ ...place(2, base, 'low'), onlySpelled: true as const }] : []),
    place(2, base + 1, 'low'),
    place(2, base + 2),
    place(3, base + 2, 'low'),
    place(3, base + 3),
    place(3, base + 4, 'high'),
    place(4, base + 4, 'low'),
    place(4, base + 5),
    place(4, base + 6, 'extended'),
  ];
  const touch = base >= 5 && base <= 8 ? [harmonic(4)] : base === 9 || base === 10 ? [harmonic(3)] : [];
  const frame = (shape: Shape, places: readonly FingerPlace[]): Frame => ({
    position,
    level,
    shape,
    base,
    places,
    byLetter: true,
  });
  const whole = frame('closed', [...closed, ...touch]);
  if (base < CONTRACTS_FROM) return [whole];
  return [
    whole,
    frame('contracted', [
      place(1, base),
      place(2, base + 1, 'low'),
      place(3, base + 2, 'low'),
      place(4, base + 3, 'low'),
    ]),
  ];
}
/** Fingers are drawn together where semitones lie close enough for it. */
const CONTRACTS_FROM: Semitones = 5;

const FRAMES = homeFirst(UPPER_PLACES.flatMap(upperFrames));

export const VIOLIN: HandModel = {
  id: 'violin',
  lettersDecide: true,
  weakFourth: true,
  span: 5,
  beyondFirst: 1,
  school: null,
  frames: () => FRAMES,
  prices: {
    fourth: 550,
    position: [0, 300, 0, 480, 450, 390, 550, 650, 680, 640, 760, 740, 820, 950],
    start: 420,
    crossing: 700,
    shift: 850,
    shiftEach: 110,
    harmonic: 150,
    openTurn: 0,
  },
  shares: { noNeed: 2, openCrossing: 0.75, ledByFirst: 0.6, guided: 1, onTheWay: 1, toHalf: 1 },
};

export const VIOLA: HandModel = {
  ...VIOLIN,
  id: 'viola',
  prices: {
    ...VIOLIN.prices,
    fourth: 600,
    position: [0, 330, 0, 520, 490, 410, 590, 700, 730, 690, 820, 800, 880, 1000],
    shift: 900,
  },
};

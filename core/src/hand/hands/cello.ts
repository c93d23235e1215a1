/** The cello: a semitone to a finger, the hand closed or open; beyond the neck without the fourth finger. */
import type { Semitones } from '../../music/index.ts';
import type { FingerPlace, Frame, Shape } from '../vocabulary.ts';
import { harmonic, homeFirst, place, placesNamed, type Place } from './build.ts';
import type { HandModel } from './model.ts';

const CELLO_PLACES = placesNamed([
  'half',
  'I',
  'lower II',
  'upper II',
  'III',
  'upper III',
  'IV',
  'lower V',
  'V',
  'VI',
  'upper VI',
  'VII',
]);
/** Highest place at the neck; beyond it the fourth finger is too short. */
const NECK: Semitones = 7;

/** Closed 1 2 3 4 a semitone apart; forward the first finger stays, backward it reaches back; beyond the neck 1 2 3. */
function celloFrames({ base, position, level }: Place): readonly Frame[] {
  const frame = (shape: Shape, places: readonly FingerPlace[]): Frame => ({ position, level, shape, base, places });
  if (base > NECK) {
    return [
      frame('closed', [
        place(1, base),
        place(2, base + 1, 'low'),
        place(2, base + 2),
        place(3, base + 2, 'low'),
        place(3, base + 3),
        place(3, base + 4, 'extended'),
        ...(base <= 10 ? [harmonic(3)] : []),
      ]),
    ];
  }
  const closed = frame('closed', [
    place(1, base),
    place(2, base + 1),
    place(3, base + 2),
    place(4, base + 3),
    ...(base === NECK ? [harmonic(3)] : []),
  ]);
  const forward = frame('forward', [
    place(1, base),
    place(2, base + 2, 'extended'),
    place(3, base + 3, 'extended'),
    place(4, base + 4, 'extended'),
  ]);
  const backward = frame('backward', [
    place(1, base - 1, 'extended'),
    place(2, base + 1),
    place(3, base + 2),
    place(4, base + 3),
  ]);
  return [closed, forward, ...(base > 1 ? [backward] : [])];
}

const FRAMES = homeFirst(CELLO_PLACES.flatMap(celloFrames));

export const CELLO: HandModel = {
  id: 'cello',
  lettersDecide: false,
  weakFourth: false,
  span: 3,
  beyondFirst: 0,
  school: {
    limit: 'celloSchool',
    label: 'What comes first',
    usual: null,
    choices: [
      { id: null, title: 'whichever is easier', weights: {} },
      // Opening the hand is dear; or it is cheap and shifts are dearer.
      { id: 'shift', title: 'shift the hand', weights: { reach: 2.5, extension: 3, shift: 0.9 } },
      { id: 'extend', title: 'open the hand', weights: { reach: 0.6, extension: 0.5, shift: 1.3 } },
    ],
  },
  frames: () => FRAMES,
  reachesBack: '−',
  prices: {
    fourth: 120,
    position: [0, 40, 0, 120, 160, 220, 240, 220, 650, 630, 700, 750, 750],
    start: 200,
    crossing: 650,
    shift: 900,
    shiftEach: 100,
    harmonic: 40,
    openTurn: 0,
  },
  shares: { noNeed: 1.8, openCrossing: 0.5, ledByFirst: 0.6, guided: 0.75, onTheWay: 1, toHalf: 1 },
};

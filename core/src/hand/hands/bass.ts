/** The bass: 1 2 4 or 1 2 3 4 a semitone apart, by school; the third finger for the fourth from the octave on. */
import type { Semitones } from '../../music/index.ts';
import type { BassSchool, Finger, FingerPlace, Frame } from '../vocabulary.ts';
import { harmonic, homeFirst, place, placesNamed, type Place } from './build.ts';
import type { HandModel } from './model.ts';

const BASS_PLACES = placesNamed(['half', 'I', 'II', 'II½', 'III', 'III½', 'IV', 'V', 'V½', 'VI']);
/** From here the third finger takes the fourth's place, in both schools. */
const BASS_THIRD_FROM: Semitones = 9;

function bassFrames(school: BassSchool, { base, position, level }: Place): readonly Frame[] {
  const frame = (places: readonly FingerPlace[]): Frame => ({ position, level, shape: 'closed', base, places });
  const fingers: readonly Finger[] =
    base >= BASS_THIRD_FROM ? [1, 2, 3] : school === 'three' ? [1, 2, 4] : [1, 2, 3, 4];
  const touch = base >= BASS_THIRD_FROM ? [harmonic(3)] : [];
  return [frame([...fingers.map((finger, offset) => place(finger, base + offset)), ...touch])];
}

const FRAMES: Readonly<Record<BassSchool, readonly Frame[]>> = {
  three: homeFirst(BASS_PLACES.flatMap((at) => bassFrames('three', at))),
  four: homeFirst(BASS_PLACES.flatMap((at) => bassFrames('four', at))),
};

export const BASS: HandModel = {
  id: 'bass',
  lettersDecide: false,
  weakFourth: false,
  span: 2,
  beyondFirst: 0,
  school: {
    limit: 'bassSchool',
    label: 'Fingers',
    usual: 'three',
    choices: [
      { id: 'three', title: '1 2 4', weights: {} },
      { id: 'four', title: '1 2 3 4', weights: {} },
    ],
  },
  frames: ({ bassSchool = 'three' }) => FRAMES[bassSchool],
  prices: {
    fourth: 20,
    position: [0, 20, 0, 180, 200, 220, 260, 250, 300, 320, 340],
    start: 300,
    crossing: 600,
    shift: 700,
    shiftEach: 60,
    harmonic: 0,
    openTurn: 1250,
  },
  shares: { noNeed: 1.6, openCrossing: 0.5, ledByFirst: 0.9, guided: 0.8, onTheWay: 0.65, toHalf: 0.6 },
};

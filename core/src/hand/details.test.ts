/** Positions and their names, landings, holds and patterns, chords that cannot be, wishes, slides, hard places. */
import { describe, expect, it } from 'vitest';
import { analyseForm } from '../form/index.ts';
import { INSTRUMENT, type InstrumentId } from '../instrument/index.ts';
import { pitch } from '../music/index.ts';
import { profileFor, setupFor, type NamedSetup } from '../test/setups.ts';
import { tuneOf, type Header } from '../test/testing.ts';
import { causeTexts, glideText, helpText, landingText, patternText, problemText, symbol } from '../words/index.ts';
import {
  HANDS,
  Hand,
  PRESETS,
  PRESET_IDS,
  framesFor,
  hardPlaces,
  patternsOf,
  reach,
  type FingeredNote,
} from './index.ts';

function open(music: string, setup: NamedSetup = {}, header: Header = {}) {
  const tune = tuneOf(music, { tempo: '1/4=100', ...header });
  return new Hand(tune, analyseForm(tune), setupFor(setup));
}

const landing = ({ shift }: FingeredNote, instrument: InstrumentId) =>
  landingText(shift!.landing, INSTRUMENT[instrument]);
const troubles = ({ fingering: { problems, instrument, tuning } }: Hand) =>
  problems.map((problem) => problemText(problem, instrument, tuning));

describe('positions', () => {
  it.each([
    ['violin', 'half I II III IV V VI VII VIII'],
    ['viola', 'half I II III IV V VI VII VIII'],
    ['cello', 'half I II III IV V VI VII'],
    ['bass', 'half I II III IV V VI'],
  ] as const)('of the %s reach up to the octave and beyond', (instrument, levels) => {
    const frames = framesFor(HANDS[instrument]);
    const bases = [...new Set(frames.map(({ base }) => base))].sort((a, b) => a - b);
    expect(bases).toEqual(bases.map((_, index) => index + 1));
    expect(reach(frames)).toBeGreaterThanOrEqual(12);
    const names = new Set(frames.map(({ position }) => position.replace(/^(lower|upper) |½$/g, '')));
    expect([...names].sort()).toEqual(levels.split(' ').sort());
  });

  it('have every finger at a place of its own, higher fingers higher up', () => {
    for (const instrument of ['violin', 'cello', 'bass'] as const) {
      for (const { places } of framesFor(HANDS[instrument])) {
        for (const a of places)
          for (const b of places.filter(({ sign }) => sign === a.sign && sign === 'home'))
            expect(Math.sign(a.finger - b.finger)).toBe(Math.sign(a.semitones - b.semitones));
      }
    }
  });

  it('stay within what a learner may do', () => {
    const limited = framesFor(HANDS.cello, { maxPosition: 'II', noExtension: true });
    expect(new Set(limited.map(({ position }) => position))).toEqual(new Set(['half', 'I', 'lower II', 'upper II']));
    expect(limited.every(({ shape }) => shape === 'closed')).toBe(true);
    expect(framesFor(HANDS.violin, { noFourth: true }).flatMap(({ places }) => places)).not.toContainEqual(
      expect.objectContaining({ finger: 4 }),
    );
    expect(framesFor(HANDS.bass, { bassSchool: 'four' })[0]!.places.map(({ finger }) => finger)).toEqual([1, 2, 3, 4]);
  });

  it('are called by the letters on violin and by half steps on the cello', () => {
    expect(open("a2b2 c'2d'2").fingering.notes.map(({ position }) => position)).toEqual(['III', 'III', 'III', 'III']);
    const cello = open('C2D2 _E2D2 C4', { instrument: 'cello' }, { key: 'Eb' });
    expect(cello.fingering.notes.map(({ position }) => position)).toEqual(Array(5).fill('lower II'));
  });
});

describe('shifts', () => {
  it.each([
    ['on one finger', 'e2f2 b4', 'violin', /./],
    ['on the place of another finger', "d'2c'2 b2a2 g4", 'violin', /2 lands where|glide on 1|keep/],
  ] as const)('%s say how to find the place', (_, music, instrument, text) => {
    const shifted = open(music, { instrument }, { key: 'G' }).fingering.notes.filter(({ shift }) => shift);
    for (const note of shifted) expect(landing(note, instrument)).toMatch(text);
  });

  it('land on the octave halfway along the string', () => {
    const { notes } = open('A,2 B,2 A4', { instrument: 'cello' }).fingering;
    expect(notes[2]!.stops[0]).toMatchObject({ sign: 'harmonic', semitones: 12 });
    expect(landing(notes[2]!, 'cello')).toBe('3 touches the octave, halfway along the A string');
    expect(symbol(notes[2]!.stops[0]!, INSTRUMENT.cello)).toBe('3°');
  });

  it('say so where an open string leaves the hand free', () => {
    const { notes } = open('A,^A,B,C ^CD^DE', { instrument: 'cello' }).fingering;
    expect(notes[4]!.shift).toMatchObject({ from: 'half', to: 'upper II', semitones: 3 });
    expect(landing(notes[4]!, 'cello')).toContain('1 ');
    const free = open('D,^D,E,=F, ^F,2 =D,2 | A,_A,G,^F, =F,2 D,2', { instrument: 'cello' }).fingering.notes.filter(
      ({ shift }) => shift,
    );
    expect(free.map((note) => landing(note, 'cello')).join()).toContain('while the hand is free');
  });
});

describe('what can be read off', () => {
  it('says which fingers touch and which have two places', () => {
    const { fingering } = open('EF^FG E4', {}, { key: 'C' });
    const [pattern] = patternsOf(fingering.notes);
    expect(pattern).toMatchObject({ string: 1, changes: 1 });
    expect(patternText(pattern!)).toBe('1 and 2 touch; 2 and 3 touch; 2 has two places');
  });

  it('marks a finger that has to jump to another place', () => {
    const { notes, totals } = open('F2 c2', { limits: { maxPosition: 'I' } }, { key: 'G', tempo: '1/4=40' }).fingering;
    expect(notes[1]!.hop).toBe(true);
    expect(totals.hops).toBe(1);
  });

  it('names the finger of a slide', () => {
    const near = open('A2 !slide!B2', {}, { key: 'G' }).fingering.notes[1]!;
    expect(glideText(near.glide!)).toMatch(/slide 1 into it from a semitone below/);
    const onOne = open('B2 !slide!^c2 d4', { limits: { maxPosition: 'I' } }, { key: 'D' }).fingering.notes[1]!;
    expect(glideText(onOne.glide!)).toMatch(/slide up on/);
    const notOpen = open('B2 !slide!e2', { limits: { maxPosition: 'I' } }, { key: 'D' }).fingering.notes[1]!;
    expect(notOpen.stops[0]!.finger).toBe(4);
  });

  it('fingers a grace in a time of its own', () => {
    const { notes } = open('{c}B2 {AB}A2', {}, { key: 'G' }).fingering;
    expect(notes.map(({ grace }) => grace)).toEqual([true, false, true, true, false]);
    expect(notes.every(({ stops }) => stops.length === 1)).toBe(true);
  });
});

describe('chords that cannot be', () => {
  it.each([
    ['[G,A,]4', 'both lie on the G string', 'G3 an octave higher: A3 with G4'],
    ['[G,b]4', 'do not lie on neighbouring strings', ''],
    ['[E,,D]4', 'E2 is out of reach', ''],
  ])('%s: why, and what comes nearest', (music, why, near) => {
    const [problem] = troubles(open(music));
    expect(problem).toContain(why);
    expect(problem).toContain(near);
  });

  it('leaves only the top note to a learner without double stops', () => {
    const hand = open('[GB]4', { limits: { noDoubleStops: true } });
    expect(hand.fingering.notes[0]!.stops).toHaveLength(1);
    expect(troubles(hand)[0]).toContain('no double stops');
  });
});

describe('wishes', () => {
  it('have a name, a sentence and something that tells them from the others', () => {
    const made = PRESET_IDS.map((id) => JSON.stringify(profileFor('violin', { preset: id }, {})));
    expect(new Set(made).size).toBe(PRESET_IDS.length);
    for (const { name, text } of Object.values(PRESETS)) expect(`${name} ${text}`).toMatch(/^[A-Z].*\.$/);
  });

  it('give way to what the teacher changes, and to the learner’s limits', () => {
    const { limits, weights } = profileFor('violin', { preset: 'ringing', weights: { ring: 4 } }, { maxPosition: 'I' });
    expect(weights.ring).toBe(4);
    expect(weights.fourth).toBe(PRESETS.ringing.weights.fourth);
    expect(limits.maxPosition).toBe('I');
    expect(profileFor('violin', { preset: 'no-fourth' }, { noFourth: false }).limits.noFourth).toBe(false);
  });

  it('do not take the fourth finger from cello and bass, whose hands are built on it', () => {
    expect(profileFor('cello', { preset: 'first-lessons' }, {}).limits).toEqual({
      maxPosition: 'I',
      noExtension: true,
    });
  });

  it('can be other ones in another part', () => {
    const music = '|: F2GA GFGA :|: F2GA GFGA | F2GA G4 :|';
    const plain = open(music, { tempo: 140 }, { key: 'G' }).fingering.notes;
    const mixed = open(music, { tempo: 140, partWishes: { B: { preset: 'no-fourth' } } }, { key: 'G' }).fingering.notes;
    expect(plain.some(({ stops }) => stops[0]!.finger === 4)).toBe(true);
    const fourths = mixed.filter(({ stops }) => stops[0]!.finger === 4);
    expect(fourths.every(({ barIndex }) => barIndex === 0)).toBe(true);
  });

  it.each([
    ['shift', ['3', '4']],
    ['extend', ['2+', '4+']],
  ] as const)('of the cello: %s first', (celloSchool, signs) => {
    const instrument: InstrumentId = 'cello';
    const hand = open('E,2 ^F,2 ^G,2 A,2', { instrument, limits: { celloSchool }, tempo: 70 }, { key: 'A' });
    const found = hand.fingering.notes.slice(1, 3).map(({ stops }) => symbol(stops[0]!, INSTRUMENT[instrument]));
    if (celloSchool === 'extend') expect(found).toEqual(signs);
    else expect(found.join('')).not.toContain('+');
  });
});

describe('hard places', () => {
  it('are found where the hand has most to do, with causes and a help that helps', () => {
    const hand = open('GABc dBAG | cEeE cEeE | GABc dcBA | G8 |', { tempo: 140 });
    const [place] = hardPlaces(hand);
    expect(causeTexts(place!).join()).toMatch(/crossing|string|shift/);
    const slower = place!.helps.find((help) => help.kind === 'slower')!;
    expect(slower.bpm).toBeGreaterThanOrEqual(70);
    expect(slower.bpm).toBeLessThan(140);
    expect(place!.notes.length).toBeGreaterThan(1);
  });

  const helps = (music: string, tempo = 160) => {
    const places = hardPlaces(open(music, { tempo }));
    expect(places).not.toEqual([]);
    return places.flatMap((place) => place.helps);
  };

  it('are slurred where quick notes stay on a string, so that crossings fall where the bow turns', () => {
    const texts = helps('G,A,ef G,A,ef | G,A,ef G,A,ef | G,8 |').map(helpText);
    expect(texts).toContain('slur what stays on one string: 2 strokes instead of 4');
  });

  it.each([
    ['a crossing', 'G,eG,e G,eG,e | G,8 |', 160],
    ['a repeated note', "G,G,c'c' G,G,c'c' | G,G,c'c' G,G,c'c' | G,8 |", 160],
    ['slow notes', 'G,A,ef G,A,ef | G,A,ef G,A,ef | G,8 |', 100],
  ] as const)('are not slurred over %s', (_, music, tempo) => {
    expect(helps(music, tempo).map(({ kind }) => kind)).not.toContain('slur');
  });

  it('are none where nothing is hard', () => {
    expect(hardPlaces(open('D4 E4 | F4 G4 |', { tempo: 60 }))).toEqual([]);
  });
});

it('prices the same pitch on every string and in every place that has it', () => {
  const { alternatives, stops } = open('e4', {}, { key: 'C' }).fingering.notes[0]!;
  expect(stops[0]!.pitch).toEqual(pitch('E5'));
  const strings = new Set(alternatives.map(({ stops: other }) => other[0]!.string));
  expect(strings).toEqual(new Set([1, 2]));
  expect(new Set(alternatives.map(({ position }) => position)).size).toBeGreaterThan(4);
});

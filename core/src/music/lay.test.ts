import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  C_MAJOR,
  TICKS_PER_QUARTER,
  barLength,
  fillsBar,
  keyName,
  keyOf,
  layBars,
  markTupletEdges,
  midi,
  pitch,
  pitchName,
  spellInKey,
  suggestKeys,
  type Metre,
  type Attack,
  type TuneEvent,
} from './index.ts';
import { tuneOf } from '../test/testing.ts';

const QUARTER = TICKS_PER_QUARTER;
const FOUR: Metre = { beats: 4, unit: 4 };
const sound = (onset: number, duration: number, name = 'G4'): Attack => ({
  onset: onset * QUARTER,
  duration: duration * QUARTER,
  pitches: [pitch(name)],
});

/** "G4 1/1-": each event with its length in quarters, ties marked. */
const shape = (bars: ReturnType<typeof layBars>) =>
  bars.map(({ events }) =>
    events
      .map((event) => {
        const tied = event.kind === 'note' && event.heads[0]!.tied ? '-' : '';
        return `${event.kind === 'rest' ? 'z' : ''}${Math.round((event.duration / QUARTER) * 100) / 100}${tied}`;
      })
      .join(' '),
  );

describe('bars from sounds', () => {
  it('draws bar lines, ties over them and rests in the gaps', () => {
    const bars = layBars([sound(0, 3), sound(3, 2), sound(6, 1)], { metre: FOUR, key: C_MAJOR, pickup: 0 });
    expect(shape(bars)).toEqual(['3 1-', '1 z1 1 z1']);
    expect(bars.at(-1)!.barline).toBe('final');
  });

  it('puts a pickup at the end of its bar', () => {
    const [lead, full] = layBars([sound(3, 1), sound(4, 4)], { metre: FOUR, key: C_MAJOR, pickup: QUARTER });
    expect(lead).toMatchObject({ length: QUARTER, offset: 3 * QUARTER });
    expect(full!.length).toBe(barLength(FOUR));
  });

  it('writes thirds of a beat as triplets, and ties out of them', () => {
    const third = 1 / 3;
    const sounds = [sound(0, third), sound(third, third), sound(2 * third, third + 1)];
    const bars = layBars(sounds, { metre: FOUR, key: C_MAJOR, pickup: 0, tripletBeats: new Set([0]) });
    expect(bars[0]!.events.slice(0, 3).map(({ tuplet }) => tuplet?.edge)).toEqual(['start', undefined, 'stop']);
    expect(shape(bars)[0]).toBe('0.33 0.33 0.33- 1 z2');
  });

  it('keeps every sound as long as it was, in whatever metre', () => {
    const lengths = fc.array(fc.integer({ min: 1, max: 12 }), { minLength: 1, maxLength: 20 });
    const metres = fc.constantFrom<Metre>(FOUR, { beats: 3, unit: 4 }, { beats: 6, unit: 8 }, { beats: 5, unit: 4 });
    fc.assert(
      fc.property(lengths, metres, (eighths, metre) => {
        let at = 0;
        const sounds = eighths.map((count) => {
          const made = sound(at, count / 2);
          at += count / 2;
          return made;
        });
        const bars = layBars(sounds, { metre, key: C_MAJOR, pickup: 0 });
        const events = bars.flatMap((bar) => bar.events);
        const joined: number[] = [];
        let holds = false;
        for (const event of events.filter(({ kind }) => kind === 'note')) {
          if (holds) joined[joined.length - 1]! += event.duration;
          else joined.push(event.duration);
          holds = event.kind === 'note' && event.heads[0]!.tied === true;
        }
        expect(joined).toEqual(sounds.map(({ duration }) => duration));
        expect(bars.every(({ length }) => length === barLength(metre))).toBe(true);
      }),
    );
  });
});

describe('tuplet marks', () => {
  const event = (id: string, tuplet = true): TuneEvent => ({
    kind: 'rest',
    id,
    at: 0,
    duration: tuplet ? 1120 : 1680,
    value: { type: 'eighth', dots: 0 },
    ...(tuplet && { tuplet: { actual: 3, normal: 2 } }),
  });
  const edges = (events: readonly TuneEvent[]) => markTupletEdges(events).map(({ tuplet }) => tuplet?.edge ?? '.');

  it('close a group when it is full, and begin the next', () => {
    const six = ['a', 'b', 'c', 'd', 'e', 'f'].map((id) => event(id));
    expect(edges(six)).toEqual(['start', '.', 'stop', 'start', '.', 'stop']);
  });

  it('close a group that plain notes cut short, and leave one note alone unmarked', () => {
    expect(edges([event('a'), event('b'), event('c', false)])).toEqual(['start', 'stop', '.']);
    expect(edges([event('a'), event('b', false)])).toEqual(['.', '.']);
  });
});

describe('keys of melodies', () => {
  const best = (music: string, key: string) => {
    const { bars } = tuneOf(music, { key });
    const notes = bars.flatMap(({ events }) =>
      events.flatMap((event) =>
        event.kind === 'note' ? [{ midi: midi(event.heads[0]!.pitch), duration: event.duration }] : [],
      ),
    );
    return keyName(suggestKeys(notes)[0]!.key);
  };

  it.each([
    ['G2BG dGBG | ABcA BGAB | c2ec B2dB | AFDF G4 |', 'G', 'G major'],
    ['B2dB FBdB | ceAc FAce | dfbf dBAB | B8 |', 'Bb', 'B♭ major'],
    ['E2GE B2GE | D2FD A2FD | E2GE B2AG | FDGF E4 |', 'Em', 'E minor'],
    ['A2cA e2cA | G2BG d2BG | A2cA e2dc | BGdB A4 |', 'Amix', 'A mixolydian'],
  ])('%s is in %s', (music, key, name) => {
    expect(best(music, key)).toBe(name);
  });

  it('spells notes as the key does, and gives each back the same sound', () => {
    const name = (number: number, letter: 'G' | 'F' | 'A' | 'E', alter: 0 | -1, mode: 'major' | 'minor') =>
      pitchName(spellInKey(number, keyOf({ letter, alter }, mode)));
    expect([
      name(66, 'G', 0, 'major'),
      name(70, 'F', 0, 'major'),
      name(63, 'E', -1, 'major'),
      name(68, 'A', 0, 'minor'),
    ]).toEqual(['F#4', 'Bb4', 'Eb4', 'G#4']);
    fc.assert(fc.property(fc.integer({ min: 21, max: 108 }), (number) => midi(spellInKey(number, C_MAJOR)) === number));
  });
});

it('knows bars that make up for each other only across a repeat or a double bar', () => {
  const fills = (music: string) => {
    const { bars } = tuneOf(music);
    return bars.map((_, index) => fillsBar(bars, index));
  };
  expect(fills('C8 | D4 || E4 | F8 |]')).toEqual([true, true, true, true]);
  expect(fills('C8 | D4 | E4 | F8 |]')).toEqual([true, false, false, true]);
});

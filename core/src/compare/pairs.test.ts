import { describe, expect, it } from 'vitest';
import { readAbc, readMusicXml } from '../formats/index.ts';
import { readNokta, saveArrangement } from '../files/index.ts';
import { INSTRUMENT } from '../instrument/index.ts';
import { barLength, midi, pitch, pitchName, soundingNotes, transposeTune, type Tune } from '../music/index.ts';
import { tuneScore } from '../practice/index.ts';
import { phrasesOf } from '../form/index.ts';
import { finished } from '../stage/index.ts';
import { tuneOf } from '../test/testing.ts';
import { arrange } from '../arrange/index.ts';
import { decided, FIRST_DECISIONS, type DecisionChange } from '../arrange/index.ts';
import { echoVersion, isEcho, pairsOf, phrasePlaces } from './pairs.ts';

/** High: stays on A and E. Low: stays on the low pair. Wide: needs both. */
const HIGH = 'A2c2 e2f2 | e2c2 A4 | B2c2 d2e2 | c2B2 A4 |';
const LOW = 'A,2C2 E2F2 | E2C2 A,4 | B,2C2 D2E2 | C2B,2 A,4 |';
const WIDE = 'A,2E2 A2e2 | c2A2 E2A,2 | A,2E2 A2e2 | a2e2 A4 |';
const set = (music: string, change: DecisionChange = {}) =>
  arrange(
    tuneOf(`|: ${music.replace(/\|\s*$/, ':|')}`, { key: 'A', tempo: '1/4=90' }),
    decided(decided(FIRST_DECISIONS, { key: { tuning: 'low-pair-up' } }), change),
  );
const first = (music: string) => finished(phrasePlaces(set(music)))[0]!;

describe('pairs of strings', () => {
  it.each([
    [
      'A3 E4 A4 E5',
      [
        [0, 1],
        [2, 3],
      ],
    ],
    [
      'G3 D4 G4 D5',
      [
        [0, 1],
        [2, 3],
      ],
    ],
    [
      'C3 A3 E4 A4 E5',
      [
        [1, 2],
        [3, 4],
      ],
    ],
  ])('an octave apart: %s', (names, [low, high]) => {
    expect(pairsOf(names.split(' ').map(pitch))).toEqual({ low, high });
  });
  it.each(['G3 D4 A4 E5', 'A3 D4 A4 E5', 'D3 A3 D4'])('not: %s', (names) => {
    expect(pairsOf(names.split(' ').map(pitch))).toBeNull();
  });
});

describe('a phrase on a pair', () => {
  it('echoes an octave down from the upper pair, up from the lower one', () => {
    expect(first(HIGH).echo).toMatchObject({ octaves: -1, strings: -2 });
    expect(first(LOW).echo).toMatchObject({ octaves: 1, strings: 2 });
  });

  it('does not where it needs both, and says which notes fall off which pair', () => {
    const { echo } = first(WIDE);
    if (isEcho(echo) || echo.why !== 'crosses') throw new Error('it echoes');
    expect(echo.low.map(pitchName)).toEqual(['A3', 'E4']);
    expect(echo.high.map(pitchName)).toContain('A5');
  });

  it('does not in fifths', () => {
    const { echo } = finished(phrasePlaces(set(HIGH, { key: { tuning: 'standard' } })))[0]!;
    expect(echo).toEqual({ why: 'no-pairs' });
  });

  it('is played and echoed with the same fingers, on partner strings', () => {
    const plain = set(HIGH);
    const places = finished(phrasePlaces(plain));
    const { phrases, locks } = echoVersion(plain, places);
    const made = arrange(plain.source, decided(plain.decisions, { key: { phrases }, hand: { locks } }));
    const all = phrasesOf(made.form);
    const of = (index: number) =>
      made.fingering.notes.filter(({ id }) => all[index]!.notes.includes(id)).map(({ stops: [stop] }) => stop!);
    expect(all.length).toBe(2 * phrasesOf(plain.form).length);
    for (let index = 0; index < all.length; index += 2) {
      const [call, answer] = [of(index), of(index + 1)];
      expect(answer.map(({ finger }) => finger)).toEqual(call.map(({ finger }) => finger));
      expect(answer.map(({ string }) => string)).toEqual(call.map(({ string }) => string - 2));
    }
    expect(made.breaches).toEqual([]);
    // Asked again, the echoes themselves are no phrases to be echoed.
    expect(finished(phrasePlaces(made)).map(({ first }) => first)).toEqual(places.map(({ first }) => first));
  });
});

describe('a phrase that cannot be played once more', () => {
  it('says so, and is left out of call and echo', () => {
    const tune = set('A2c2 e2f2 | e2c2 A4 | B2c2 d2e2 |1 c2B2 A4 :|2 c2B2 A4 |');
    const places = finished(phrasePlaces(tune));
    const joins = places.map(({ noEcho }) => noEcho);
    expect(joins).toContain('repeat-inside');
    const { phrases } = echoVersion(tune, places);
    expect(Object.keys(phrases)).toHaveLength(places.filter(({ echo, noEcho }) => isEcho(echo) && !noEcho).length);
  });
});

describe('a phrase in its octaves', () => {
  it('is fitted and weighed by itself', () => {
    const [down, here, up] = first(HIGH).octaves;
    expect([down!.fits, here!.fits, up!.fits]).toEqual([true, true, true]);
    expect(up!.effort).toBeGreaterThan(here!.effort);
    expect(first(LOW).octaves[0]!.fits).toBe(false);
  });

  it('is decided for a phrase, heard in its notes, kept over another key, and taken back', () => {
    const plain = set(HIGH);
    const [place] = finished(phrasePlaces(plain));
    const phrases = { [place!.first]: { last: place!.last, octaves: -1, echo: 0 } };
    const down = arrange(plain.source, decided(plain.decisions, { key: { phrases, transpose: 2 } }));
    const away = down.fingering.notes.map(({ pitches: [one] }, index) => pitchName(one!) + index);
    expect(away[0]).toBe('B30');
    const back = arrange(plain.source, decided(down.decisions, { key: { phrases: {}, transpose: 0 } }));
    expect(back.tune).toEqual(plain.tune);
  });
});

describe('an arrangement with echoes', () => {
  const plain = set(HIGH);
  const { phrases, locks } = echoVersion(plain, finished(phrasePlaces(plain)));
  const made = arrange(plain.source, decided(plain.decisions, { key: { phrases }, hand: { locks } }));
  const contents = { tune: plain.source, arrangements: [made.decisions], tags: [], versions: [] };
  const sounds = (tune: Tune) => soundingNotes(tune).map(({ note }) => midi(note.heads[0]!.pitch));

  it.each(['abc', 'musicxml'] as const)('goes into %s with its echoes, and back', (ending) => {
    const text = String(saveArrangement(made, ending, contents));
    const read = ending === 'abc' ? readAbc(text) : readMusicXml(text);
    if (!read.ok) throw new Error(JSON.stringify(read.problems));
    expect(sounds(read.value.tune)).toEqual(sounds(made.tune));
    expect(sounds(made.tune)).toHaveLength(2 * sounds(plain.tune).length);
  });

  it('is kept in a Nokta file as the tune and what was decided', () => {
    const read = readNokta(String(saveArrangement(made, 'nokta.json', contents)));
    if (!read.ok) throw new Error('unread');
    expect(read.value.tune).toEqual(plain.source);
    expect(arrange(read.value.tune, read.value.arrangements[0]).tune).toEqual(made.tune);
  });

  it('sounds each phrase and its echo, repeats and all', () => {
    const heard = tuneScore(made, null).notes.map(({ pitches: [one] }) => one!);
    const once = tuneScore(plain, null).notes.map(({ pitches: [one] }) => one!);
    expect(heard).toHaveLength(2 * once.length);
    const half = phrasesOf(plain.form)[0]!.notes.length;
    expect(heard.slice(0, half)).toEqual(once.slice(0, half));
    expect(heard.slice(half, 2 * half)).toEqual(once.slice(0, half).map((one) => one - 12));
  });

  it('in a version for a grade, and without its tuning, still adds up', () => {
    for (const change of [
      { version: { grade: 2 } },
      { key: { tuning: 'standard' } },
      { key: { transpose: 3 } },
    ] as const) {
      const other = arrange(plain.source, decided(made.decisions, change));
      expect(other.tune.bars.every(({ length, metre }) => length === barLength(metre))).toBe(true);
      expect(other.tune.bars).toHaveLength(2 * plain.tune.bars.length);
    }
  });
});

describe('laws of the key stage', () => {
  const tunes = [HIGH, LOW, WIDE].map((music) => set(music).source);
  const tunings = INSTRUMENT.violin.tunings.map(({ id }) => id);
  it.each(tunings)('in %s a tune sounds the same pitches', (tuning) => {
    for (const tune of tunes) {
      const made = arrange(tune, decided(FIRST_DECISIONS, { key: { tuning } }));
      expect(made.tune).toEqual(tune);
      for (const { stops, pitches } of made.fingering.notes)
        for (const stop of stops) {
          expect(midi(made.tuning.pitches[stop.string]!) + stop.semitones).toBe(midi(stop.pitch));
          expect(pitches.map(midi)).toContain(midi(stop.pitch));
        }
    }
  });

  it('transposing up and down again is the identity, octaves of phrases and all', () => {
    for (const tune of tunes)
      for (let by = -11; by <= 11; by += 1)
        expect(sounds(transposeTune(transposeTune(tune, by), -by))).toEqual(sounds(tune));
  });
  const sounds = (tune: Tune) =>
    soundingNotes(tune).map(({ note }) => note.heads.map(({ pitch: one }) => pitchName(one)).join());
});

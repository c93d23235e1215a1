/** A version's other sides: phrases that change when they come again, wishes that an edit undid, the ladder. */
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { phrasesOf } from '../form/index.ts';
import { midi, playedOrder, soundingNotes, type Tune, octaveAway } from '../music/index.ts';
import { playedNotes } from '../formats/midi/write.ts';
import { finished } from '../stage/index.ts';
import { tuneScore } from '../practice/index.ts';
import { tuneOf } from '../test/testing.ts';
import { arbitraryTune } from '../test/arbitrary.ts';
import { FIRST_DECISIONS, arrange, decided, type Arrangement } from '../arrange/index.ts';
import { ladderStep, notesToPlay } from '../compare/index.ts';
import { timesRound } from './index.ts';
import { phraseReplaced } from './rounds.ts';
import type { SlotFill, VersionDecisions } from '../grade/index.ts';

const REEL =
  '|: "D"d2fd Adfd | "G"g2fg e2ce | "D"d2fd Adfd | "A"e4 c4 | "D"a2fa dafd | "G"b2gb "A"a2e2 | "D"fdfa "A"gece | "D"d4 d4 :|';
const reel = tuneOf(REEL, { key: 'D', metre: '4/4', tempo: '1/4=100' });
const version = (change: Partial<VersionDecisions>, tune: Tune = reel, time = 1): Arrangement =>
  arrange(tune, decided(FIRST_DECISIONS, { version: change }), time);
const [phrase] = phrasesOf(arrange(reel).form);
const slot = (fill: SlotFill, time = 1) => version({ slots: { [phrase!.notes[0]!]: { 2: fill } } }, reel, time);
const pitches = (tune: Tune) => soundingNotes(tune).map(({ note }) => midi(note.heads[0]!.pitch));
const inPhrase = (tune: Tune) => {
  const own = new Set(phrase!.notes);
  return soundingNotes(tune).filter(({ note }) => own.has(note.id));
};

describe('times round', () => {
  it('are counted as the tune is played', () => {
    expect(timesRound(reel, phrase!)).toBe(2);
    expect(timesRound(tuneOf('d8 | e8 |'), { from: 0, to: 100 })).toBe(1);
  });

  it('are none where nothing was chosen for them', () => {
    expect(version({}).rounds).toEqual([]);
  });

  it('change a phrase and nothing else, and the first time stays as it is', () => {
    const first = slot('octave-down');
    expect(pitches(first.plain)).toEqual(pitches(reel));
    const second = slot('octave-down', 2);
    expect(inPhrase(second.plain).map(({ note }) => midi(note.heads[0]!.pitch))).toEqual(
      inPhrase(reel).map(({ note }) => midi(note.heads[0]!.pitch) - 12),
    );
    const others = (tune: Tune) => pitches(tune).slice(inPhrase(reel).length);
    expect(others(second.plain)).toEqual(others(reel));
    expect(second.plain.bars).toHaveLength(reel.bars.length);
  });

  it('are heard when they come, in the desk and in a file of sounds', () => {
    const sounding = slot('octave-down');
    const { notes } = tuneScore(sounding, null, 'written');
    const half = notes.length / 2;
    expect(notes[half]!.pitches[0]).toBe(notes[0]!.pitches[0]! - 12);
    const sounds = playedNotes(sounding.tune, sounding.rounds);
    expect(sounds[sounds.length / 2]!.pitches[0]).toBe(sounds[0]!.pitches[0]! - 12);
    expect(playedOrder(reel.bars).length).toBe(16);
  });

  it('bring another grade’s version of the phrase, in the same key', () => {
    const second = slot(1, 2);
    expect(inPhrase(second.plain).length).toBeLessThan(inPhrase(reel).length);
    expect(second.plain.bars[0]!.key).toEqual(reel.bars[0]!.key);
  });

  it('leave bars whole and ties sound, whatever is put where', () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const form = arrange(tune).form;
        for (const one of phrasesOf(form).slice(0, 4)) {
          const bare = arrange(tune, decided(FIRST_DECISIONS, { version: { grade: 'bare' } })).plain;
          for (const made of [phraseReplaced(tune, bare, one), octaveAway(tune, one, 1)]) {
            expect(made.bars.map(({ length }) => length)).toEqual(tune.bars.map(({ length }) => length));
            made.bars.forEach(({ events, length }) =>
              expect(events.reduce((sum, event) => sum + event.duration, 0)).toBe(length),
            );
            const ids = made.bars.flatMap(({ events }) => events.map(({ id }) => id));
            expect(new Set(ids).size).toBe(ids.length);
          }
        }
      }),
      { numRuns: 40 },
    );
  });
});

describe('wishes that an edit undid', () => {
  const without = { ...reel, bars: reel.bars.slice(0, 7) };
  it('are told, each once', () => {
    const gone = reel.bars[7]!;
    const wish = {
      grade: 1 as const,
      kept: [`${gone.id}@0`, 'key'],
      locked: [gone.events[0]!.id],
      chosen: { [`${reel.bars[0]!.id}@0`]: 'no such filling' },
      slots: { nowhere: { 2: 'tune' as const } },
    };
    const { graded } = version(wish, without);
    expect(graded!.undone.map(({ kind, bar }) => [kind, bar])).toEqual([
      ['kept', null],
      ['locked', null],
      ['slot', null],
      ['chosen', 1],
    ]);
    expect(version({ ...wish, chosen: {}, slots: {} }).graded!.undone).toEqual([]);
  });
});

describe('the ladder', () => {
  it('names the notes that the next grade does not keep, and they are in this one', () => {
    const first = version({ grade: 1, kept: ['key'] });
    const step = finished(ladderStep(first))!;
    expect(step.grade).toBe(2);
    const own = new Set(first.plain.bars.flatMap(({ events }) => events.map(({ id }) => id)));
    for (const id of step.missing) expect(own).toContain(id);
    expect(finished(ladderStep(version({ grade: 6 })))).toBeNull();
    expect(finished(ladderStep(version({})))).toBeNull();
  });
});

describe('notes to improvise with', () => {
  const chords = notesToPlay(arrange(reel), phrase!);
  it('follow the chords', () => {
    expect(chords.map(({ chord, found }) => [chord, found])).toEqual([
      ['D', false],
      ['G', false],
      ['D', false],
      ['A', false],
    ]);
  });

  it('lie under one hand, each place with one finger, and tell the chord from the scale', () => {
    for (const { places } of chords) {
      for (const { string, semitones, finger, pitch } of places) {
        expect(places.filter((one) => one.string === string && one.semitones === semitones)).toHaveLength(1);
        expect(finger === 0).toBe(semitones === 0);
        expect(pitch.letter === 'F' || pitch.letter === 'C' ? pitch.alter : 1).toBe(1);
      }
    }
    const [d] = chords;
    const third = d!.places.find(({ string, semitones }) => string === 1 && semitones === 4);
    expect([third!.finger, third!.role]).toEqual([2, 'chord']);
    expect(d!.places.find(({ string, semitones }) => string === 1 && semitones === 0)!.role).toBe('root');
    expect(d!.places.find(({ string, semitones }) => string === 1 && semitones === 2)!.role).toBe('scale');
  });

  it('do so on the cello and the bass', () => {
    for (const instrument of ['cello', 'bass'] as const) {
      const low = arrange(
        reel,
        decided(FIRST_DECISIONS, { key: { instrument, transpose: instrument === 'cello' ? -24 : -36 } }),
      );
      const [first] = notesToPlay(low, phrasesOf(low.form)[0]!);
      expect(first!.places.length).toBeGreaterThan(8);
      expect(first!.places.every(({ semitones }) => semitones <= 7)).toBe(true);
    }
  });
});

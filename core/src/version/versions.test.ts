/** Versions for each grade: what they promise holds, what they change is told, and the tune stays the tune. */
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { bowSlice } from '../bow/index.ts';
import { analyseForm, phrasesOf } from '../form/index.ts';
import { GRADE_NUMBERS, contractFor, difficultyOf, isGraded, type GradeNumber } from '../grade/index.ts';
import { handSlice } from '../hand/index.ts';
import { INSTRUMENT, INSTRUMENTS, standardTuning, type InstrumentId } from '../instrument/index.ts';
import { beatLength, fillsBar, isNote, midi, type Tune } from '../music/index.ts';
import { arbitraryTune } from '../test/arbitrary.ts';
import { READ_RULES, brokenIn } from '../test/gradeChecker.ts';
import { expectToldTruly } from '../test/talkTruth.ts';
import { tuneOf } from '../test/testing.ts';
import { FIRST_DECISIONS, arrange, arrangementXml, bestOctave, decided, type Arrangement } from '../arrange/index.ts';
import { NO_VERSION_WISHES, gradedVersion, versionWays, type VersionContext } from './index.ts';
import { versionWayText } from '../words/index.ts';

const TUNES: Readonly<Record<string, Tune>> = {
  reel: tuneOf(
    'D2 |: G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG FDEF | G2BG dGBG | ABcA BGAB | c2ec BdAc | BAGF G2 D2 :|',
    { key: 'G', tempo: '1/4=160' },
  ),
  jig: tuneOf('|: A | d2e fed | B2d A2F | G2B AFD | E2F G2A | d2e fed | B2d A2F | G2B AFD | E2D D2 :|', {
    key: 'D',
    metre: '6/8',
    tempo: '3/8=100',
  }),
  march: tuneOf('A2 | d3e f2d2 | g3f e2A2 | f3e d2B2 | A6 A2 | d3e f2d2 | g3f e2c2 | d2f2 e2c2 | d6 |]', {
    key: 'D',
    tempo: '1/4=104',
  }),
  flat: tuneOf(
    '|: (3FGA | B2dB FBdB | ceAc FAce | dfbf dBAB | cBAG F2 (3FGA | B2dB FBdB | cegb agfe | dfBd cAFA | B2d2B2 :|',
    { key: 'Bb', tempo: '1/4=138' },
  ),
  air: tuneOf('C2 | F4 G2 | A4 F2 | B4 A2 | G4 C2 | F4 A2 | G4 E2 | F6- | F4 |]', {
    key: 'F',
    metre: '3/4',
    tempo: '1/4=84',
  }),
};

function contextFor(tune: Tune, id: InstrumentId): VersionContext {
  const key = { ...FIRST_DECISIONS.key, instrument: id };
  const transpose = id === 'violin' ? 0 : bestOctave(tune, decided(FIRST_DECISIONS, { key }));
  const { inKey, tempo } = arrange(tune, decided(FIRST_DECISIONS, { key: { instrument: id, transpose } }));
  const instrument = INSTRUMENT[id];
  return {
    tune: inKey,
    instrument,
    tuning: standardTuning(instrument),
    tempo,
    hand: handSlice.first,
    bow: bowSlice.first,
  };
}

const made = new WeakMap<Tune, Map<string, Arrangement>>();

/** Each version is made once, and looked at from several sides. */
function arrangedAs(tune: Tune, id: InstrumentId, grade: GradeNumber): Arrangement {
  const known = made.get(tune) ?? new Map<string, Arrangement>();
  made.set(tune, known);
  const version = known.get(`${id} ${grade}`) ?? versionFor(tune, id, grade);
  known.set(`${id} ${grade}`, version);
  return version;
}

function versionFor(tune: Tune, id: InstrumentId, grade: GradeNumber): Arrangement {
  const key = { ...FIRST_DECISIONS.key, instrument: id };
  const transpose = id === 'violin' ? 0 : bestOctave(tune, decided(FIRST_DECISIONS, { key }));
  return arrange(tune, decided(FIRST_DECISIONS, { key: { instrument: id, transpose }, version: { grade } }));
}

const CASES = Object.keys(TUNES).flatMap((name) =>
  INSTRUMENTS.flatMap((id) => GRADE_NUMBERS.map((grade) => [name, id, grade] as const)),
);

describe('a version for a grade', () => {
  it.each(CASES)(
    '%s, %s, grade %i: reports what it breaks and nothing else, and keeps the frame of the tune',
    (name, id, grade) => {
      const tune = TUNES[name]!;
      const made = arrangedAs(tune, id, grade);
      const { graded, breaches, inKey, plain, instrument } = made;
      expect(graded!.breaches).toEqual(breaches);
      // The same bars, metres and repeats, each of them full.
      expect(plain.bars.map(({ id: bar, metre, length, repeatEnd }) => [bar, metre, length, repeatEnd])).toEqual(
        inKey.bars.map(({ id: bar, metre, length, repeatEnd }) => [bar, metre, length, repeatEnd]),
      );
      expect(plain.bars.every((_, index) => fillsBar(plain.bars, index))).toBe(true);
      for (const { events, length } of plain.bars)
        expect(events.reduce((sum, event) => sum + event.duration, 0)).toBe(length);
      // Another reader finds in the file what is reported, and nothing else.
      const { limits } = contractFor(instrument.hand, grade);
      const reported = new Set<string>(breaches.map(({ rule }) => rule));
      const found = brokenIn(arrangementXml(made), limits);
      for (const rule of READ_RULES) expect([rule, found.has(rule)]).toEqual([rule, reported.has(rule)]);
      // The tune's last note stays itself, and each phrase ends with a note of its last beat.
      const last = (one: Tune) => one.bars.flatMap(({ events }) => events.filter(isNote)).at(-1)!;
      const letter = (one: Tune) => last(one).heads.at(-1)!.pitch;
      expect(Math.abs((midi(letter(plain)) - midi(letter(inKey)) - graded!.transpose) % 12)).toBe(0);
    },
  );

  it.each(CASES)('%s, %s, grade %i: is talked through truly', (name, id, grade) =>
    expectToldTruly(arrangedAs(TUNES[name]!, id, grade)),
  );

  it.each(Object.keys(TUNES))('%s: no version leaps where the tune does not, or changes more than it tells', (name) => {
    for (const grade of [1, 2] as const) {
      const { graded, inKey, plain } = arrangedAs(TUNES[name]!, 'violin', grade);
      const notes = (one: Tune) => one.bars.flatMap(({ events }) => events.filter(isNote));
      const pairs = new Set(notes(inKey).map((note, index, all) => `${note.id} ${all[index + 1]?.id}`));
      notes(plain).forEach((note, index, all) => {
        const next = all[index + 1];
        if (!next || pairs.has(`${note.id} ${next.id}`)) return;
        const distance = Math.abs(midi(next.heads.at(-1)!.pitch) - midi(note.heads.at(-1)!.pitch));
        expect(distance).toBeLessThanOrEqual(12);
      });
      const told = new Set(graded!.changes.flatMap((change) => change.notes));
      const left = new Set(notes(plain).map(({ id }) => id));
      for (const { id } of notes(inKey))
        if (!left.has(id) && !id.includes('t')) expect(told.has(id) || isTied(inKey, id)).toBe(true);
    }
  });
});

/** Later written notes of a tie have no card of their own. */
const isTied = ({ bars }: Tune, id: string): boolean => {
  const notes = bars.flatMap(({ events }) => events.filter(isNote));
  const at = notes.findIndex((note) => note.id === id);
  return notes[at - 1]?.heads.some(({ tied }) => tied) ?? false;
};

/** Each grade takes the key that suits it best, in which a figure or two may be less like the tune. */
const LESS_LIKE = 0.03;
/** A richer contract may let the hand play the same notes in an easier way. */
const EASIER_HAND = 0.5;

describe('the ladder of versions', () => {
  it.each(INSTRUMENTS)('%s: the simpler, the less like the tune and the less difficult', (id) => {
    for (const tune of Object.values(TUNES)) {
      const all = GRADE_NUMBERS.map((grade) => arrangedAs(tune, id, grade));
      const simpler = all.filter(({ graded }) => graded!.changes.every(({ direction }) => direction === 'easier'));
      const likeness = simpler.map(({ graded }) => graded!.likeness);
      likeness.forEach((value, index) => {
        expect(value).toBeGreaterThan(0.35);
        if (index > 0) expect(value).toBeGreaterThanOrEqual(likeness[index - 1]! - LESS_LIKE);
      });
      const hard = all.map((one) => difficultyOf(one).total);
      hard.forEach((value, index) => index > 0 && expect(value).toBeGreaterThanOrEqual(hard[index - 1]! - EASIER_HAND));
      expect(hard[5]!).toBeGreaterThanOrEqual(hard[0]!);
    }
  });

  it('keeps in a simpler version what the next richer one keeps, where both are in one key', () => {
    let [kept, all] = [0, 0];
    for (const tune of Object.values(TUNES)) {
      const versions = ([1, 2, 3] as const).map((grade) => arrangedAs(tune, 'violin', grade));
      versions.slice(1).forEach((upper, index) => {
        const lower = versions[index]!;
        if (lower.graded!.transpose % 12 !== upper.graded!.transpose % 12) return;
        const ids = new Set(upper.plain.bars.flatMap(({ events }) => events.filter(isNote).map(({ id }) => id)));
        for (const { id } of lower.plain.bars.flatMap(({ events }) => events.filter(isNote))) {
          all += 1;
          if (ids.has(id)) kept += 1;
        }
      });
    }
    expect(all).toBeGreaterThan(100);
    expect(kept / all).toBeGreaterThan(0.9);
  });
});

describe('what is decided about a version', () => {
  const context = contextFor(TUNES['reel']!, 'violin');

  it('gives the tune back exactly where all changes are dropped', () => {
    for (const grade of [1, 2] as const) {
      const { changes } = gradedVersion(context, grade, { ...NO_VERSION_WISHES, otherKey: false, otherOctave: false });
      const kept = new Set(changes.map(({ id }) => id.split(' ')[0]!));
      const back = gradedVersion(context, grade, { ...NO_VERSION_WISHES, kept, otherKey: false, otherOctave: false });
      expect(back.tune.bars).toEqual(context.tune.bars);
    }
  });

  it('keeps the beats that stay as in the tune, and the notes that must stay, and reports what they break', () => {
    const first = gradedVersion(context, 1, { ...NO_VERSION_WISHES, otherKey: false });
    const dropped = first.changes.find(({ kind }) => kind === 'left-out')!;
    const kept = gradedVersion(context, 1, { ...NO_VERSION_WISHES, otherKey: false, kept: new Set([dropped.id]) });
    const ids = new Set(kept.tune.bars.flatMap(({ events }) => events.map(({ id }) => id)));
    for (const note of dropped.notes) expect(ids.has(note)).toBe(true);
    expect(kept.breaches.length).toBeGreaterThan(0);
    const [, second] = dropped.notes;
    const locked = gradedVersion(context, 1, { ...NO_VERSION_WISHES, otherKey: false, locked: new Set([second!]) });
    expect(locked.tune.bars.some(({ events }) => events.some(({ id }) => id === second))).toBe(true);
  });

  it('takes another way to fill a beat', () => {
    const { changes } = gradedVersion(context, 2, { ...NO_VERSION_WISHES, otherKey: false, otherOctave: false });
    const change = changes.find(({ kind }) => kind === 'left-out')!;
    const ways = versionWays(context, contractFor('violin', 2).limits, change.id);
    expect(ways.length).toBeGreaterThan(1);
    // Told with octave and value, no two read the same.
    expect(new Set(ways.map((way) => versionWayText(way))).size).toBe(ways.length);
    const other = ways.find(
      ({ pieces }) => pieces.length === 1 && pieces[0]!.pitch && midi(pieces[0]!.pitch) !== midi(change.is[0]!),
    )!;
    const chosen = gradedVersion(context, 2, {
      ...NO_VERSION_WISHES,
      otherKey: false,
      otherOctave: false,
      chosen: new Map([[change.id, other.key]]),
    });
    expect(chosen.changes.find(({ id }) => id === change.id)?.is.map(midi)).toEqual([midi(other.pieces[0]!.pitch!)]);
  });

  it('is the same to the byte each time, and grading a version again changes nothing', () => {
    for (const grade of [1, 2] as const) {
      const once = gradedVersion(context, grade);
      expect(JSON.stringify(gradedVersion(context, grade).tune)).toBe(JSON.stringify(once.tune));
      if (once.breaches.length > 0) continue;
      const again = gradedVersion({ ...context, tune: once.tune }, grade);
      expect(again.changes).toEqual([]);
      expect(again.tune).toBe(once.tune);
    }
  });

  it('stays in its key where it must', () => {
    const flat = contextFor(TUNES['flat']!, 'violin');
    expect(gradedVersion(flat, 2).transpose % 12).not.toBe(0);
    expect(Math.abs(gradedVersion(flat, 2, { ...NO_VERSION_WISHES, otherKey: false }).transpose % 12)).toBe(0);
  });
});

describe('richer versions', () => {
  it('add what the contract allows, spread, and less than half of the beats', () => {
    const march = contextFor(TUNES['march']!, 'violin');
    const plain = gradedVersion(march, 4, { ...NO_VERSION_WISHES, density: 0 });
    expect(plain.tune.bars).toEqual(march.tune.bars);
    const { changes, breaches, tune } = gradedVersion(march, 4, { ...NO_VERSION_WISHES, density: 1 });
    expect(breaches).toEqual([]);
    expect(changes.length).toBeGreaterThan(2);
    const beats = tune.bars.reduce((sum, { length, metre }) => sum + length / beatLength(metre), 0);
    expect(changes.length).toBeLessThan(beats / 2);
    const first = phrasesOf(analyseForm(march.tune)).map(({ notes }) => notes[0]);
    for (const { notes } of changes) expect(first).not.toContain(notes[0]);
    const without = gradedVersion(march, 4, { ...NO_VERSION_WISHES, density: 1, kept: new Set([changes[0]!.id]) });
    expect(without.changes.map(({ id }) => id)).not.toContain(changes[0]!.id);
  });

  it('leave a tune at its own grade as it is', () => {
    for (const tune of Object.values(TUNES)) {
      const own = GRADE_NUMBERS.find((grade) => arrangedAs(tune, 'violin', grade).graded!.changes.length === 0);
      if (own === undefined) continue;
      const { graded, inKey, plain } = arrangedAs(tune, 'violin', own);
      expect(isGraded(graded!.grade)).toBe(true);
      expect(plain).toBe(inKey);
    }
  });
});

it('makes a sound version of any tune', () => {
  fc.assert(
    fc.property(
      arbitraryTune(),
      fc.constantFrom(...INSTRUMENTS),
      fc.constantFrom(1, 2, 3 as const),
      (tune, id, grade) => {
        const { graded, breaches, plain, inKey } = arrangedAs(tune, id, grade as GradeNumber);
        expect(graded!.breaches).toEqual(breaches);
        plain.bars.forEach(({ events, length }, index) => {
          const sum = events.reduce((total, { duration }) => total + duration, 0);
          const before = inKey.bars[index]!.events.reduce((total, { duration }) => total + duration, 0);
          expect(sum === length || before !== length).toBe(true);
        });
        const ids = plain.bars.flatMap(({ events }) => events.map(({ id: own }) => own));
        expect(new Set(ids).size).toBe(ids.length);
      },
    ),
    { numRuns: 12 },
  );
}, 60_000);

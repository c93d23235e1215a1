/** Laws of the analysis: what must not matter does not, and what was decided stays. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { placedNotes, transposeTune, mapNotes, type Bar, type Pitch, type Tune } from '../music/index.ts';
import { arbitraryTune } from '../test/arbitrary.ts';
import { TRUTHS } from '../test/formTruth.ts';
import { tuneOf } from '../test/testing.ts';
import {
  analyseForm,
  holdPhrase,
  joinPhrases,
  markPart,
  moveBoundary,
  namePhrase,
  nudgeBoundary,
  orderPhrases,
  isExactCopy,
  phrasesOf,
  playedBars,
  splitPhrase,
  type PartingResult,
} from './index.ts';

const someTune = fc.constantFrom(...TRUTHS.map(({ tune }) => tune));
const starts = (tune: Tune) => phrasesOf(analyseForm(tune)).map(({ notes }) => notes[0]);
const relations = (tune: Tune) => phrasesOf(analyseForm(tune)).map(({ relation }) => `${relation.kind} ${relation.of}`);

/** Every value twice as long, in a metre of twice as long beats. */
function doubled(tune: Tune): Tune {
  const types = ['breve', 'whole', 'half', 'quarter', 'eighth', '16th', '32nd', '64th', '128th'] as const;
  return {
    ...tune,
    bars: tune.bars.map((bar): Bar => ({
      ...bar,
      metre: { beats: bar.metre.beats, unit: bar.metre.unit / 2 },
      length: 2 * bar.length,
      offset: 2 * bar.offset,
      events: bar.events.map((event) => ({
        ...event,
        at: 2 * event.at,
        duration: 2 * event.duration,
        value: { ...event.value, type: types[types.indexOf(event.value.type) - 1]! },
      })),
    })),
  };
}

describe('any tune at all', () => {
  it('is parted without gaps, every note in one phrase, every bar with its material, every place in the tune', () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const form = analyseForm(tune);
        const phrases = phrasesOf(form);
        expect(phrases.flatMap(({ notes }) => notes)).toEqual(placedNotes(tune).map(({ note }) => note.id));
        expect(phrases[0]!.from).toBe(0);
        phrases.slice(1).forEach(({ from }, index) => expect(from).toBe(phrases[index]!.to));
        expect(new Set(phrases.map(({ label }) => label)).size).toBe(phrases.length);
        expect(form.bars).toHaveLength(tune.bars.length);
        for (const { material } of form.bars) expect(form.bars[material]!.material).toBe(material);
        for (const { places } of form.licks) expect(places.length).toBeGreaterThan(1);
        expect(form.learn.newBars).toBeLessThanOrEqual(Math.max(form.learn.totalBars, 1));
        expect(playedBars(tune)).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: 150 },
    );
  });
});

describe('what must not matter', () => {
  it('transposing changes no boundary and no relation', () => {
    fc.assert(
      fc.property(someTune, fc.integer({ min: -9, max: 9 }), (tune, semitones) => {
        const moved = transposeTune(tune, semitones);
        expect(starts(moved)).toEqual(starts(tune));
        expect(relations(moved)).toEqual(relations(tune));
      }),
      { numRuns: 40 },
    );
  });

  it('doubling all values changes no boundary and no relation', () => {
    for (const { tune } of TRUTHS) {
      expect(starts(doubled(tune))).toEqual(starts(tune));
      expect(relations(doubled(tune))).toEqual(relations(tune));
    }
  });
});

describe('copies', () => {
  const bars = (tune: Tune) => tune.bars;

  it('a part that is written out again is the same, phrase by phrase, under the same letter', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...'DEFGABcdefg'), { minLength: 64, maxLength: 64 }), (letters) => {
        const part = Array.from({ length: 8 }, (_, bar) => letters.slice(8 * bar, 8 * bar + 8).join('')).join(' | ');
        const form = analyseForm(tuneOf(`${part} || ${part} |]`));
        const [first, second] = form.parts;
        expect([first!.label, second!.label, second!.like]).toEqual(['A', 'A', 0]);
        expect(second!.phrases.map(({ from }) => from - second!.phrases[0]!.from)).toEqual(
          first!.phrases.map(({ from }) => from),
        );
        for (const phrase of second!.phrases) expect(isExactCopy(phrase.relation)).toBe(true);
        expect(form.learn.newBars).toBeLessThanOrEqual(8);
      }),
      { numRuns: 40 },
    );
  });

  it('one changed note is told at its bar, with the notes of both places', () => {
    const part = 'GABd edBA | GABG A2Bd | eged BdAB | GBAF G2D2';
    const twice = tuneOf(`${part} || ${part} |]`);
    const second = placedNotes(twice).slice(placedNotes(twice).length / 2);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: second.length - 1 }), (index) => {
        const changed = second[index]!;
        const higher = ({ letter, octave }: Pitch): Pitch => ({ letter, alter: 0, octave: octave + 2 });
        const tune = mapNotes(twice, (note) =>
          note.id === changed.note.id ? { ...note, heads: [{ pitch: higher(note.heads[0]!.pitch) }] } : note,
        );
        const form = analyseForm(tune);
        const phrase = phrasesOf(form).find(({ notes }) => notes.includes(changed.note.id))!;
        const bar = changed.barIndex - 3;
        expect(phrase.relation.differences).toHaveLength(1);
        expect(phrase.relation.differences[0]).toMatchObject({
          own: [changed.note.id],
          other: [placedNotes(twice)[index]!.note.id],
        });
        expect(phrase.relation.differences[0]!.bars).toEqual([bar]);
        const same = form.bars.slice(4).map(({ material }, at) => material === at);
        expect(same).toEqual(
          bars(twice)
            .slice(4)
            .map((_, at) => at + 1 !== bar),
        );
      }),
    );
  });
});

describe('what was decided', () => {
  it('stays, whatever else is decided and however often it is worked out', () => {
    const action = fc.record({
      kind: fc.constantFrom('move', 'nudge', 'split', 'join', 'hold', 'name', 'part'),
      phrase: fc.nat(20),
      note: fc.nat(400),
      by: fc.constantFrom(1 as const, -1 as const),
    });
    fc.assert(
      fc.property(someTune, fc.array(action, { minLength: 1, maxLength: 6 }), (tune, actions) => {
        let now = tune;
        for (const { kind, phrase, note, by } of actions) {
          const before = now;
          const phrases = phrasesOf(analyseForm(now));
          const own = phrases[phrase % phrases.length]!;
          const notes = placedNotes(now);
          const target = notes[note % notes.length]!.note.id;
          const result: PartingResult = {
            move: () => moveBoundary(now, own.from, target),
            nudge: () => nudgeBoundary(now, own.from, by),
            split: () => splitPhrase(now, target),
            join: () => joinPhrases(now, own.from),
            hold: () => holdPhrase(now, own.from),
            name: () => namePhrase(now, own.from, 'The turn'),
            part: () => markPart(now, own.from, by > 0),
          }[kind]();
          if (!result.ok) continue;
          now = result.tune;
          const after = phrasesOf(analyseForm(now));
          // No note is lost, none is in two phrases.
          expect(after.flatMap((one) => one.notes)).toEqual(phrases.flatMap((one) => one.notes));
          // What was held and not touched is as it was.
          const held = phrases.filter((one) => one.held);
          const touched = new Set(changedSpans(before, now));
          for (const one of held) {
            if (!one.notes.some((id) => touched.has(id)))
              expect(after.map(({ notes: list }) => list.join())).toContain(one.notes.join());
          }
        }
        // Worked out again from what a store would give back, it is the same.
        expect(analyseForm(JSON.parse(JSON.stringify(now)) as Tune)).toEqual(analyseForm(now));
      }),
      { numRuns: 30 },
    );
  });

  /** Notes whose phrase is another one now. */
  function changedSpans(before: Tune, after: Tune): readonly string[] {
    const lists = (tune: Tune) => phrasesOf(analyseForm(tune)).map(({ notes }) => notes);
    const kept = new Set(lists(after).map((list) => list.join()));
    return lists(before)
      .filter((list) => !kept.has(list.join()))
      .flat();
  }

  it('keeps the teacher’s order of learning', () => {
    const tune = TRUTHS[0]!.tune;
    const form = analyseForm(tune);
    const order = [...form.learn.inOrder].reverse();
    const phrases = phrasesOf(form);
    const ordered = orderPhrases(
      tune,
      order.map((id) => phrases.find((phrase) => phrase.id === id)!),
    );
    const { learn } = analyseForm(ordered);
    expect(learn.own).toEqual(order);
    expect(learn.steps.map(({ phrase }) => phrase)).toEqual(order);
    expect(learn.steps.reduce((sum, { newBars }) => sum + newBars, 0)).toBe(learn.newBars);
    expect(learn.steps.reduce((sum, { covers }) => sum + covers, 0)).toBe(learn.totalBars);
  });
});

/** Laws of the analysis: what must not matter does not, and what was decided stays. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { placedNotes, transposeTune, mapNotes, type Bar, type Pitch, type Tune } from '../music/index.ts';
import { arbitraryTune } from '../test/arbitrary.ts';
import { FORM_KINDS } from '../test/formKinds.ts';
import { TRUTHS } from '../test/formTruth.ts';
import { tuneOf } from '../test/testing.ts';
import {
  analyseForm,
  formText,
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

const ALL = [...TRUTHS, ...FORM_KINDS];
const someTune = fc.constantFrom(...ALL.map(({ tune }) => tune));
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
    for (const { tune } of ALL) {
      expect(starts(doubled(tune))).toEqual(starts(tune));
      expect(relations(doubled(tune))).toEqual(relations(tune));
    }
  });
});

/** A tune of parts that are repeated without endings, with each repeat written out. */
function writtenOut(tune: Tune): Tune {
  const { parts } = analyseForm(tune);
  const bars = parts.flatMap(({ phrases, times }, index) => {
    const from = tune.bars.findIndex(({ events }) => events.some(({ id }) => id === phrases[0]!.notes[0]));
    const next = parts[index + 1]?.phrases[0]!.notes[0];
    const to = next ? tune.bars.findIndex(({ events }) => events.some(({ id }) => id === next)) : tune.bars.length;
    return Array.from({ length: times }, (_, time) =>
      tune.bars.slice(from, to).map(({ repeatStart: _start, repeatEnd: _end, ...bar }, at, own): Bar => ({
        ...bar,
        id: `${bar.id}-${time}`,
        events: bar.events.map((event) => ({ ...event, id: time === 0 ? event.id : `${event.id}-${time}` })),
        ...(at === own.length - 1 && { barline: 'double' as const }),
      })),
    ).flat();
  });
  return { ...tune, bars };
}

describe('signs', () => {
  const repeated = ALL.filter(
    ({ tune: { bars, slurs } }) =>
      bars.some(({ repeatEnd }) => repeatEnd) &&
      bars[0]!.repeatStart &&
      slurs.length === 0 &&
      bars.every(({ endings, jump, fine }) => !endings && !jump && !fine),
  ).map(({ name, tune }) => [name, tune] as const);

  it.each(repeated)('%s: repeats that are written out change nothing', (_, tune) => {
    const plain = analyseForm(tune);
    const written = analyseForm(writtenOut(tune));
    expect(formText(written)).toBe(formText(plain));
    expect(written.learn.newBars).toBe(plain.learn.newBars);
    const first = new Set(phrasesOf(plain).map(({ notes }) => notes[0]));
    const kept = phrasesOf(written).flatMap(({ notes }) => (notes[0]!.includes('-') ? [] : notes[0]!));
    expect(new Set(kept)).toEqual(first);
  });

  const tied = ALL.flatMap(({ name, tune }) =>
    phrasesOf(analyseForm(tune))
      .slice(1)
      .map((phrase) => [name, tune, phrase.start, phrase] as const),
  ).filter(([, tune, , { from, notes }]) => {
    const placed = placedNotes(tune);
    const at = placed.findIndex(({ note }) => note.id === notes[0]);
    const [before, own, next] = [placed[at - 1], placed[at], placed[at + 1]];
    // On a bar line inside a part, with a note after it in the same bar.
    return (
      own!.onset === from &&
      before!.onset + before!.note.duration === from &&
      tune.bars.every(({ endings, repeatStart }, index) => !endings && (!repeatStart || index !== own!.barIndex)) &&
      tune.bars[own!.barIndex]!.events[0]!.id === own!.note.id &&
      next?.barIndex === own!.barIndex &&
      2 * own!.note.duration <= tune.bars[own!.barIndex]!.length
    );
  });

  it.each(tied)('%s: a tie over the joint moves it by the held note', (_, tune, __, phrase) => {
    const placed = placedNotes(tune);
    const at = placed.findIndex(({ note }) => note.id === phrase.notes[0]);
    const [before, own, next] = [placed[at - 1]!.note, placed[at]!.note, placed[at + 1]!.note];
    // A held note has no syllable of its own; a breath stands after it.
    const { words: _words, ...heldOver } = { ...own, ...(before.decorations && { decorations: before.decorations }) };
    const held = mapNotes(tune, (note) =>
      note.id === before.id
        ? { ...note, heads: note.heads.map((head) => ({ ...head, tied: true })) }
        : note.id === own.id
          ? { ...heldOver, id: note.id, heads: before.heads.map(({ pitch }) => ({ pitch })) }
          : note,
    );
    const expected = starts(tune).map((id) => (id === own.id ? next.id : id));
    expect(starts(held)).toEqual(expected);
  });

  const withEndings = ALL.filter(({ tune: { bars } }) => bars.some(({ endings }) => endings)).map(
    ({ name, tune }) => [name, tune] as const,
  );

  it.each(withEndings)('%s: a part with its first ending alone moves as it does with both', (_, tune) => {
    // Later endings are left out, and the first is no ending any more.
    let later = false;
    const bars = tune.bars.flatMap((bar, index) => {
      if (bar.endings) later = !bar.endings.includes(1);
      const { endings: _endings, endingStop: _stop, ...plain } = bar;
      const own = later ? [] : [plain];
      if (bar.endingStop || (bar.repeatEnd && !tune.bars[index + 1]?.endings)) later = false;
      return own;
    });
    const kept = new Set(bars.flatMap(({ events }) => events.map(({ id }) => id)));
    // A part whose pickup stood in an ending that is gone begins otherwise.
    const whole = new Set(phrasesOf(analyseForm(tune)).flatMap(({ notes }) => (kept.has(notes[0]!) ? notes[0]! : [])));
    const motions = (one: Tune) =>
      phrasesOf(analyseForm(one))
        .filter(({ notes }) => whole.has(notes[0]!))
        .flatMap((phrase) => phrase.motions.filter(({ notes }) => notes.every((id) => kept.has(id))))
        .map(({ kind, notes }) => [kind, notes]);
    expect(motions({ ...tune, bars })).toEqual(motions(tune));
  });

  it('joining endings changes no motion', () => {
    for (const { tune } of ALL.filter(({ tune: { bars } }) => bars.some(({ endings }) => endings))) {
      const second = tune.bars.findIndex(({ endings }) => endings && !endings.includes(1));
      const inEndings = (id: string) =>
        tune.bars.findIndex(({ events }) => events.some((event) => event.id === id)) >= second;
      for (const { motions } of phrasesOf(analyseForm(tune))) {
        for (const { notes } of motions) {
          const bars = notes.map((id) => tune.bars.findIndex(({ events }) => events.some((event) => event.id === id)));
          const endings = new Set(bars.map((bar) => endingOf(tune, bar)).filter((ending) => ending !== null));
          expect(endings.size).toBeLessThan(2);
          expect(notes.some(inEndings) && bars.includes(second - 1)).toBe(false);
        }
      }
    }
  });

  function endingOf(tune: Tune, bar: number): number | null {
    const opens = tune.bars.slice(0, bar + 1).findLastIndex(({ endings }) => endings);
    if (opens < 0) return null;
    const closed = tune.bars.slice(opens, bar).some(({ repeatEnd, endingStop }) => repeatEnd ?? endingStop);
    return closed ? null : opens;
  }
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

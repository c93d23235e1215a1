import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { analyseForm, phrasesOf } from '../form/index.ts';
import { mapNotes, playedOrder, soundingNotes } from '../music/index.ts';
import { arbitraryTune } from '../test/arbitrary.ts';
import { tuneOf } from '../test/testing.ts';
import { flagText } from '../words/index.ts';
import { isRepeated } from './grouping.ts';
import {
  DOWNBEATS,
  PATTERN_IDS,
  SCHOOLS,
  TUNE_SLURS,
  bowSlice,
  bowTune,
  bowTuneWithWays,
  type BowDecisions,
} from './index.ts';

const bows = (music: string, header = {}, decided: Partial<BowDecisions> = {}) => {
  const tune = tuneOf(music, header);
  const bowing = bowTune(tune, analyseForm(tune), { ...bowSlice.first, ...decided });
  return {
    ...bowing,
    text: bowing.strokes
      .map(
        ({ direction, notes, retake, hook }) =>
          `${retake ? '*' : hook ? '^' : ''}${direction === 'down' ? 'D' : 'U'}${notes.length}`,
      )
      .join(' '),
  };
};

describe('bows as they come', () => {
  it('alternates, with slurs and ties on one bow', () => {
    expect(bows('A2 B2 (cde)f | g4- g4 | a8 |').text).toBe('D1 U1 D3 U1 D2 U1');
  });

  it('goes on through bar lines, rests and repeats in played order', () => {
    const { text, flags } = bows('|: A2 B2 c2 z2 | (de) f2 g4 :| A8 |]');
    expect(text).toBe('D1 U1 D1 U2 D1 U1 D1 U1 D1 U2 D1 U1 D1');
    expect(flags).toEqual([]);
  });

  it('says when a phrase comes round on the other bow', () => {
    const { flags, text } = bows('|: A4 B2 c2 :|');
    expect(text).toBe('D1 U1 D1 U1 D1 U1');
    expect(flags[0]!.kind).toBe('turns-on-repeat');
    expect(flagText(flags[0]!)).toBe('A1 starts down the first time and up when it comes round again.');
  });

  it('keeps the tune’s own marks, and stops or lifts the bow for them', () => {
    // Without a rest there is no time to lift: the bow stops, and goes on.
    expect(bows('A2 vB2 c2 ud2').text).toBe('D1 ^D1 U1 ^U1');
    expect(bows('A2 z2 vB2 c2').text).toBe('D1 *D1 U1');
  });

  it('lifts where that is asked for, in the direction that is asked for, and goes on from there', () => {
    const music = 'A | A2 B2 c2 d2 | e2 f2 g2 a2 |';
    const lifted = (turns: BowDecisions['turns']) =>
      bows(music, {}, { school: 'down-on-the-beat', joints: { n4: 'lift' }, turns }).text;
    // Lifted as it comes, one slur brings the next bar down again.
    expect(lifted({})).toBe('U1 D1 U1 *U2 D1 U1 D1 U1');
    expect(lifted({ n4: 'up' })).toBe('U1 D1 U1 *U2 D1 U1 D1 U1');
    expect(lifted({ n4: 'down' })).toBe('U1 D1 U1 *D1 U1 D1 U1 D1 U1');
    const stopped = bows(music, {}, { joints: { n4: 'stop' }, turns: { n4: 'down' } }).text;
    expect(stopped).toBe('U1 D1 U1 D1 U1 D1 U1 D1 U1');
  });

  it('joins a tie that starts inside a slur, and slurs that meet', () => {
    expect(bows('(A2 B2- B2 c2) | (d2 (e2) f2) g2').text).toMatch(/^D4 U/);
  });

  it('ends a stroke that a repeat jumps away from', () => {
    const { strokes } = bows('|: A4 (B4 |1 c8) :|2 d8 |]');
    expect(strokes.every(({ notes }) => new Set(notes).size === notes.length)).toBe(true);
    expect(strokes.flatMap(({ notes }) => notes)).toHaveLength(6);
  });

  it('tells each phrase’s first and last bow', () => {
    const { phrases } = bows('A8 | B8 | c8 | d8 | e8 | f8 | g8 | a8 |]');
    expect(phrases.map(({ startsWith, endsWith }) => [startsWith, endsWith])).toEqual([
      ['down', 'up'],
      ['down', 'up'],
    ]);
  });
});

describe('the very first stroke', () => {
  // Each is what a player does so that the first whole bar begins with a down-bow.
  it.each([
    ['no pickup', 'A2 B2 c2 d2 |', 'D1 U1 D1 U1'],
    ['a pickup of one', 'D2 | A4 B4 |', 'U1 D1 U1'],
    ['a pickup of two', 'DE | A4 B4 |', 'D1 U1 D1 U1'],
    ['a pickup of three in one triplet, separate', '(3DEF | A4 B4 |', 'U1 D1 U1 D1 U1'],
    ['a pickup of two slurred', '(DE) | A4 B4 |', 'U2 D1 U1'],
    ['a first bar that begins with a note held over', 'D2- | D2 A2 B4 |', 'U2 D1 U1'],
    ['a first bar that begins with a rest', 'z2 A2 B4 |', 'U1 D1'],
    ['a mark of the tune’s own', 'uA2 B2 c4 |', 'U1 D1 U1'],
  ])('with %s', (_, music, text) => {
    expect(bows(music).text).toBe(text);
  });

  it('is the teacher’s to choose', () => {
    expect(bows('A2 B2 c2 d2 |', {}, { start: 'up' }).text).toBe('U1 D1 U1 D1');
  });
});

describe('what is decided', () => {
  it('turns a stroke, joins to the note before, and cuts a slur', () => {
    expect(bows('A2 B2 c2 d2 |', {}, { turns: { n3: 'up' } }).text).toBe('D1 U1 ^U1 D1');
    expect(bows('A2 B2 c2 d2 |', {}, { slurs: { n3: 'joined' } }).text).toBe('D1 U2 D1');
    expect(bows('(A2 B2 c2 d2) |', {}, { slurs: { n3: 'cut' } }).text).toBe('D2 U2');
    expect(bows('A2 z2 c2 d2 |', {}, { slurs: { n3: 'joined' } }).text).toBe('D1 U1 D1');
  });
});

describe('down on the beat', () => {
  const down = (music: string, header = {}, decided: Partial<BowDecisions> = {}) =>
    bows(music, header, { school: 'down-on-the-beat', ...decided });

  // What good players do, each with its reason.
  it.each([
    ['an even bar needs nothing', 'A2 B2 c2 d2 | e8 |', {}, 'D1 U1 D1 U1 D1'],
    // Three quarters leave the bow at the frog: the last two share one.
    ['a waltz slurs two in the weak part', 'A2 B2 c2 | d6 |', { metre: '3/4' }, 'D1 U2 D1'],
    // Of the pairs after the first beat the last that begins on a beat: not the offbeat pair.
    ['five strokes slur the last pair on a beat', 'A2 B2 cd e2 | f8 |', {}, 'D1 U1 D2 U1 D1'],
    ['a slur of the tune is no repair', 'A2 (Bc) d2 e2 | f8 |', {}, 'D1 U2 D1 U1 D1'],
    // Repeated pitches are heard as two notes; they are not slurred. The dotted figure is hooked instead.
    ['a dotted figure is hooked', 'A4 B3B | c8 |', {}, 'D1 U1 ^U1 D1'],
    // Repeated pitches again: long and short of a jig.
    ['long and short of a jig are hooked', 'A3 B2B | c6 |', { metre: '6/8' }, 'D1 U1 ^U1 D1'],
    // Neither slur nor hook: the bow is lifted over the rest.
    ['a rest is time to lift', 'A6 z2 | c8 |', {}, 'D1 *D1'],
  ] as const)('%s', (_, music, header, text) => {
    expect(down(music, header).text).toBe(text);
  });

  it('says where nothing turns the bow', () => {
    const { text, flags } = down('A8 | A8 | A8 |');
    expect(text).toBe('D1 U1 D1');
    expect(flags).toContainEqual({ kind: 'not-down', note: 'n2', time: 1 });
    expect(flagText(flags.find(({ kind }) => kind === 'not-down')!)).toContain('comes up');
  });

  it('turns no beat that is down already to help the next', () => {
    const { text, flags } = down('A4 B2 z2 | c8 | d8 |');
    expect(text).toBe('D1 U1 D1 U1');
    expect(flags).toContainEqual({ kind: 'not-down', note: 'n5', time: 1 });
  });

  it('takes no longer for each bar in a long tune', () => {
    const bars = (count: number) => 'A2 B2 cd e2 | A2 Bc d2 e2 | '.repeat(count / 2);
    const time = (count: number) => {
      const tune = tuneOf(bars(count));
      const form = analyseForm(tune);
      const begin = performance.now();
      bowTune(tune, form, { ...bowSlice.first, school: 'down-on-the-beat' });
      return performance.now() - begin;
    };
    time(40);
    // Ten times the bars; by the square it would be a hundred times.
    expect(time(400)).toBeLessThan(40 * Math.max(5, time(40)));
  });

  it('leaves what the teacher decided, and slurs elsewhere', () => {
    // The next pair that begins on a beat.
    expect(down('A2 B2 cd e2 | f8 |', {}, { slurs: { n4: 'cut' } }).text).toBe('D1 U2 D1 U1 D1');
    expect(down('A2 B2 c2 | d6 |', { metre: '3/4' }, { turns: { n4: 'up' } }).text).toBe('D1 U1 D1 U1');
  });

  it('slurs nothing over the joint of two phrases', () => {
    const { strokes } = down('A2 B2 c2 d2 | e2 f2 g2 z2 | a2 g2 f2 e2 | d8 |]');
    expect(strokes.every(({ notes }) => notes.length <= 2)).toBe(true);
  });

  it('holds each time a part is played', () => {
    const { strokes, flags } = down('|: A2 B2 c2 | d2 e2 f2 | g2 f2 e2 | d6 :|', { metre: '3/4' });
    expect(flags).toEqual([]);
    const first = strokes.filter(({ time }) => time === 1).map(({ direction }) => direction);
    const again = strokes.filter(({ time }) => time === 2).map(({ direction }) => direction);
    expect(again).toEqual(first);
  });
});

describe('laws of strokes', () => {
  const decided = fc
    .record({
      school: fc.constantFrom(...SCHOOLS),
      start: fc.constantFrom(null, 'down' as const, 'up' as const),
      pattern: fc.constantFrom(null, ...PATTERN_IDS),
      tuneSlurs: fc.constantFrom(...TUNE_SLURS),
      maxSlur: fc.constantFrom(null, 1, 2, 3, 5),
      downbeats: fc.constantFrom(...DOWNBEATS),
    })
    .map((some): BowDecisions => ({ ...bowSlice.first, ...some }));

  it('every sounding note lies in one stroke each time it is played, and neighbours differ unless stopped or lifted', () => {
    fc.assert(
      fc.property(arbitraryTune(), decided, (tune, decisions) => {
        const { strokes } = bowTune(tune, analyseForm(tune), decisions);
        const played = playedOrder(tune.bars).flatMap(({ index }) =>
          soundingNotes(tune)
            .filter(({ barIndex }) => barIndex === index)
            .flatMap(({ chain }) => chain.map(({ id }) => id)),
        );
        expect(strokes.flatMap(({ notes }) => notes)).toEqual(played);
        strokes.forEach(({ direction, retake, hook }, index) => {
          if (index > 0) expect(direction === strokes[index - 1]!.direction).toBe(retake || hook);
        });
        expect(strokes.every(({ retake, hook }) => !(retake && hook))).toBe(true);
      }),
      { numRuns: 150 },
    );
  });

  it('decision after decision comes to what is planned from nothing, other ways and their prices too', () => {
    const settings = fc.array(
      fc.record({
        at: fc.nat(40),
        turn: fc.constantFrom(null, 'down' as const, 'up' as const),
        joint: fc.constantFrom(null, null, 'lift' as const, 'stop' as const),
        slur: fc.constantFrom(null, null, null, 'joined' as const, 'cut' as const),
      }),
      { minLength: 1, maxLength: 5 },
    );
    const placed = <Value>(one: Readonly<Record<string, Value>>, id: string, value: Value | null) =>
      Object.fromEntries([
        ...Object.entries(one).filter(([key]) => key !== id),
        ...(value ? [[id, value] as const] : []),
      ]);
    fc.assert(
      fc.property(arbitraryTune(), decided, settings, (tune, first, changes) => {
        const notes = soundingNotes(tune).map(({ note }) => note.id);
        const form = analyseForm(tune);
        let decisions = first;
        for (const { at, turn, joint, slur } of changes) {
          const id = notes[at % notes.length]!;
          const { turns, joints, slurs } = decisions;
          decisions = {
            ...decisions,
            turns: placed(turns, id, turn),
            joints: placed(joints, id, joint),
            slurs: placed(slurs, id, slur),
          };
          const now = bowTuneWithWays(tune, form, decisions);
          const anew = bowTuneWithWays(structuredClone(tune), form, decisions);
          expect(now.bowing).toEqual(anew.bowing);
          expect(now.planner.plan).toEqual(anew.planner.plan);
          expect(now.planner.alternatives(id)).toEqual(anew.planner.alternatives(id));
        }
      }),
      { numRuns: 120 },
    );
  });

  it('no slur lies over a rest, a phrase joint, a repeat sign or one note played twice, or is longer than the learner’s', () => {
    fc.assert(
      fc.property(arbitraryTune(), decided, (tune, decisions) => {
        const form = analyseForm(tune);
        const { strokes } = bowTune(tune, form, decisions);
        const starts = new Set(phrasesOf(form).map(({ notes }) => notes[0]));
        const sounds = new Map(
          soundingNotes(tune).flatMap((sound) => sound.chain.map(({ id }) => [id, sound] as const)),
        );
        for (const { notes } of strokes) {
          const own = notes.map((id) => sounds.get(id)!).filter((sound, at, all) => sound !== all[at - 1]);
          if (decisions.maxSlur !== null) expect(own.length).toBeLessThanOrEqual(decisions.maxSlur);
          own.slice(1).forEach((sound, index) => {
            const before = own[index]!;
            expect(before.onset + before.duration).toBe(sound.onset);
            expect(starts.has(sound.note.id)).toBe(false);
            const over = tune.bars.slice(before.barIndex, sound.barIndex + 1);
            expect(over.slice(0, -1).some(({ repeatEnd }) => repeatEnd !== undefined)).toBe(false);
            expect(over.slice(1).some(({ repeatStart }) => repeatStart)).toBe(false);
            expect(isRepeated(before.note, sound.note)).toBe(false);
          });
        }
      }),
      { numRuns: 200 },
    );
  });

  it.each(SCHOOLS)('unfolding the repeats changes no direction: %s', (school) => {
    fc.assert(
      fc.property(arbitraryTune(), (given) => {
        const tune = {
          ...mapNotes(given, (note) => ({ ...note, heads: note.heads.map(({ pitch }) => ({ pitch })) })),
          slurs: [],
        };
        const order = playedOrder(tune.bars);
        const bars = order.map(({ index, time }, place) => {
          const { repeatStart, repeatEnd: _, endings: __, endingStop: ___, ...bar } = tune.bars[index]!;
          const { jump: ____, toCoda, coda, segno, fine, ...plain } = bar;
          void [toCoda, coda, segno, fine];
          // Where a sign stood, no slur goes over: one that begins a repeat and none that ends it says that.
          const before = order[place - 1]?.index;
          const signed = repeatStart || before !== index - 1 || tune.bars[before]?.repeatEnd !== undefined;
          return {
            ...plain,
            ...(signed && { repeatStart: true }),
            id: `${bar.id}-${time}`,
            events: bar.events.map((one) => ({ ...one, id: `${one.id}-${time}` })),
          };
        });
        const unfolded = { ...tune, bars, parting: null };
        // Its phrases are those of the tune, each time they are played.
        const form = analyseForm(tune);
        const times = [...new Set(order.map(({ time }) => time))];
        const parts = form.parts.map((part) => ({
          ...part,
          phrases: times.flatMap((time) =>
            part.phrases.map((phrase) => ({ ...phrase, notes: phrase.notes.map((id) => `${id}-${time}`) })),
          ),
        }));
        const decided = { ...bowSlice.first, school };
        const directions = (one: typeof tune, own: typeof form) =>
          bowTune(one, own, decided).strokes.map(({ notes, direction, retake, hook }) => ({
            direction,
            retake,
            hook,
            count: notes.length,
          }));
        expect(directions(unfolded, { ...form, parts })).toEqual(directions(tune, form));
      }),
      { numRuns: 100 },
    );
  });

  it('as it comes turns nothing: neighbours always differ where the tune has no marks', () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const unmarked = mapNotes(tune, ({ bow: _, ...note }) => note);
        const { strokes } = bowTune(unmarked, analyseForm(unmarked));
        expect(strokes.some(({ retake, hook }) => retake || hook)).toBe(false);
      }),
      { numRuns: 100 },
    );
  });
});

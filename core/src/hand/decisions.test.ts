/** Decisions of every kind, alone and against each other; taking many at once. */
import { describe, expect, it } from 'vitest';
import { analyseForm, phrasesOf } from '../form/index.ts';
import { INSTRUMENT, type InstrumentId } from '../instrument/index.ts';
import { midi } from '../music/index.ts';
import { setupFor, type NamedSetup } from '../test/setups.ts';
import { tuneOf, type Header } from '../test/testing.ts';
import { problemText, stopsText } from '../words/index.ts';
import {
  Hand,
  bringsFingers,
  copyTo,
  freeAll,
  keepAll,
  takeBrought,
  twinLicks,
  twinPhrases,
  withLock,
  type Lock,
  type Locks,
} from './index.ts';

const STRINGS: Readonly<Record<InstrumentId, string>> = { violin: 'GDAE', viola: 'CGDA', cello: 'CGDA', bass: 'EADG' };

function open(music: string, setup: NamedSetup = {}, header: Header = { key: 'G', tempo: '1/4=110' }) {
  const tune = tuneOf(music, header);
  const form = analyseForm(tune);
  const instrument = setup.instrument ?? 'violin';
  const hand = new Hand(tune, form, setupFor({ tempo: 110, ...setup }));
  const { notes } = hand.fingering;
  return {
    tune,
    form,
    hand,
    notes,
    text: notes
      .map(({ stops }) => stops.map((stop) => `${STRINGS[instrument][stop.string]}${stop.finger}`).join('/'))
      .join(' '),
    with: (locks: Locks) => open(music, { ...setup, locks }, header),
    lock: (at: number, lock: Partial<Lock>): Locks => ({ [notes[at]!.id]: { instrument, stops: [], ...lock } }),
  };
}

const lockedFor = ({ setup: { locks, instrument } }: Hand) => ({ locks, instrument: instrument.id });
/** The first trouble, as a sentence. */
const told = ({ fingering: { problems, instrument, tuning } }: Hand) => problemText(problems[0]!, instrument, tuning);

const TUNE = 'G2AB c2BA | G2D2 G4 |';

describe('one decision', () => {
  const plain = open(TUNE);

  it('of a string alone leaves the finger open', () => {
    const low = plain.with(plain.lock(2, { stops: [{ string: 1, midi: 71 }] }));
    expect(low.notes[2]!.stops[0]).toMatchObject({ string: 1 });
    expect(low.notes[2]!.locked).toBe(true);
    expect(low.hand.fingering.problems).toEqual([]);
  });

  it('of a finger alone leaves the string open', () => {
    expect(plain.with(plain.lock(1, { stops: [{ finger: 4, midi: 69 }] })).notes[1]!.stops[0]!.finger).toBe(4);
  });

  it('of a position keeps the hand there, an open string aside', () => {
    const third = plain.with(plain.lock(2, { position: ['III', 'III'] }));
    expect(third.notes[2]!.position).toBe('III');
    const open = plain.with(plain.lock(1, { stops: [{ string: 2, finger: 0, midi: 69 }], position: ['III', 'IV'] }));
    expect(stopsText(open.notes[1]!, INSTRUMENT.violin)).toBe('open A');
    expect(open.hand.fingering.problems).toEqual([]);
  });

  it('of a shift moves the hand to the note', () => {
    const moved = plain.with(plain.lock(3, { shift: true }));
    expect(moved.notes[3]!.shift).not.toBeNull();
    expect(plain.notes[3]!.shift).toBeNull();
  });

  it('of a shift is made at the very note, not while the open string before it sounds', () => {
    const start = open('G2 A2 B2 c2 |');
    expect(start.text).toBe('D3 A0 A1 A2');
    const moved = start.with(start.lock(2, { shift: true }));
    expect(moved.notes[2]!.shift).not.toBeNull();
    expect(moved.hand.fingering.problems).toEqual([]);
  });

  it('of a finger that stays down keeps hand and finger where they are', () => {
    const start = open('E2 A B A2 E2 |', {}, { key: 'G', tempo: '1/4=140' });
    const { notes } = start;
    const held = start.with(
      start.lock(0, {
        stops: [{ string: 1, finger: 1, midi: midi(notes[0]!.pitches[0]!) }],
        holdUntil: notes[4]!.id,
      }),
    );
    expect(held.hand.fingering.problems).toEqual([]);
    for (const note of held.notes.slice(1, 4)) {
      expect(note.base).toBe(held.notes[0]!.base);
      for (const { finger, string, semitones } of note.stops)
        expect(finger !== 1 || semitones === 2 || string === 1).toBe(true);
    }
    expect(held.notes[0]!.hold).not.toBeNull();
  });

  it('of a phrase as another takes that one’s fingers, with what is decided there', () => {
    const music = 'A2GF G2AB | c2BA G4 | A2GF G2AB | c2BA G4 |';
    const tune = open(music);
    const [first, second] = phrasesOf(tune.form);
    expect(second!.relation.kind).toBe('same');
    const decided = tune.with({
      ...tune.lock(0, { stops: [{ string: 1, finger: 4, midi: 69 }] }),
      [second!.notes[0]!]: { instrument: 'violin', stops: [], like: first!.notes[0]! },
    });
    const texts = (ids: readonly string[]) =>
      decided.notes.filter(({ id }) => ids.includes(id)).map((note) => stopsText(note, INSTRUMENT.violin));
    expect(texts(second!.notes)).toEqual(texts(first!.notes));
    expect(texts(first!.notes)[0]).toBe('4 on the D string');
  });
});

describe('decisions that cannot be kept', () => {
  const plain = open(TUNE);

  it.each([
    ['no such finger', plain.lock(2, { stops: [{ string: 3, finger: 1, midi: 71 }] }), 'cannot be played so'],
    [
      'a string and a position that exclude each other',
      plain.lock(2, { stops: [{ string: 2, finger: 1, midi: 71 }], position: ['V', 'V'] }),
      'do not go together',
    ],
  ])('%s: told at its note, and the rest goes on', (_, locks, message) => {
    const refused = plain.with(locks);
    expect(refused.hand.fingering.problems[0]).toMatchObject({ noteId: plain.notes[2]!.id });
    expect(told(refused.hand)).toContain(message);
    expect(refused.hand.fingering.resting).toEqual([plain.notes[2]!.id]);
    expect(refused.notes.every(({ stops }) => stops.length > 0)).toBe(true);
  });

  it('a finger beyond the learner’s limits rests and says why', () => {
    const limited = open(TUNE, { limits: { noFourth: true } });
    const set = limited.with(limited.lock(1, { stops: [{ string: 1, finger: 4, midi: 69 }] }));
    expect(told(set.hand)).toContain('beyond this learner’s limits');
  });

  it('a finger that is to stay down and is needed elsewhere', () => {
    const start = open('E2 B2 ^F2 E2 |');
    const locks = {
      ...start.lock(0, { stops: [{ string: 1, finger: 1, midi: 64 }], holdUntil: start.notes[3]!.id }),
      ...start.lock(2, { stops: [{ string: 1, finger: 1, midi: 66 }] }),
    };
    const held = start.with(locks);
    expect(told(held.hand)).toContain('Finger 1 cannot stay down: the F♯');
    expect(held.notes[2]!.stops[0]!.finger).toBe(1);
  });

  it('a shift between two notes that are set in one place', () => {
    const start = open('E2 F2 |', {}, { key: 'G' });
    const position = ['I', 'I'] as const;
    const set = start.with({
      ...start.lock(0, { stops: [{ string: 1, finger: 1, midi: 64 }], position }),
      ...start.lock(1, { stops: [{ string: 1, finger: 2, midi: 66 }], position, shift: true }),
    });
    expect(set.hand.fingering.problems).toMatchObject([{ noteId: start.notes[1]!.id }]);
    expect(told(set.hand)).toContain('the move rests');
    expect(set.text).toBe('D1 D2');
    expect(set.hand.fingering.totals.cost).toBeLessThan(100);
  });
});

describe('many decisions at once', () => {
  it('takes the fingers that a file brought along, and leaves what cannot be', () => {
    const brought = open('!4!A2 !0!A2 !1!B2 !3!B2 |');
    expect(bringsFingers(brought.tune)).toBe(true);
    const { locks, taken, left } = takeBrought(brought.hand);
    expect(taken + left).toBe(4);
    const kept = brought.with(locks);
    expect(kept.notes.slice(0, 3).map(({ stops }) => stops[0]!.finger)).toEqual([4, 0, 1]);
    expect(kept.hand.fingering.problems).toEqual([]);
    expect(bringsFingers(open(TUNE).tune)).toBe(false);
  });

  it('copies a phrase’s fingers to the same phrases, and frees them again', () => {
    const tune = open('A2GF G2AB | c2BA G4 | A2GF G2AB | c2BA G4 |');
    const [first, second] = phrasesOf(tune.form);
    const twins = twinPhrases(tune.tune, tune.form, first!);
    expect(twins.map(({ label }) => label)).toEqual([second!.label]);
    const other = tune.with(tune.lock(0, { stops: [{ string: 1, finger: 4, midi: 69 }] }));
    const own = other.notes.filter(({ id }) => first!.notes.includes(id));
    const locks = copyTo(own, twins, lockedFor(other.hand));
    const copied = other.with(locks);
    expect(
      stopsText(
        copied.notes.find(({ id }) => id === second!.notes[0])!,
        INSTRUMENT.violin,
      ),
    ).toBe('4 on the D string');
    const freed = freeAll(second!.notes, lockedFor(copied.hand));
    expect(Object.keys(freed)).toEqual([tune.notes[0]!.id]);
    expect(Object.keys(keepAll(tune.notes, lockedFor(tune.hand)))).toHaveLength(tune.notes.length);
  });

  it('finds the other places of a lick', () => {
    const tune = open('GBdB c2A2 | FAcA G4 | GBdB e2d2 | cAFD G4 |');
    const found = tune.notes.map(({ id }) => twinLicks(tune.form, id)).find((licks) => licks.length > 0);
    expect(found?.[0]!.twins[0]!.ids).toHaveLength(found![0]!.here.length);
  });

  it('drops a decision that says nothing any more', () => {
    const locks = withLock({}, 'n1', { instrument: 'violin', stops: [], shift: true });
    expect(Object.keys(locks)).toEqual(['n1']);
    expect(withLock(locks, 'n1', { instrument: 'violin', stops: [{ midi: 69 }] })).toEqual({});
    expect(withLock(locks, 'n1', null)).toEqual({});
  });
});

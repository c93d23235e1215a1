/** Tunes that nobody composed, for laws: made by fast-check. Not part of any public index. */
import fc from 'fast-check';
import {
  ARTICULATIONS,
  LETTERS,
  MODES,
  ORNAMENTS,
  barLength,
  isPickup,
  keyOf,
  markTupletEdges,
  midi,
  signatureAlter,
  spell,
  step,
  valueLength,
  writeDuration,
  type Bar,
  type Head,
  type Key,
  type Metre,
  type Note,
  type NoteValue,
  type Pitch,
  type Slur,
  type Ticks,
  type Tune,
  type TuneEvent,
} from '../music/index.ts';

/** What a test wants of its tunes; everything else is always there. */
export interface TuneOptions {
  readonly words?: boolean;
  readonly repeats?: boolean;
}

const METRES: readonly Metre[] = [
  { beats: 4, unit: 4 },
  { beats: 4, unit: 4, symbol: 'common' },
  { beats: 2, unit: 2, symbol: 'cut' },
  { beats: 3, unit: 4 },
  { beats: 2, unit: 4 },
  { beats: 6, unit: 8 },
  { beats: 9, unit: 8 },
  { beats: 5, unit: 4 },
];

const key: fc.Arbitrary<Key> = fc
  .record({ letter: fc.constantFrom(...LETTERS), alter: fc.constantFrom(-1, 0, 1), mode: fc.constantFrom(...MODES) })
  .map(({ letter, alter, mode }) =>
    keyOf({ letter, alter: alter as -1 | 0 | 1 }, mode === 'ionian' ? 'major' : mode === 'aeolian' ? 'minor' : mode),
  )
  .filter(({ signature }) => Object.keys(signature).length < 7);

const pitchIn = (inKey: Key): fc.Arbitrary<Pitch> =>
  fc
    .record({ at: fc.integer({ min: 24, max: 44 }), change: fc.constantFrom(0, 0, 0, 0, 0, 1, -1) })
    .map(({ at, change }) => {
      const letter = LETTERS[at % 7]!;
      const octave = Math.floor(at / 7);
      const alter = signatureAlter(inKey, letter) + change;
      return { letter, octave, alter: (Math.abs(alter) > 2 ? 0 : alter) as Pitch['alter'] };
    });

const TEXT = fc.constantFrom('Lamp', 'öl & salt', 'tide 50%', 'a "quiet" one', 'back\\slash', 'Łódź', 'one <two>');
const WORDS = fc.constantFrom('la', 'ti', 'sea', 'don’t', 'x-y', 'oh_no', 'st*r');

interface Slot {
  readonly value: NoteValue;
  readonly duration: Ticks;
  readonly tuplet?: { readonly actual: number; readonly normal: number };
}

const VALUES: readonly NoteValue[] = (['half', 'quarter', 'eighth', '16th'] as const).flatMap((type) => [
  { type, dots: 0 as const },
  { type, dots: 1 as const },
]);
const TRIPLET: readonly Slot[] = Array.from({ length: 3 }, () => ({
  value: { type: 'eighth', dots: 0 },
  duration: 1120,
  tuplet: { actual: 3, normal: 2 },
}));

/** What a stretch may begin with, by its length; null where nothing fits. */
const beginnings = new Map<Ticks, fc.Arbitrary<readonly Slot[]> | null>();

function beginning(length: Ticks): fc.Arbitrary<readonly Slot[]> | null {
  if (!beginnings.has(length)) beginnings.set(length, newBeginning(length));
  return beginnings.get(length) ?? null;
}

/** Plain values, or triplets where a beat allows. */
function newBeginning(length: Ticks): fc.Arbitrary<readonly Slot[]> | null {
  const fitting = VALUES.filter((value) => valueLength(value) <= length);
  if (fitting.length === 0) return null;
  const single = fc.constantFrom(...fitting).map((value): readonly Slot[] => [{ value, duration: valueLength(value) }]);
  return length < 3360
    ? single
    : fc.oneof({ weight: 6, arbitrary: single }, { weight: 1, arbitrary: fc.constant(TRIPLET) });
}

/** Ways to fill a stretch. */
function slots(at: Ticks, length: Ticks, metre: Metre): fc.Arbitrary<readonly Slot[]> {
  if (length <= 0) return fc.constant([]);
  const first = beginning(length);
  if (!first) {
    return fc.constant(writeDuration(at, length, metre).map(({ value, duration }) => ({ value, duration })));
  }
  return first.chain((begun) => {
    const used = begun.reduce((sum, { duration }) => sum + duration, 0);
    return slots(at + used, length - used, metre).map((rest) => [...begun, ...rest]);
  });
}

const headsIn = (inKey: Key): fc.Arbitrary<readonly Head[]> =>
  fc
    .tuple(
      fc.uniqueArray(pitchIn(inKey), { minLength: 1, maxLength: 2, selector: (pitch) => midi(pitch) }),
      fc.option(fc.constantFrom('0', '1', '2', '3', '4', 'T'), { freq: 6 }),
    )
    .map(([pitches, finger]) =>
      [...pitches]
        .sort((a, b) => step(a) - step(b) || a.alter - b.alter)
        .map((pitch, index) => ({ pitch, ...(finger !== null && index === 0 && { finger }) })),
    )
    .filter((heads) => heads.every((head, index) => index === 0 || midi(head.pitch) > midi(heads[index - 1]!.pitch)));

const sometimes = <T extends object>(arbitrary: fc.Arbitrary<T>) =>
  fc.option(arbitrary, { freq: 4 }).map((found) => found ?? ({} as T));

const EXTRAS = sometimes(
  fc.record(
    {
      chordSymbol: fc.constantFrom('G', 'Am', 'D7', 'Bb/D', 'F#m7b5', 'Gmaj7', 'C6/9'),
      annotation: fc.constantFrom('slowly', 'as before'),
    },
    { requiredKeys: [] },
  ),
);

/** Heads and signs of a note in a key: the same for all its notes. */
const notesIn = (inKey: Key) =>
  fc.tuple(
    headsIn(inKey),
    EXTRAS,
    sometimes(
      fc.record(
        {
          graces: fc.array(fc.record({ pitch: pitchIn(inKey) }), { minLength: 1, maxLength: 2 }),
          bow: fc.constantFrom('down' as const, 'up' as const),
          decorations: fc.uniqueArray(fc.constantFrom(...ORNAMENTS, ...ARTICULATIONS), { minLength: 1, maxLength: 2 }),
          dynamic: fc.constantFrom('p' as const, 'mf' as const, 'ff' as const),
          words: fc.array(
            fc.oneof(
              fc.constant(null),
              fc.record({ text: WORDS }),
              fc.record({ text: WORDS, hyphen: fc.constant(true) }),
            ),
            { minLength: 1, maxLength: 2 },
          ),
        },
        { requiredKeys: [] },
      ),
    ),
  );

function eventIn(
  slot: Slot,
  notes: ReturnType<typeof notesIn>,
  words: boolean,
): fc.Arbitrary<Omit<Note, 'id' | 'at'> | Omit<TuneEvent, 'id' | 'at'>> {
  const common = { duration: slot.duration, value: slot.value, ...(slot.tuplet && { tuplet: slot.tuplet }) };
  const rest = EXTRAS.map((some) => ({ kind: 'rest' as const, ...common, ...some }));
  const note = notes.map(([heads, some, more]) => {
    const { words: sung, ...signs } = more;
    const kept = words && sung?.some(Boolean) ? { words: trimmed(sung) } : {};
    return { kind: 'note' as const, ...common, heads, ...some, ...signs, ...kept };
  });
  return fc.oneof({ weight: 1, arbitrary: rest }, { weight: 9, arbitrary: note }) as fc.Arbitrary<
    Omit<TuneEvent, 'id' | 'at'>
  >;
}

function trimmed<T>(list: readonly (T | null)[]): readonly (T | null)[] {
  const last = list.findLastIndex((entry) => entry !== null);
  return list.slice(0, last + 1);
}

interface RawBar {
  readonly events: readonly Omit<TuneEvent, 'id' | 'at'>[];
}

function barIn(notes: ReturnType<typeof notesIn>, metre: Metre, length: Ticks, words: boolean): fc.Arbitrary<RawBar> {
  return slots(barLength(metre) - length, length, metre)
    .chain((list) => fc.tuple(...list.map((slot) => eventIn(slot, notes, words))))
    .map((events) => ({ events }));
}

/** Whole tunes: one metre and key, sometimes another later, pickups, repeats, endings, ties, slurs. */
export function arbitraryTune({ words = true, repeats = true }: TuneOptions = {}): fc.Arbitrary<Tune> {
  return (
    fc
      .record({
        first: key,
        metre: fc.constantFrom(...METRES),
        pickup: fc.boolean(),
        bars: fc.integer({ min: 2, max: 7 }),
      })
      .chain(({ first, metre, pickup, bars }) => {
        const notes = notesIn(first);
        const lengths = Array.from({ length: bars }, (_, index) => (index === 0 && pickup ? 1680 : barLength(metre)));
        return fc.record({
          title: TEXT,
          composer: fc.constantFrom('', 'Composed here'),
          style: fc.constantFrom('', 'reel'),
          origin: fc.constantFrom('', 'the harbour'),
          alsoKnownAs: fc.array(TEXT, { maxLength: 2 }),
          notes: fc.array(TEXT, { maxLength: 1 }),
          bpm: fc.option(fc.integer({ min: 40, max: 220 })),
          raw: fc.tuple(...lengths.map((length) => barIn(notes, metre, length, words))),
          ties: fc.array(fc.nat(40), { maxLength: 3 }),
          slurs: fc.array(fc.tuple(fc.nat(40), fc.integer({ min: 1, max: 4 })), { maxLength: 3 }),
          turn: fc.option(fc.record({ key, bpm: fc.option(fc.integer({ min: 40, max: 220 })) }), { freq: 3 }),
          form: fc.constantFrom('plain', ...(repeats ? (['repeat', 'endings', 'jump'] as const) : [])),
          first: fc.constant(first),
          metre: fc.constant(metre),
          pickup: fc.constant(pickup),
        });
      })
      // Objects as JSON has them; the generator makes some without a prototype.
      .map((raw) => structuredClone(assemble(raw)))
      // Readers refuse a score of rests only ("No notes were found"), so it is no tune to bring back.
      .filter((tune) => tune.bars.some(({ events }) => events.some(({ kind }) => kind === 'note')))
  );
}

type Raw = Parameters<typeof assemble>[0];

function assemble(raw: {
  readonly title: string;
  readonly composer: string;
  readonly style: string;
  readonly origin: string;
  readonly alsoKnownAs: readonly string[];
  readonly notes: readonly string[];
  readonly bpm: number | null;
  readonly raw: readonly RawBar[];
  readonly ties: readonly number[];
  readonly slurs: readonly (readonly [number, number])[];
  readonly form: string;
  /** Another key, metre and tempo from the middle on. */
  readonly turn: { readonly key: Key; readonly bpm: number | null } | null;
  readonly first: Key;
  readonly metre: Metre;
  readonly pickup: boolean;
}): Tune {
  let number = 0;
  const plain = raw.raw.map(({ events }, index): Bar => {
    let at: Ticks = 0;
    const placed = events.map((event): TuneEvent => {
      number += 1;
      const id = `n${number}`;
      const made = { ...event, id, at } as TuneEvent;
      at += event.duration;
      if (made.kind === 'rest' || !made.graces) return made;
      return { ...made, graces: made.graces.map((grace, grown) => ({ ...grace, id: `${id}g${grown + 1}` })) };
    });
    return {
      id: `b${index + 1}`,
      metre: raw.metre,
      key: raw.first,
      events: markTupletEdges(placed),
      length: at,
      offset: 0,
      barline: 'single',
    };
  });
  const formed = withTurn(withForm(plain, raw.form), raw.turn);
  const bars = formed.map((bar, index) =>
    isPickup(formed, index) ? { ...bar, offset: barLength(bar.metre) - bar.length } : bar,
  );
  const { title, composer, style, origin, alsoKnownAs, notes, bpm } = raw;
  const tune: Tune = {
    title,
    composer,
    style,
    origin,
    alsoKnownAs,
    notes,
    tempo: bpm === null ? null : { beat: 3360, bpm },
    bars,
    slurs: [],
  };
  return withSlurs(withTies(tune, raw.ties), raw);
}

function withForm(bars: readonly Bar[], form: string): readonly Bar[] {
  const last = bars.length - 1;
  return bars.map((bar, index): Bar => {
    if (form === 'repeat') {
      return { ...bar, ...(index === 0 && { repeatStart: true, label: 'A' }), ...(index === last && { repeatEnd: 2 }) };
    }
    if (form === 'endings' && bars.length >= 3) {
      return {
        ...bar,
        ...(index === 0 && { repeatStart: true }),
        ...(index === last - 1 && { endings: [1], repeatEnd: 2, endingStop: true }),
        ...(index === last && { endings: [2], barline: 'final' as const, endingStop: true }),
      };
    }
    if (form === 'jump' && bars.length >= 3) {
      return {
        ...bar,
        ...(index === 1 && { segno: true }),
        ...(index === last - 1 && { fine: true }),
        ...(index === last && { jump: { back: 'segno' as const, until: 'fine' as const }, barline: 'double' as const }),
      };
    }
    return { ...bar, ...(index === last && { barline: 'final' as const }) };
  });
}

/** A metre of the same length, so that the bars stay full. */
const SAME_LENGTH: Readonly<Record<string, Metre>> = {
  '3/4': { beats: 6, unit: 8 },
  '4/4': { beats: 2, unit: 2 },
  '6/8': { beats: 3, unit: 4 },
};

function withTurn(bars: readonly Bar[], turn: Raw['turn']): readonly Bar[] {
  const middle = Math.floor(bars.length / 2);
  if (!turn || middle === 0) return bars;
  return bars.map((bar, index): Bar => {
    if (index < middle) return bar;
    const metre = SAME_LENGTH[`${bar.metre.beats}/${bar.metre.unit}`] ?? bar.metre;
    const tempo = index === middle && turn.bpm !== null ? { tempo: { beat: 3360, bpm: turn.bpm } } : {};
    return { ...bar, key: turn.key, metre, ...tempo };
  });
}

const flat = (tune: Tune) => tune.bars.flatMap(({ events }) => events);

/** A tie repeats the note's heads in the next event, so that it leads somewhere. */
function withTies(tune: Tune, at: readonly number[]): Tune {
  const events = flat(tune);
  const changed = new Map<string, TuneEvent>();
  const now = (event: TuneEvent) => changed.get(event.id) ?? event;
  for (const index of at) {
    const [from, to] = [events[index], events[index + 1]];
    if (!from || !to || from.kind === 'rest' || to.kind === 'rest' || changed.has(to.id)) continue;
    const heads = (now(from) as Note).heads.map(({ pitch }) => ({ pitch: spell(step(pitch), midi(pitch))! }));
    changed.set(to.id, { ...to, heads, graces: undefined } as Note);
    changed.set(from.id, {
      ...now(from),
      heads: (now(from) as Note).heads.map((head) => ({ ...head, tied: true })),
    } as Note);
  }
  for (const [id, event] of changed) {
    if ('graces' in event && event.graces === undefined) {
      const { graces: _, ...without } = event;
      changed.set(id, without as TuneEvent);
    }
  }
  return {
    ...tune,
    bars: tune.bars.map((bar) => ({ ...bar, events: bar.events.map((event) => changed.get(event.id) ?? event) })),
  };
}

/** Slurs over neighbouring notes, not nested into one another's ends. */
function withSlurs(tune: Tune, { slurs }: Pick<Raw, 'slurs'>): Tune {
  const notes = flat(tune).filter((event) => event.kind === 'note');
  const made: Slur[] = [];
  let free = 0;
  for (const [start, length] of [...slurs].sort((a, b) => a[0] - b[0])) {
    const [from, to] = [notes[start], notes[start + length]];
    if (!from || !to || start < free) continue;
    made.push({ from: from.id, to: to.id });
    free = start + length + 1;
  }
  return { ...tune, slurs: made };
}

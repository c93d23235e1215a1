/** What is typed: notes, rests and double stops, their lengths, and what ties them. */
import { ref, shallowRef, type Ref } from 'vue';
import {
  cycleDots,
  fillRest,
  insertNote,
  makeRest,
  pitchNear,
  setPitch,
  setValue,
  toggleHead,
  toggleTie,
  toggleTriplet,
} from '@nokta/core/edit';
import {
  NOTE_NAMES,
  midi,
  printedName,
  spellInKey,
  type Letter,
  type Midi,
  type NoteType,
  type Pitch,
  type Tune,
} from '@nokta/core/music';
import type { Caret, Edit } from './caret.ts';

/** Notes of a triplet; then lengths are plain again. */
const TRIPLET_NOTES = 3;

export function createNoting(
  tune: Readonly<Ref<Tune | null>>,
  { at, mode, anchor, events, place, current, barIndex, chosen, describe }: Caret,
  edit: Edit,
  say: (text: string) => void,
) {
  const length = ref<NoteType>('eighth');
  const dotted = ref(false);
  const tripletLeft = ref(0);
  /** A bar line was asked for: the next note opens a new bar. */
  const newBar = ref(false);
  /** The note that shall be tied to the one that is written next. */
  const tieFrom = ref<string | null>(null);
  /** Told every pitch that is written, so that it sounds. */
  const onSound = shallowRef<(pitches: readonly Midi[]) => void>(() => undefined);

  /** Pitch that a typed letter is near: the last note up to the caret, or the first after it. */
  function nearPitch(): Pitch | null {
    const before = events.value.slice(0, place.value + 1).findLast((event) => event.kind === 'note');
    const near = before ?? events.value.find((event) => event.kind === 'note');
    return near?.kind === 'note' ? near.heads.at(-1)!.pitch : null;
  }

  /** Writes a note, or changes the one in the box; over a rest, writing goes on in what is left of it. */
  function letter(name: Letter): void {
    const now = tune.value;
    if (!now) return;
    const key = now.bars[barIndex.value]?.key ?? now.bars[0]!.key;
    const boxed = mode.value === 'box' ? current.value : null;
    const near = boxed?.kind === 'note' ? boxed.heads.at(-1)!.pitch : nearPitch();
    put(pitchNear(name, near, key));
  }

  /** The same for a key that was pressed on a MIDI keyboard, spelled as the key of the bar has it. */
  function strike(number: Midi): void {
    const now = tune.value;
    if (now) put(spellInKey(number, now.bars[barIndex.value]?.key ?? now.bars[0]!.key));
  }

  function put(pitch: Pitch): void {
    const now = tune.value!;
    const boxed = mode.value === 'box' ? current.value : null;
    onSound.value([midi(pitch)]);
    if (boxed?.kind === 'rest') fill(boxed.id, pitch);
    else if (boxed) edit(setPitch(now, boxed.id, pitch), `change to ${printedName(pitch)}`);
    else write(pitch);
  }

  /** The value of the next note. */
  const typed = () => {
    const triplet = tripletLeft.value > 0;
    return { value: { type: length.value, dots: dotted.value ? 1 : 0 }, triplet } as const;
  };

  function write(pitch: Pitch | null): void {
    const now = tune.value;
    if (!now) return;
    const made = insertNote(now, at.value, { pitch, ...typed() }, newBar.value);
    wrote(tiedOn(made.tune, made.id), pitch ? `write ${printedName(pitch)}` : 'write a rest');
    at.value = made.id;
    say(describe());
  }

  function fill(rest: string, pitch: Pitch): void {
    const made = fillRest(tune.value!, rest, { pitch, ...typed() });
    wrote(tiedOn(made.tune, made.id), `write ${printedName(pitch)}`);
    at.value = made.next ?? made.id;
    if (!made.next) mode.value = 'caret';
    say(describe());
  }

  function wrote(next: Tune, label: string): void {
    newBar.value = false;
    tripletLeft.value = Math.max(0, tripletLeft.value - 1);
    anchor.value = null;
    edit(next, label);
  }

  /** The tie that was asked for before its second note was there. */
  function tiedOn(next: Tune, id: string): Tune {
    const from = tieFrom.value;
    tieFrom.value = null;
    const notes = next.bars.flatMap((bar) => bar.events);
    if (from === null || notes[notes.findIndex((event) => event.id === id) - 1]?.id !== from) return next;
    return toggleTie(next, from);
  }

  /**
   * Ties to the next note of the same pitch; behind a note that was just written, to the one before it, or to the one
   * that is written next.
   */
  function tie(): void {
    const now = tune.value;
    const here = current.value;
    if (!now || here?.kind !== 'note') return say('A tie begins at a note.');
    const next = toggleTie(now, here.id);
    if (next !== now) return void edit(next, 'tie');
    const before = events.value[place.value - 1];
    const isTied = before?.kind === 'note' && before.heads.some(({ tied }) => tied);
    const back = before && (!isTied || mode.value === 'box') ? toggleTie(now, before.id) : now;
    if (back !== now) return void edit(back, 'tie');
    if (mode.value === 'box') return say('A tie needs a note of the same pitch beside this one.');
    tieFrom.value = tieFrom.value === here.id ? null : here.id;
    say(tieFrom.value ? `Tied to the next ${printedName(here.heads[0]!.pitch)}.` : 'No tie.');
  }

  function rest(): void {
    if (mode.value === 'box' && tune.value)
      edit(makeRest(tune.value, chosen.value), 'make a rest', 'This is a rest already.');
    else write(null);
  }

  /** Adds to the chord at the caret, the nearest such note above its lowest. */
  function chordLetter(name: Letter): void {
    const now = tune.value;
    const event = current.value;
    if (!now || event?.kind !== 'note') return say('A double stop needs a note to stand on.');
    const low = event.heads[0]!.pitch;
    const key = now.bars[barIndex.value]!.key;
    const near = pitchNear(name, low, key);
    const known = event.heads.find(({ pitch }) => pitch.letter === name)?.pitch;
    const pitch = known ?? (midi(near) < midi(low) ? { ...near, octave: near.octave + 1 } : near);
    const next = toggleHead(now, event.id, pitch);
    if (edit(next, known ? 'take a note out of the chord' : 'double stop')) {
      const made = current.value;
      if (made?.kind === 'note') onSound.value(made.heads.map((head) => midi(head.pitch)));
    }
  }

  /** In a bar that holds nothing yet, lengths are those of the notes to come. */
  const empty = () => tune.value?.bars[barIndex.value]?.events.every(({ kind }) => kind === 'rest') ?? false;
  const changes = () => mode.value === 'box' && tune.value !== null && !empty();

  function setLength(type: NoteType): void {
    length.value = type;
    dotted.value = false;
    if (changes() && tune.value)
      edit(setValue(tune.value, chosen.value, { type, dots: 0 }), `make it a ${NOTE_NAMES[type]}`);
    else say(NOTE_NAMES[type]);
  }

  function dot(): void {
    if (changes() && tune.value)
      edit(cycleDots(tune.value, chosen.value), 'dot', 'A note of a triplet takes no dot here.');
    else {
      dotted.value = !dotted.value;
      say(dotted.value ? `dotted ${NOTE_NAMES[length.value]}` : NOTE_NAMES[length.value]);
    }
  }

  function triplet(): void {
    if (changes() && tune.value) edit(toggleTriplet(tune.value, chosen.value), 'triplet');
    else {
      tripletLeft.value = tripletLeft.value > 0 ? 0 : TRIPLET_NOTES;
      say(tripletLeft.value > 0 ? 'triplet: the next three notes' : 'plain notes');
    }
  }

  function barLine(): void {
    newBar.value = !newBar.value;
    say(newBar.value ? 'The next note opens a new bar.' : 'No bar line.');
  }

  return {
    length,
    dotted,
    tripletLeft,
    newBar,
    tieFrom,
    onSound,
    letter,
    strike,
    rest,
    chordLetter,
    setLength,
    dot,
    triplet,
    tie,
    barLine,
  };
}

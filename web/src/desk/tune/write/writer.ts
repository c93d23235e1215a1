/**
 * Writing: where the caret stands, what is chosen, what the next note will be; every command is one step
 * of the tune's history.
 *
 * Two ways to be at a note. With the caret behind it, letters write new notes. With a box around it,
 * letters, lengths and signs change it.
 */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import {
  copyBars,
  cycleDots,
  deleteEvents,
  findTroubles,
  insertNote,
  makeRest,
  movePitch,
  pasteBars,
  pitchNear,
  setChord,
  setPitch,
  setSyllable,
  setValue,
  spotOf,
  toggleHead,
  toggleRepeatEnd,
  toggleRepeatStart,
  toggleSlur,
  toggleTie,
  toggleTriplet,
  type Clip,
  type PitchMove,
  type Repair,
  type Trouble,
} from '@nokta/core/edit';
import {
  NOTE_NAMES,
  barLength,
  barNumbers,
  midi,
  printedName,
  type Letter,
  type Midi,
  type NoteType,
  type Pitch,
  type Syllable,
  type Tune,
  type TuneEvent,
} from '@nokta/core/music';
import { useDesk } from '../../store.ts';

export type CaretMode = 'caret' | 'box';
/** A line of text that is typed under or over notes. */
export type TextEntry = 'words' | 'chord';

/** Notes of a triplet; then lengths are plain again. */
const TRIPLET_NOTES = 3;

export const useWriter = defineStore('writer', () => {
  const desk = useDesk();
  const active = ref(false);
  /** Event that the caret stands behind, or the box around; null before the first. */
  const at = ref<string | null>(null);
  const mode = ref<CaretMode>('box');
  /** Other end of the selection. */
  const anchor = ref<string | null>(null);
  const length = ref<NoteType>('eighth');
  const dotted = ref(false);
  const tripletLeft = ref(0);
  /** A bar line was asked for: the next note opens a new bar. */
  const newBar = ref(false);
  const entry = ref<TextEntry | null>(null);
  const verse = ref(0);
  const clip = shallowRef<Clip | null>(null);
  /** Told every pitch that is written, so that it sounds. */
  const onSound = shallowRef<(pitches: readonly Midi[]) => void>(() => undefined);

  const tune = computed<Tune | null>(() => desk.tune?.tune ?? null);
  const events = computed<readonly TuneEvent[]>(() => tune.value?.bars.flatMap((bar) => bar.events) ?? []);
  const place = computed(() => events.value.findIndex(({ id }) => id === at.value));
  const current = computed(() => events.value[place.value] ?? null);
  /** Writing on at the end: the last bar is not wrong only because it is not finished. */
  const unfinished = computed(() => {
    const last = tune.value?.bars.at(-1);
    const atEnd = active.value && mode.value === 'caret' && at.value !== null && at.value === events.value.at(-1)?.id;
    return atEnd && last && last.length < barLength(last.metre) ? tune.value!.bars.length - 1 : -1;
  });
  const troubles = computed<readonly Trouble[]>(() =>
    tune.value ? findTroubles(tune.value).filter(({ bar, kind }) => kind !== 'bar' || bar !== unfinished.value) : [],
  );
  const barIndex = computed(() => (tune.value && at.value ? (spotOf(tune.value, at.value)?.bar ?? 0) : 0));
  const troubleHere = computed(
    () =>
      troubles.value.find(({ note }) => note !== undefined && note === at.value) ??
      troubles.value.find(({ bar }) => bar === barIndex.value) ??
      null,
  );

  /** Chosen events, from anchor to caret; the one at the caret alone. */
  const chosen = computed<ReadonlySet<string>>(() => {
    if (at.value === null) return new Set();
    const other = events.value.findIndex(({ id }) => id === anchor.value);
    if (anchor.value === null || other < 0) return new Set([at.value]);
    const [from, to] = [Math.min(place.value, other), Math.max(place.value, other)];
    return new Set(events.value.slice(from, to + 1).map(({ id }) => id));
  });
  const chosenBars = computed(() => {
    const bars = tune.value?.bars ?? [];
    const found = bars.flatMap(({ events: list }, index) =>
      list.some(({ id }) => chosen.value.has(id)) ? [index] : [],
    );
    return { from: found[0] ?? 0, to: found.at(-1) ?? 0 };
  });

  // Undo may take the note away that the caret stood at.
  watch(events, (now) => {
    if (at.value !== null && !now.some(({ id }) => id === at.value)) at.value = now.at(-1)?.id ?? null;
    if (anchor.value !== null && !now.some(({ id }) => id === anchor.value)) anchor.value = null;
  });

  // The strips give way to the page; at once, so that whatever is worked out next knows.
  watch(active, (now) => desk.showStrips(!now), { flush: 'sync' });

  function start(where: string | null = null): void {
    active.value = true;
    const known = where !== null && events.value.some(({ id }) => id === where);
    at.value = known ? where : (events.value.at(-1)?.id ?? null);
    mode.value = known ? 'box' : 'caret';
    anchor.value = null;
    entry.value = null;
  }

  function stop(): void {
    active.value = false;
    entry.value = null;
    void desk.refresh();
  }

  function say(text: string): void {
    desk.spoken = text;
  }

  /** What stands at the caret, in words. */
  function describe(): string {
    const now = current.value;
    if (!now || !tune.value) return 'At the start';
    const number = barNumbers(tune.value.bars)[barIndex.value];
    const dots = now.value.dots > 0 ? 'dotted ' : '';
    const what =
      now.kind === 'rest' ? 'rest' : now.heads.map(({ pitch }) => `${printedName(pitch)}${pitch.octave}`).join(' and ');
    return `${what}, ${dots}${NOTE_NAMES[now.value.type]}, bar ${number}`;
  }

  function edit(next: Tune | null, label: string): boolean {
    if (!next || next === tune.value) return false;
    desk.editTune(next, label);
    say(describe());
    return true;
  }

  /** Pitch that a typed letter is near: the last note up to the caret, or the first after it. */
  function nearPitch(): Pitch | null {
    const before = events.value.slice(0, place.value + 1).findLast((event) => event.kind === 'note');
    const near = before ?? events.value.find((event) => event.kind === 'note');
    return near?.kind === 'note' ? near.heads.at(-1)!.pitch : null;
  }

  function letter(name: Letter): void {
    const now = tune.value;
    if (!now) return;
    const key = now.bars[barIndex.value]?.key ?? now.bars[0]!.key;
    const boxed = mode.value === 'box' ? current.value : null;
    const near = boxed?.kind === 'note' ? boxed.heads.at(-1)!.pitch : nearPitch();
    const pitch = pitchNear(name, near, key);
    onSound.value([midi(pitch)]);
    if (boxed) edit(setPitch(now, boxed.id, pitch), `change to ${printedName(pitch)}`);
    else write(pitch);
  }

  function write(pitch: Pitch | null): void {
    const now = tune.value;
    if (!now) return;
    const triplet = tripletLeft.value > 0;
    const typed = { pitch, value: { type: length.value, dots: dotted.value ? 1 : 0 }, triplet } as const;
    const made = insertNote(now, at.value, typed, newBar.value);
    newBar.value = false;
    tripletLeft.value = Math.max(0, tripletLeft.value - 1);
    anchor.value = null;
    desk.editTune(made.tune, pitch ? `write ${printedName(pitch)}` : 'write a rest');
    at.value = made.id;
    say(describe());
  }

  function rest(): void {
    if (mode.value === 'box' && tune.value) edit(makeRest(tune.value, chosen.value), 'make a rest');
    else write(null);
  }

  /** Adds to the chord at the caret, the nearest such note above its lowest. */
  function chordLetter(name: Letter): void {
    const now = tune.value;
    const event = current.value;
    if (!now || event?.kind !== 'note') return;
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

  function setLength(type: NoteType): void {
    length.value = type;
    dotted.value = false;
    if (mode.value === 'box' && tune.value)
      edit(setValue(tune.value, chosen.value, { type, dots: 0 }), `make it a ${NOTE_NAMES[type]}`);
    else say(NOTE_NAMES[type]);
  }

  function dot(): void {
    if (mode.value === 'box' && tune.value) edit(cycleDots(tune.value, chosen.value), 'dot');
    else {
      dotted.value = !dotted.value;
      say(dotted.value ? `dotted ${NOTE_NAMES[length.value]}` : NOTE_NAMES[length.value]);
    }
  }

  function triplet(): void {
    if (mode.value === 'box' && tune.value) edit(toggleTriplet(tune.value, chosen.value), 'triplet');
    else {
      tripletLeft.value = tripletLeft.value > 0 ? 0 : TRIPLET_NOTES;
      say(tripletLeft.value > 0 ? 'triplet: the next three notes' : 'plain notes');
    }
  }

  function tie(): void {
    if (!tune.value || at.value === null) return;
    const next = toggleTie(tune.value, at.value);
    if (next === tune.value) say('A tie needs a next note of the same pitch.');
    else edit(next, 'tie');
  }

  function slur(): void {
    if (!tune.value || at.value === null) return;
    // Behind a note that was just written, the slur reaches back to the one before it.
    const back = mode.value === 'caret' ? events.value[place.value - 1]?.id : undefined;
    edit(toggleSlur(tune.value, back ? [back, at.value] : [...chosen.value]), 'slur');
  }

  function pitchBy(move: PitchMove, by: 1 | -1): void {
    if (!tune.value || at.value === null) return;
    const words = { step: 'a step', semitone: 'a semitone', octave: 'an octave' }[move];
    if (
      edit(movePitch(tune.value, chosen.value, move, by), `${words} ${by > 0 ? 'up' : 'down'}`) &&
      current.value?.kind === 'note'
    ) {
      onSound.value(current.value.heads.map(({ pitch }) => midi(pitch)));
    }
  }

  /** Takes the note before the caret, or what is boxed, away. */
  function erase(): void {
    const now = tune.value;
    if (!now || at.value === null) return;
    const gone = mode.value === 'caret' ? new Set([at.value]) : chosen.value;
    const first = events.value.findIndex(({ id }) => gone.has(id));
    const before = events.value[first - 1]?.id ?? null;
    const after = events.value.slice(first).find(({ id }) => !gone.has(id))?.id ?? null;
    const next = deleteEvents(now, gone);
    desk.editTune(next, gone.size === 1 ? 'delete a note' : `delete ${gone.size} notes`);
    anchor.value = null;
    at.value = mode.value === 'box' ? (after ?? before) : before;
    if (at.value === null) mode.value = 'caret';
    say(describe());
  }

  function move(by: number, extend: boolean): void {
    const last = events.value.length - 1;
    const target = Math.max(0, Math.min(last, place.value + by));
    const id = events.value[target]?.id ?? null;
    if (extend) anchor.value ??= at.value;
    else anchor.value = null;
    // The first arrow key after writing boxes the note that was written last.
    const boxing = mode.value === 'caret' && !extend;
    mode.value = 'box';
    at.value = boxing && by < 0 ? at.value : id;
    say(describe());
  }

  function moveBar(by: 1 | -1, extend: boolean): void {
    const bars = tune.value?.bars ?? [];
    const target = bars[Math.max(0, Math.min(bars.length - 1, barIndex.value + by))];
    const to = events.value.findIndex(({ id }) => id === target?.events[0]?.id);
    move(to - place.value, extend);
  }

  function goTo(id: string, extend = false): void {
    if (extend) anchor.value ??= at.value;
    else anchor.value = null;
    at.value = id;
    mode.value = 'box';
    say(describe());
  }

  function toEdge(end: boolean): void {
    anchor.value = null;
    at.value = (end ? events.value.at(-1) : events.value[0])?.id ?? null;
    mode.value = end ? 'caret' : 'box';
    say(describe());
  }

  function toggleMode(): void {
    anchor.value = null;
    mode.value = mode.value === 'caret' && at.value !== null ? 'box' : 'caret';
    say(mode.value === 'caret' ? `Writing after ${describe()}` : describe());
  }

  function barLine(): void {
    newBar.value = !newBar.value;
    say(newBar.value ? 'The next note opens a new bar.' : 'No bar line.');
  }

  /** At the first note of a bar the repeat begins there, anywhere else it ends after the bar. */
  function repeat(): void {
    const now = tune.value;
    if (!now || at.value === null) return;
    const first = now.bars[barIndex.value]?.events[0]?.id === at.value && mode.value === 'box';
    if (first) edit(toggleRepeatStart(now, barIndex.value), 'repeat begins');
    else edit(toggleRepeatEnd(now, barIndex.value), 'repeat ends');
  }

  function copy(): Tune | null {
    if (!tune.value) return null;
    clip.value = copyBars(tune.value, chosenBars.value);
    const count = clip.value.bars.length;
    say(`${count} ${count === 1 ? 'bar' : 'bars'} copied`);
    return { ...tune.value, bars: clip.value.bars, slurs: clip.value.slurs };
  }

  function paste(foreign: Clip | null = null): void {
    const taken = foreign ?? clip.value;
    if (!tune.value || !taken || taken.bars.length === 0) return;
    const pasted = pasteBars(tune.value, chosenBars.value.to, taken);
    if (edit(pasted.tune, `paste ${taken.bars.length} ${taken.bars.length === 1 ? 'bar' : 'bars'}`) && pasted.id)
      goTo(pasted.id);
  }

  function mend(repair: Repair): void {
    if (edit(repair.run(), repair.label.toLowerCase())) say(`${repair.label}: done`);
  }

  /** The best repair of what is wrong here. */
  function mendHere(): void {
    const best = troubleHere.value?.repairs[0];
    if (best) mend(best);
    else say('Nothing is wrong in this bar.');
  }

  /** To the next bar that wants mending. */
  function nextTrouble(): void {
    const next = troubles.value.find(({ bar }) => bar > barIndex.value) ?? troubles.value[0];
    if (!next || !tune.value) return say('Every bar adds up.');
    goTo(next.note ?? tune.value.bars[next.bar]!.events[0]!.id);
    say(next.message);
  }

  function writeSyllable(syllable: Syllable | null): void {
    if (!tune.value || at.value === null) return;
    edit(setSyllable(tune.value, at.value, verse.value, syllable), 'words');
  }

  function writeChord(symbol: string): void {
    if (tune.value && at.value !== null)
      edit(setChord(tune.value, at.value, symbol), symbol ? `chord ${symbol}` : 'take a chord away');
  }

  /** To the next note, over rests and notes that a tie holds. */
  function nextNote(by: 1 | -1): boolean {
    let target = place.value + by;
    while (events.value[target] && entry.value === 'words' && events.value[target]!.kind === 'rest') target += by;
    const id = events.value[target]?.id;
    if (!id) return false;
    goTo(id);
    return true;
  }

  return {
    active,
    at,
    mode,
    anchor,
    length,
    dotted,
    tripletLeft,
    newBar,
    entry,
    verse,
    clip,
    onSound,
    tune,
    events,
    current,
    troubles,
    troubleHere,
    barIndex,
    chosen,
    chosenBars,
    start,
    stop,
    letter,
    chordLetter,
    rest,
    setLength,
    dot,
    triplet,
    tie,
    slur,
    pitchBy,
    erase,
    move,
    moveBar,
    goTo,
    toEdge,
    toggleMode,
    barLine,
    repeat,
    copy,
    paste,
    mend,
    mendHere,
    nextTrouble,
    writeSyllable,
    writeChord,
    nextNote,
    describe,
    say,
    edit,
  };
});

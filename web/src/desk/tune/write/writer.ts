/** Writing: caret, notes, signs and words; every command is one step of the tune's history. */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import {
  copyBars,
  deleteEvents,
  movePitch,
  pasteBars,
  setChord,
  setSyllable,
  toggleRepeatEnd,
  toggleRepeatStart,
  toggleSlur,
  type Clip,
  type PitchMove,
} from '@nokta/core/edit';
import { midi, type Syllable, type Tune } from '@nokta/core/music';
import { useWindowStorage } from '../../../settings/windowStorage.ts';
import { useDesk } from '../../rooms/store.ts';
import { createCaret, type Edit } from './caret.ts';
import { createMending } from './mending.ts';
import { createNoting } from './noting.ts';

export type { CaretMode, TextEntry } from './caret.ts';

const NOTHING_HERE = 'No note stands here yet.';
const NO_FURTHER = 'It can go no further; rests have no pitch.';

const isTouched = () => typeof matchMedia === 'function' && matchMedia('(pointer: coarse)').matches;

export const useWriter = defineStore('writer', () => {
  const desk = useDesk();
  const active = ref(false);
  const verse = ref(0);
  /** Whether there are keys to tap: where there is no keyboard, from the start. */
  const keypad = useWindowStorage('nokta-keypad', isTouched() ? 'shown' : 'away');
  const clip = shallowRef<Clip | null>(null);
  const tune = computed<Tune | null>(() => desk.tune?.tune ?? null);

  const say = (text: string): void => void (desk.spoken = text);
  const caret = createCaret(tune, say);
  const { at, mode, anchor, events, place, current, barIndex, chosen, chosenBars, describe, goTo } = caret;

  const edit: Edit = (next, label, why) => {
    const before = desk.tune;
    if (next && next !== tune.value) desk.editTune(next, label);
    const isChanged = desk.tune !== before;
    if (isChanged) say(describe());
    else if (why) say(why);
    return isChanged;
  };
  const { onSound, ...noting } = createNoting(tune, caret, edit, say);
  const mending = createMending(tune, active, caret, edit, say);

  // The strips give way to the page; at once, so that whatever is worked out next knows.
  watch(active, (now) => desk.showStrips(!now), { flush: 'sync' });

  function start(where: string | null = null): void {
    active.value = true;
    caret.stand(where);
  }

  function stop(): void {
    active.value = false;
    caret.entry.value = null;
    void desk.refresh();
  }

  function slur(): void {
    if (!tune.value || at.value === null) return;
    // Behind a note that was just written, the slur reaches back to the one before it.
    const back = mode.value === 'caret' ? events.value[place.value - 1]?.id : undefined;
    edit(toggleSlur(tune.value, back ? [back, at.value] : [...chosen.value]), 'slur', 'A slur needs two notes.');
  }

  function pitchBy(move: PitchMove, by: 1 | -1): void {
    if (!tune.value || at.value === null) return say(NOTHING_HERE);
    const words = { step: 'a step', semitone: 'a semitone', octave: 'an octave' }[move];
    if (
      edit(movePitch(tune.value, chosen.value, move, by), `${words} ${by > 0 ? 'up' : 'down'}`, NO_FURTHER) &&
      current.value?.kind === 'note'
    ) {
      onSound.value(current.value.heads.map(({ pitch }) => midi(pitch)));
    }
  }

  /** Takes the note before the caret, or what is boxed, away. */
  function erase(): void {
    const now = tune.value;
    if (!now || at.value === null) return say(NOTHING_HERE);
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

  /** At the first note of a bar the repeat begins there, anywhere else it ends after the bar. */
  function repeat(): void {
    const now = tune.value;
    if (!now || at.value === null) return say(NOTHING_HERE);
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
    if (!tune.value || !taken || taken.bars.length === 0) return say('Nothing is copied yet.');
    const pasted = pasteBars(tune.value, chosenBars.value.to, taken);
    if (edit(pasted.tune, `paste ${taken.bars.length} ${taken.bars.length === 1 ? 'bar' : 'bars'}`) && pasted.id)
      goTo(pasted.id);
  }

  function writeSyllable(syllable: Syllable | null): void {
    if (!tune.value || at.value === null) return;
    edit(setSyllable(tune.value, at.value, verse.value, syllable), 'words');
  }

  function writeChord(symbol: string): void {
    if (tune.value && at.value !== null)
      edit(setChord(tune.value, at.value, symbol), symbol ? `chord ${symbol}` : 'take a chord away');
  }

  const { place: _, stand: __, ...standing } = caret;
  return {
    active,
    verse,
    keypad: computed({
      get: () => keypad.value === 'shown',
      set: (shown) => (keypad.value = shown ? 'shown' : 'away'),
    }),
    clip,
    tune,
    ...standing,
    ...noting,
    onSound,
    ...mending,
    start,
    stop,
    slur,
    pitchBy,
    erase,
    repeat,
    copy,
    paste,
    writeSyllable,
    writeChord,
    say,
    edit,
  };
});

/** Bars that do not add up while a tune is written, and their repairs. */
import { computed, type Ref } from 'vue';
import { findTroubles, type Repair, type Trouble } from '@nokta/core/edit';
import { barLength, type Tune } from '@nokta/core/music';
import type { Caret, Edit } from './caret.ts';

export function createMending(
  tune: Readonly<Ref<Tune | null>>,
  active: Readonly<Ref<boolean>>,
  { at, mode, events, barIndex, goTo }: Caret,
  edit: Edit,
  say: (text: string) => void,
) {
  /** Writing on at the end: the last bar is not wrong only because it is not finished. */
  const unfinished = computed(() => {
    const last = tune.value?.bars.at(-1);
    const atEnd = active.value && mode.value === 'caret' && at.value !== null && at.value === events.value.at(-1)?.id;
    return atEnd && last && last.length < barLength(last.metre) ? tune.value!.bars.length - 1 : -1;
  });
  const troubles = computed<readonly Trouble[]>(() =>
    tune.value ? findTroubles(tune.value).filter(({ bar, kind }) => kind !== 'bar' || bar !== unfinished.value) : [],
  );
  const troubleHere = computed(
    () =>
      troubles.value.find(({ note }) => note !== undefined && note === at.value) ??
      troubles.value.find(({ bar }) => bar === barIndex.value) ??
      null,
  );

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

  return { troubles, troubleHere, mend, mendHere, nextTrouble };
}

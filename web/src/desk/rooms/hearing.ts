/** What the desk asks whoever plays: to hear a phrase, a drill, a note; and where the bow is meanwhile. */
import { computed, ref, shallowRef, watch, type Ref } from 'vue';
import type { Bowing, Travelling } from '@nokta/core/bow';
import type { Bpm, Midi, Tune } from '@nokta/core/music';
import type { Score } from '@nokta/core/practice';
import type { DeskClient } from '../../workers/deskClient.ts';
import type { DeskFacts } from '../../workers/facts.ts';
import { STALE } from '../../workers/protocol.ts';

/** What a phrase is heard with instead of what holds: other strokes, or the tune that a version was made from. */
export interface Heard {
  readonly bowing?: Bowing;
  readonly tune?: Tune;
  /** Several at once: a group that plays together. */
  readonly tunes?: readonly Tune[];
}

/** Something to play beside the tune, at its own tempo in quarters a minute. */
export interface Drill {
  readonly score: Score;
  readonly tempo: Bpm;
}

export function createHearing(arrangement: Readonly<Ref<DeskFacts | null>>, ask: DeskClient['ask']) {
  const playingId = ref<string | null>(null);
  /** A phrase that a panel wants to be heard; goes up with each wish. */
  const hearing = ref(0);
  /** Strokes that it shall be heard with, before they are taken; null for those that hold. */
  const heardWith = shallowRef<Heard | null>(null);
  function hear(heard: Heard | null = null): void {
    heardWith.value = heard;
    hearing.value += 1;
  }
  /** A drill that a panel wants to be heard, which is no part of the tune. */
  const drill = shallowRef<Drill | null>(null);
  const hearDrill = (wanted: Drill): void => void (drill.value = { ...wanted });
  /** Whoever can sound pitches by themselves: the player. */
  const sounder = shallowRef<(pitches: readonly Midi[]) => void>(() => undefined);

  /** Where the bow is on its hair; worked out only while something that shows it is open. */
  const travel = shallowRef<Travelling | null>(null);
  const travelWanted = ref(false);
  /** Quarters a minute at which the tune is heard just now; null before anything says so. */
  const heardTempo = ref<number | null>(null);
  watch([arrangement, travelWanted, heardTempo], async ([now, wanted, tempo]) => {
    if (!wanted || !now) return;
    const other = tempo !== null && tempo !== now.tempo;
    const found = await (other ? ask('travelAt', tempo) : ask('travel'));
    if (found !== STALE && tempo === heardTempo.value) travel.value = found;
  });
  /** What was worked out for other strokes is not laid under these. */
  const shownTravel = computed(() =>
    travelWanted.value && travel.value?.strokes.length === arrangement.value?.bowing.strokes.length
      ? travel.value
      : null,
  );

  return {
    playingId,
    hearing,
    heardWith,
    hear,
    drill,
    hearDrill,
    sounder,
    travel: shownTravel,
    travelWanted,
    heardTempo,
  };
}

/** What the desk asks whoever plays: to hear a phrase, a drill, a note; and where the bow is meanwhile. */
import { computed, ref, shallowRef, watch, type Ref } from 'vue';
import type { Travelling } from '@nokta/core/bow';
import type { Midi } from '@nokta/core/music';
import type { Drill, Heard } from '../../sound/tunePlayer.ts';
import type { DeskClient } from '../../workers/deskClient.ts';
import type { DeskFacts } from '../../workers/facts.ts';
import { STALE } from '../../workers/protocol.ts';

/** Who plays for the desk. */
export interface DeskPlayer {
  /** The selected phrase. @param heard what it is heard with, before that is taken; null for what holds */
  phrase(heard: Heard | null): void;
  drill(drill: Drill): void;
  pitches(pitches: readonly Midi[]): void;
}

const LONG_MS = 60;
const MOST_WAIT_MS = 250;

export function createHearing(arrangement: Readonly<Ref<DeskFacts | null>>, ask: DeskClient['ask']) {
  const playingId = ref<string | null>(null);
  let player: DeskPlayer | null = null;

  /** Where the bow is on its hair; worked out only while something that shows it is open. */
  const travel = shallowRef<Travelling | null>(null);
  const travelWanted = ref(false);
  /** Quarters a minute at which the tune is heard just now; null before anything says so. */
  const heardTempo = ref<number | null>(null);
  /** How long the last one took, in milliseconds. */
  let lasted = 0;
  watch([arrangement, travelWanted, heardTempo], async ([now, wanted, tempo], _, stop) => {
    if (!wanted || !now) return;
    let isPast = false;
    stop(() => (isPast = true));
    // In a long tune a run of decisions is waited out: each is shown before the bow is followed along the hair again.
    if (lasted > LONG_MS) await new Promise((resolve) => setTimeout(resolve, Math.min(lasted, MOST_WAIT_MS)));
    if (isPast) return;
    const other = tempo !== null && tempo !== now.tempo;
    const asked = performance.now();
    const found = await (other ? ask('travelAt', tempo) : ask('travel'));
    lasted = performance.now() - asked;
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
    playedBy: (who: DeskPlayer) => void (player = who),
    hear: (heard: Heard | null = null) => player?.phrase(heard),
    hearDrill: (drill: Drill) => player?.drill(drill),
    hearPitches: (pitches: readonly Midi[]) => player?.pitches(pitches),
    travel: shownTravel,
    travelWanted,
    heardTempo,
  };
}

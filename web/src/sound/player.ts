/** Plays a score with the shipped samples, at any tempo, once or in a loop; says which note sounds. */
import { ref, type Ref } from 'vue';
import type * as ToneModule from 'tone';
import type { InstrumentId } from '@nokta/core/instrument';
import { SAMPLES } from './samples.ts';
import type { Score } from './score.ts';

export interface Player {
  readonly playing: Ref<boolean>;
  readonly loading: Ref<boolean>;
  play(instrument: InstrumentId, score: Score, options: { quarterBpm: number; loop: boolean }): Promise<void>;
  stop(): void;
  setTempo(quarterBpm: number): void;
}

/** Parts of a beat left silent at the end of each note, so that repeated notes are heard apart. */
const DETACH = 0.06;
/** Tone's ticks in a quarter. */
const PPQ = 192;

/** @param onNote is told each note as it sounds, and null at the end */
export function createPlayer(onNote: (id: string | null) => void): Player {
  const playing = ref(false);
  const loading = ref(false);
  const samplers = new Map<InstrumentId, ToneModule.Sampler>();
  let turn = 0;
  // Tone starts an audio context when it is loaded, so it is loaded with the first sound.
  let tone: typeof ToneModule | null = null;

  async function samplerFor(Tone: typeof ToneModule, instrument: InstrumentId): Promise<ToneModule.Sampler> {
    const known = samplers.get(instrument);
    if (known) return known;
    const sampler = new Tone.Sampler({ urls: SAMPLES[instrument], attack: 0.02, release: 0.25 }).toDestination();
    samplers.set(instrument, sampler);
    await Tone.loaded();
    return sampler;
  }

  async function play(
    instrument: InstrumentId,
    score: Score,
    { quarterBpm, loop }: { quarterBpm: number; loop: boolean },
  ): Promise<void> {
    stop();
    const own = (turn += 1);
    loading.value = true;
    playing.value = true;
    try {
      tone ??= await import('tone');
      await tone.start();
      const sampler = await samplerFor(tone, instrument);
      if (own !== turn) return;
      schedule(tone, sampler, score, loop, own);
      const transport = tone.getTransport();
      transport.bpm.value = quarterBpm;
      transport.start('+0.05', 0);
    } catch {
      stop();
    } finally {
      loading.value = false;
    }
  }

  function schedule(
    Tone: typeof ToneModule,
    sampler: ToneModule.Sampler,
    score: Score,
    loop: boolean,
    own: number,
  ): void {
    const transport = Tone.getTransport();
    const ticks = (quarters: number) => `${Math.round(quarters * PPQ)}i`;
    for (const note of score.notes) {
      transport.schedule((time) => {
        const length = (note.duration - DETACH) * (60 / transport.bpm.value);
        sampler.triggerAttackRelease(
          note.pitches.map((number) => Tone.Frequency(number, 'midi').toFrequency()),
          Math.max(0.05, length),
          time,
        );
        // What was still to be shown when the player was stopped is not.
        Tone.getDraw().schedule(() => own === turn && onNote(note.id), time);
      }, ticks(note.at));
    }
    transport.loop = loop;
    transport.loopStart = 0;
    transport.loopEnd = ticks(score.length);
    if (!loop)
      transport.schedule((time) => Tone.getDraw().schedule(() => own === turn && stop(), time), ticks(score.length));
  }

  function stop(): void {
    turn += 1;
    playing.value = false;
    if (tone) {
      const transport = tone.getTransport();
      transport.stop();
      transport.cancel(0);
      for (const sampler of samplers.values()) sampler.releaseAll();
    }
    onNote(null);
  }

  function setTempo(quarterBpm: number): void {
    if (tone) tone.getTransport().bpm.value = quarterBpm;
  }

  return { playing, loading, play, stop, setTempo };
}

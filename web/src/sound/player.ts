/**
 * Plays a score with the shipped samples, at any tempo, once or in a loop; says which note sounds. Times come
 * from the audio clock, so nothing drifts and another tempo leaves the pitch as it is.
 */
import { ref, type Ref } from 'vue';
import type * as ToneModule from 'tone';
import type { HandId } from '@nokta/core/instrument';
import type { Midi } from '@nokta/core/music';
import { createBand, type Band } from './band.ts';
import { say, sayNothing } from './speech.ts';
import { SAMPLES, samplesFor } from './samples.ts';
import { countIn, type CountIn, type Score } from '@nokta/core/practice';

/** What sounds beside the tune; may change while it plays. */
export interface Mix {
  readonly chords: boolean;
  readonly metronome: boolean;
  /** Beats are said, where the browser can speak. */
  readonly aloud: boolean;
  /** Empty for none. */
  readonly drone: readonly Midi[];
}

export interface PlayOptions {
  readonly quarterBpm: number;
  readonly loop: boolean;
  readonly countIn: CountIn;
}

export interface Player {
  readonly playing: Ref<boolean>;
  readonly loading: Ref<boolean>;
  play(instrument: HandId, score: Score, options: PlayOptions): Promise<void>;
  stop(): void;
  setTempo(quarterBpm: number): void;
  setMix(mix: Mix): void;
  /** Loads what the first note would have to wait for. */
  prepare(instrument: HandId, pitches: readonly Midi[]): Promise<void>;
  /** One short sound, as a note is typed or tapped; plays into whatever sounds. */
  sound(instrument: HandId, pitches: readonly Midi[]): Promise<void>;
}

/** Name of the measure that tells how long a press of Play took to sound, for whoever looks. */
const START_MEASURE = 'nokta-play';

/** Parts of a quarter left silent at the end of each stroke, so that strokes are heard apart. */
const DETACH = 0.06;
/** Share of its time that a note with a dot sounds. */
const SHORT = 0.5;
/** Within a stroke notes run into each other by so many seconds. */
const OVERLAP = 0.04;
/** How loud a stroke begins, a note within it, and one with an accent. */
const LOUD = { stroke: 0.8, slurred: 0.66, accent: 1 } as const;
/** Seconds that a typed note sounds. */
const SHORT_SOUND = 0.35;
const LATE_MS = 400;
/** Seconds from the press of a key to the first sound; the audio thread needs a moment. */
const LEAD = 0.05;
/** Tone's ticks in a quarter. */
const PPQ = 192;
/** Events that are handed to the clock in one go; the rest follows in breaths, so that the page stays quick. */
const AT_ONCE = 120;

/**
 * @param onNote is told each note as it sounds, and null at the end
 * @param onCount is told each count as it falls, and null at the end
 */
export function createPlayer(
  onNote: (id: string | null) => void,
  onCount: (count: string | null) => void = () => undefined,
): Player {
  const playing = ref(false);
  const loading = ref(false);
  const samplers = new Map<HandId, ToneModule.Sampler>();
  /** Names of the samples that each has, or is loading. */
  const loaded = new Map<HandId, ReadonlySet<string>>();
  let mix: Mix = { chords: true, metronome: false, aloud: false, drone: [] };
  let turn = 0;
  // Tone starts an audio context when it is loaded, so it is loaded with the first need of it.
  let tone: typeof ToneModule | null = null;
  let band: Band | null = null;

  /** The strings of an instrument, with the samples that these pitches need. */
  async function samplerFor(
    Tone: typeof ToneModule,
    instrument: HandId,
    pitches: readonly Midi[],
  ): Promise<ToneModule.Sampler> {
    const needed = samplesFor(SAMPLES[instrument], pitches);
    const known = samplers.get(instrument);
    const there = loaded.get(instrument) ?? new Set<string>();
    const missing = needed.filter(([name]) => !there.has(name));
    loaded.set(instrument, new Set([...there, ...missing.map(([name]) => name)]));
    const sampler =
      known ?? new Tone.Sampler({ urls: Object.fromEntries(missing), attack: 0.02, release: 0.25 }).toDestination();
    samplers.set(instrument, sampler);
    if (known) for (const [name, url] of missing) known.add(name as ToneModule.Unit.Note, url);
    if (missing.length > 0 || !sampler.loaded) await Tone.loaded();
    return sampler;
  }

  async function prepare(instrument: HandId, pitches: readonly Midi[]): Promise<void> {
    tone ??= await import('tone');
    band ??= createBand(tone);
    await samplerFor(tone, instrument, pitches);
  }

  async function play(instrument: HandId, score: Score, options: PlayOptions): Promise<void> {
    const asked = performance.now();
    stop();
    const own = (turn += 1);
    loading.value = true;
    playing.value = true;
    try {
      const pitches = [...new Set(score.notes.flatMap((note) => note.pitches))];
      await prepare(instrument, pitches);
      const Tone = tone!;
      await Tone.start();
      const sampler = await samplerFor(Tone, instrument, pitches);
      if (own !== turn) return;
      const transport = Tone.getTransport();
      transport.bpm.value = options.quarterBpm;
      const events = eventsOf(Tone, sampler, score, options, own);
      const first = events.slice(0, AT_ONCE);
      const rest = events.slice(AT_ONCE);
      for (const { at, run } of first) transport.schedule(run, at);
      const lead = countIn(score, options.countIn).length;
      transport.loop = options.loop;
      transport.loopStart = ticks(lead);
      transport.loopEnd = ticks(lead + score.length);
      transport.start(`+${LEAD}`, 0);
      band?.drone(mix.drone, LEAD);
      performance.measure(START_MEASURE, { start: asked, end: performance.now() + LEAD * 1000 });
      void scheduleRest(Tone, rest, own);
    } catch {
      stop();
    } finally {
      loading.value = false;
    }
  }

  interface Timed {
    readonly at: string;
    readonly order: number;
    run(time: number): void;
  }

  /** Everything that happens, in order. */
  function eventsOf(
    Tone: typeof ToneModule,
    sampler: ToneModule.Sampler,
    score: Score,
    { loop, countIn: mode }: PlayOptions,
    own: number,
  ): readonly Timed[] {
    const transport = Tone.getTransport();
    const lead = countIn(score, mode);
    const seconds = (quarters: number) => quarters * (60 / transport.bpm.value);
    const event = (quarters: number, run: (time: number) => void): Timed => ({
      at: ticks(quarters),
      order: quarters,
      run,
    });
    // Always seen; said where that is wanted.
    const tell = (count: string, time: number) =>
      Tone.getDraw().schedule(() => {
        if (own !== turn) return;
        onCount(count);
        if (mix.aloud) say(count);
      }, time);
    const counts = lead.clicks.map(({ at, strong, count }) =>
      event(at, (time) => {
        band?.click(strong, time);
        tell(count, time);
      }),
    );
    const clicks = score.clicks.map(({ at, strong, count }) =>
      event(lead.length + at, (time) => {
        if (mix.metronome) band?.click(strong, time);
        tell(count, time);
      }),
    );
    const chords = score.chords.map(({ at, duration, pitches }) =>
      event(lead.length + at, (time) => mix.chords && band?.chord(pitches, seconds(duration), time)),
    );
    const notes = score.notes.map(({ at, duration, pitches, id, slurred, accent, short, full }, index) =>
      event(lead.length + at, (time) => {
        const goesOn = score.notes[index + 1]?.slurred ?? false;
        sampler.triggerAttackRelease(
          pitches.map((number) => Tone.Frequency(number, 'midi').toFrequency()),
          Math.max(
            0.05,
            short
              ? SHORT * seconds(duration)
              : goesOn
                ? seconds(duration) + OVERLAP
                : seconds(duration - (full ? 0 : DETACH)),
          ),
          time,
          accent ? LOUD.accent : slurred ? LOUD.slurred : LOUD.stroke,
        );
        // What was still to be shown when the player was stopped is not.
        Tone.getDraw().schedule(() => own === turn && onNote(id), time);
      }),
    );
    // By a timer: what is to be drawn is left out where a frame comes too late, and the end must not be.
    const endAt = (time: number) =>
      setTimeout(() => own === turn && stop(), 1000 * Math.max(0, time - Tone.immediate()));
    const end = loop ? [] : [event(lead.length + score.length, endAt)];
    return [...counts, ...clicks, ...chords, ...notes, ...end].sort((a, b) => a.order - b.order);
  }

  async function scheduleRest(Tone: typeof ToneModule, events: readonly Timed[], own: number): Promise<void> {
    for (let from = 0; from < events.length; from += AT_ONCE) {
      await new Promise((resolve) => setTimeout(resolve, 0));
      if (own !== turn) return;
      for (const { at, run } of events.slice(from, from + AT_ONCE)) Tone.getTransport().schedule(run, at);
    }
  }

  function stop(): void {
    turn += 1;
    playing.value = false;
    if (tone) {
      const transport = tone.getTransport();
      transport.stop();
      transport.cancel(0);
      for (const sampler of samplers.values()) sampler.releaseAll();
      band?.silence();
      sayNothing();
    }
    onNote(null);
    onCount(null);
  }

  function setTempo(quarterBpm: number): void {
    if (tone) tone.getTransport().bpm.value = quarterBpm;
  }

  function setMix(next: Mix): void {
    const changed = next.drone.join() !== mix.drone.join();
    mix = next;
    if (changed && playing.value && !loading.value) band?.drone(mix.drone, 0);
  }

  async function sound(instrument: HandId, pitches: readonly Midi[]): Promise<void> {
    tone ??= await import('tone');
    const Tone = tone;
    await Tone.start();
    const asked = performance.now();
    const sampler = await samplerFor(Tone, instrument, pitches);
    // A note that had to wait for the samples would only come as an echo.
    if (performance.now() - asked > LATE_MS) return;
    sampler.triggerAttackRelease(
      pitches.map((number) => Tone.Frequency(number, 'midi').toFrequency()),
      SHORT_SOUND,
    );
  }

  return { playing, loading, play, stop, setTempo, setMix, prepare, sound };
}

const ticks = (quarters: number) => `${Math.round(quarters * PPQ)}i`;

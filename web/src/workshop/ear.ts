/**
 * What listens to strings: the microphone, or strings that are simulated, through one and the same path. A single
 * string is told by its pitch, two together by how fast they beat.
 */
import { onBeforeUnmount, ref, shallowRef, type Ref, type ShallowRef } from 'vue';
import { PitchDetector } from 'pitchy';
import { beatsIn, loudnessAt, type Hertz } from '@nokta/core/practice';

/** Samples that a pitch is found in: at 48,000 a second seven periods of a bass's lowest string. */
const SIZE = 8192;
/** Milliseconds between two looks. */
const EVERY = 25;
/** How sure a pitch must be, 0 to 1, and how loud: less is the room. */
const SURE = 0.9;
const LOUD = 0.004;
/** So many looks are taken together: one that is wrong is outvoted. */
const TOGETHER = 7;
/** Seconds over which beats are followed. */
const FOLLOWED = 3.2;
/** Piece in which a partial's loudness is taken, in seconds. */
const PIECE = 0.08;
const LOUDNESS = { heard: 0.05, taken: 0.25 } as const;

export interface Ear {
  readonly listening: Ref<boolean>;
  /** What sounds, in hertz; null for silence. */
  readonly pitch: ShallowRef<Hertz | null>;
  /** Beats a second of the partial that is watched; null while nothing is known. */
  readonly beats: ShallowRef<Hertz | null>;
  /** Why nothing is heard, in words. */
  readonly problem: Ref<string>;
  /** @param strings frequencies that are simulated; null listens to the microphone */
  start(strings: readonly Hertz[] | null): Promise<void>;
  /** The simulated strings sound otherwise now. */
  retune(strings: readonly Hertz[]): void;
  /** The partial to hear beats at; null for none. */
  watch(partial: Hertz | null): void;
  stop(): void;
}

export function useEar(): Ear {
  const listening = ref(false);
  const pitch = shallowRef<Hertz | null>(null);
  const beats = shallowRef<Hertz | null>(null);
  const problem = ref('');
  let context: AudioContext | null = null;
  let stream: MediaStream | null = null;
  let voices: OscillatorNode[] = [];
  let timer = 0;
  let watched: Hertz | null = null;
  let loud: { readonly at: number; readonly value: number }[] = [];
  let turn = 0;

  async function start(strings: readonly Hertz[] | null): Promise<void> {
    stop();
    const own = (turn += 1);
    problem.value = '';
    try {
      const audio = new AudioContext();
      context = audio;
      const analyser = new AnalyserNode(audio, { fftSize: SIZE });
      if (strings) simulate(audio, analyser, strings);
      else {
        // What a browser does to make speech clear bends pitches.
        const plain = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };
        const heard = await navigator.mediaDevices.getUserMedia({ audio: plain });
        if (own !== turn) return heard.getTracks().forEach((track) => track.stop());
        stream = heard;
        audio.createMediaStreamSource(heard).connect(analyser);
      }
      await audio.resume();
      if (own !== turn) return;
      listening.value = true;
      look(audio, analyser);
    } catch (error) {
      if (own !== turn) return;
      stop();
      problem.value = whyNot(error);
    }
  }

  function simulate(audio: AudioContext, analyser: AnalyserNode, strings: readonly Hertz[]): void {
    const taken = new GainNode(audio, { gain: LOUDNESS.taken });
    const heard = new GainNode(audio, { gain: LOUDNESS.heard });
    taken.connect(analyser);
    heard.connect(audio.destination);
    voices = strings.map((frequency) => {
      const voice = new OscillatorNode(audio, { type: 'sawtooth', frequency });
      voice.connect(taken);
      voice.connect(heard);
      voice.start();
      return voice;
    });
  }

  function look(audio: AudioContext, analyser: AnalyserNode): void {
    const detector = PitchDetector.forFloat32Array(SIZE);
    const samples = new Float32Array(SIZE);
    const piece = Math.round(PIECE * audio.sampleRate);
    let found: number[] = [];
    let looks = 0;
    timer = window.setInterval(() => {
      analyser.getFloatTimeDomainData(samples);
      if (watched !== null) follow(samples.subarray(SIZE - piece), audio.sampleRate, watched);
      looks += 1;
      // A pitch costs more to find than loudness, and moves slower.
      if (looks % 2 > 0) return;
      const level = Math.sqrt(samples.reduce((sum, one) => sum + one * one, 0) / SIZE);
      const [frequency, sure] = level < LOUD ? [0, 0] : detector.findPitch(samples, audio.sampleRate);
      found = sure < SURE ? found.slice(1) : [...found, frequency].slice(-TOGETHER);
      const sorted = [...found].sort((a, b) => a - b);
      pitch.value = sorted.length < 2 ? null : sorted[Math.floor(sorted.length / 2)]!;
    }, EVERY);
  }

  function follow(samples: Float32Array, rate: number, partial: Hertz): void {
    const at = performance.now() / 1000;
    loud = [...loud, { at, value: loudnessAt(samples, rate, partial) }].filter((one) => one.at > at - FOLLOWED);
    const span = at - loud[0]!.at;
    beats.value =
      span < 0.9 * FOLLOWED
        ? null
        : beatsIn(
            loud.map(({ value }) => value),
            span / (loud.length - 1),
          );
  }

  function retune(strings: readonly Hertz[]): void {
    strings.forEach((frequency, index) =>
      voices[index]?.frequency.setValueAtTime(frequency, context?.currentTime ?? 0),
    );
  }

  function watch(partial: Hertz | null): void {
    watched = partial;
    loud = [];
    beats.value = null;
  }

  function stop(): void {
    turn += 1;
    window.clearInterval(timer);
    stream?.getTracks().forEach((track) => track.stop());
    stream = null;
    voices = [];
    void context?.close();
    context = null;
    listening.value = false;
    pitch.value = null;
    beats.value = null;
    loud = [];
  }
  onBeforeUnmount(stop);

  return { listening, pitch, beats, problem, start, retune, watch, stop };
}

function whyNot(error: unknown): string {
  const name = error instanceof DOMException ? error.name : '';
  if (name === 'NotAllowedError')
    return 'The browser does not let Nokta listen. Allow the microphone for this page, or use the simulated strings.';
  if (name === 'NotFoundError') return 'No microphone was found. Plug one in, or use the simulated strings.';
  return 'The microphone cannot be used here. Use the simulated strings, or open Nokta at localhost or over https.';
}

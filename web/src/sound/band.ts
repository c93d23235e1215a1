/** What sounds beside the tune: soft chords, the beat, a drone. Made by oscillators; the tune itself is sampled. */
import type * as ToneModule from 'tone';
import type { Midi } from '@nokta/core/music';

export interface Band {
  click(strong: boolean, time: number): void;
  /** @param length in seconds */
  chord(pitches: readonly Midi[], length: number, time: number): void;
  /** Goes on until another one, or silence. @param wait seconds from now */
  drone(pitches: readonly Midi[], wait: number): void;
  silence(): void;
}

/** Decibels below full: the tune leads. */
const LEVEL = { click: -12, chord: -27, drone: -24 } as const;
const CLICK_HERTZ = { strong: 1760, weak: 1175 } as const;

export function createBand(Tone: typeof ToneModule): Band {
  const hertz = (number: Midi) => Tone.Frequency(number, 'midi').toFrequency();
  const click = new Tone.Synth({
    oscillator: { type: 'triangle' },
    envelope: { attack: 0.001, decay: 0.05, sustain: 0, release: 0.02 },
    volume: LEVEL.click,
  }).toDestination();
  const mellow = new Tone.Filter(1400, 'lowpass').toDestination();
  const chord = new Tone.PolySynth(Tone.Synth, {
    oscillator: { type: 'triangle' },
    envelope: { attack: 0.04, decay: 0.4, sustain: 0.6, release: 0.3 },
    volume: LEVEL.chord,
  }).connect(mellow);
  const reed = new Tone.Filter(900, 'lowpass').toDestination();
  const drone = new Tone.PolySynth(Tone.Synth, {
    oscillator: { type: 'fatsawtooth', count: 2, spread: 6 },
    envelope: { attack: 0.25, decay: 0.1, sustain: 1, release: 0.3 },
    volume: LEVEL.drone,
  }).connect(reed);
  return {
    click: (strong, time) => click.triggerAttackRelease(strong ? CLICK_HERTZ.strong : CLICK_HERTZ.weak, 0.03, time),
    // A little short, so that the next one is heard to begin.
    chord: (pitches, length, time) =>
      chord.triggerAttackRelease(pitches.map(hertz), Math.max(0.1, 0.94 * length), time),
    drone(pitches, wait) {
      drone.releaseAll();
      if (pitches.length > 0) drone.triggerAttack(pitches.map(hertz), Tone.now() + wait + 0.01);
    },
    silence() {
      chord.releaseAll();
      drone.releaseAll();
    },
  };
}

/** Scale and arpeggio of any key and mode, as a tune for an instrument in its tuning. */
import { compassOf, type Decisions } from '../arrange/index.ts';
import { tuningOf } from '../instrument/index.ts';
import {
  TICKS_PER_QUARTER,
  barLength,
  barStarts,
  diatonicStep,
  keyName,
  keyOf,
  layBars,
  midi,
  type Attack,
  type Bar,
  type Metre,
  type Mode,
  type Pitch,
  type PitchClass,
  type Tune,
} from '../music/index.ts';

export const SCALE_OCTAVES = [1, 2, 3] as const;

export interface ScaleWish {
  readonly tonic: PitchClass;
  readonly mode: Mode;
  readonly octaves: (typeof SCALE_OCTAVES)[number];
}

/** A scale, or how many octaves of it there would be room for: none where even one has no room. */
export type Scale = { readonly ok: true; readonly tune: Tune } | { readonly ok: false; readonly octaves: number };

const METRE: Metre = { beats: 4, unit: 4 };
const THIRD = 2;
const FIFTH = 4;
const OCTAVE = 7;

/**
 * From the lowest home note that the strings have, up and down, then the arpeggio: quarters for one octave, eighths for
 * more; the top is turned on, and the last note held.
 * @example scaleTune({ tonic: { letter: 'G', alter: 0 }, mode: 'major', octaves: 2 }, FIRST_DECISIONS).ok // true
 */
export function scaleTune({ tonic, mode, octaves }: ScaleWish, decisions: Pick<Decisions, 'key' | 'hand'>): Scale {
  const key = keyOf(tonic, mode);
  const lowest = Math.min(...tuningOf(decisions.key).pitches.map(midi));
  const { top } = compassOf(decisions);
  const home = Array.from({ length: 9 }, (_, octave): Pitch => ({ ...tonic, octave })).find(
    (one) => midi(one) >= lowest,
  );
  if (!home) return { ok: false, octaves: 0 };
  const room = Math.max(0, Math.floor((top - midi(home)) / 12));
  if (room < octaves) return { ok: false, octaves: room };
  const last = OCTAVE * octaves;
  const up = Array.from({ length: last + 1 }, (_, step) => step);
  const chord = up.filter((step) => [0, THIRD, FIFTH].includes(step % OCTAVE));
  const ticks = octaves === 1 ? TICKS_PER_QUARTER : TICKS_PER_QUARTER / 2;
  const part = (steps: readonly number[], first: number): readonly Bar[] => {
    const turned = [...steps, ...steps.slice(0, -1).reverse()];
    const pitches = turned.flatMap((step) => diatonicStep(home, step, key.signature) ?? []);
    const full = barLength(METRE);
    const attacks = pitches.map((pitch, index): Attack => {
      const onset = index * ticks;
      const rest = (full - ((onset + ticks) % full)) % full;
      return { onset, duration: index === pitches.length - 1 ? ticks + rest : ticks, pitches: [pitch] };
    });
    const bars = layBars(attacks, { metre: METRE, key, pickup: 0 });
    return bars.map((bar, index) => ({
      ...bar,
      id: `b${first + index + 1}`,
      events: bar.events.map((event) => ({ ...event, id: `${first === 0 ? 's' : 'a'}${event.id}` })),
      barline: index === bars.length - 1 ? (first === 0 ? ('double' as const) : ('final' as const)) : bar.barline,
    }));
  };
  const scale = part(up, 0);
  const bars = [...scale, ...part(chord, scale.length)];
  const title = `${keyName(key)}, ${octaves === 1 ? 'one octave' : octaves === 2 ? 'two octaves' : 'three octaves'}`;
  const tune: Tune = {
    title,
    alsoKnownAs: [],
    composer: '',
    origin: '',
    style: 'scale',
    notes: [],
    tempo: null,
    bars,
    slurs: [],
  };
  return { ok: true, tune: withParts(tune, scale.length) };
}

/** Scale and arpeggio are a phrase each, whatever else they could be taken for. */
function withParts(tune: Tune, second: number): Tune {
  const at = (index: number) => ({ note: tune.bars[index]!.events[0]!.id, bar: tune.bars[index]!.id, at: 0 });
  const [scale, arpeggio] = [at(0), at(second)];
  return barStarts(tune.bars).length < 2
    ? tune
    : {
        ...tune,
        parting: {
          held: [
            { from: scale, to: arpeggio, name: 'Scale' },
            { from: arpeggio, to: null, name: 'Arpeggio' },
          ],
          parts: [{ at: arpeggio, starts: true }],
          order: [],
        },
      };
}

import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { FIRST_DECISIONS, arrange } from '@nokta/core/arrange';
import { readAbc } from '@nokta/core/formats';
import type * as SamplesModule from './samples.ts';

/** A clock that is turned by hand: what was scheduled, and what was played when its time came. */
const fake = vi.hoisted(() => {
  const events: { at: string; run: (time: number) => void }[] = [];
  const played: string[] = [];
  const files: string[] = [];
  const transport = {
    bpm: { value: 120 },
    loop: false,
    loopStart: '',
    loopEnd: '',
    schedule: (run: (time: number) => void, at: string) => events.push({ at, run }),
    start: vi.fn(),
    stop: vi.fn(),
    cancel: () => events.splice(0),
  };
  const voice = (name: string) =>
    class {
      loaded = true;
      toDestination() {
        return this;
      }
      connect() {
        return this;
      }
      releaseAll() {
        played.push(`${name} silent`);
      }
      triggerAttack(pitches: readonly number[]) {
        played.push(`${name} ${pitches.join('+')}`);
      }
      triggerAttackRelease(pitches: number | readonly number[], length: number, time: number) {
        played.push(`${name} ${[pitches].flat().join('+')} ${Math.round(1000 * length)} ms at ${time}`);
      }
    };
  let voices = 0;
  return {
    /** Whether frames come in time; a busy or a hidden page leaves out what was to be drawn. */
    draws: true,
    events,
    played,
    files,
    transport,
    tone: {
      start: () => Promise.resolve(),
      loaded: () => Promise.resolve(),
      now: () => 0,
      immediate: () => 0,
      getTransport: () => transport,
      getDraw: () => ({ schedule: (run: () => void) => fake.draws && run() }),
      Frequency: (number: number) => ({ toFrequency: () => number }),
      Sampler: class extends voice('strings') {
        constructor({ urls }: { urls: Readonly<Record<string, string>> }) {
          super();
          files.push(...Object.keys(urls));
        }
        add(name: string) {
          files.push(name);
        }
      },
      Synth: voice('click'),
      Filter: voice('filter'),
      // The first is for chords, the second the drone.
      PolySynth: class extends voice('other') {
        name = ['chord', 'drone'][voices++ % 2]!;
        override triggerAttack(pitches: readonly number[]) {
          played.push(`${this.name} ${pitches.join('+')}`);
        }
        override triggerAttackRelease(pitches: readonly number[], length: number, time: number) {
          played.push(`${this.name} ${pitches.join('+')} ${Math.round(1000 * length)} ms at ${time}`);
        }
        override releaseAll() {
          played.push(`${this.name} silent`);
        }
      },
    },
  };
});
vi.mock('tone', () => fake.tone);
const NAMES = ['G3', 'A3', 'C4', 'E4', 'G4', 'A4', 'C5', 'E5', 'G5'];
vi.mock('./samples.ts', async (original) => ({
  ...(await original<typeof SamplesModule>()),
  SAMPLES: { violin: Object.fromEntries(NAMES.map((name) => [name, `${name}.mp3`])) },
}));

const { createPlayer } = await import('./player.ts');
const { tuneScore } = await import('@nokta/core/practice');

function scoreOf(music: string) {
  const read = readAbc(`X:1\nT:t\nM:4/4\nL:1/8\nK:G\n${music}\n`);
  if (!read.ok) throw new Error('unreadable');
  return tuneScore(arrange(read.value.tune, FIRST_DECISIONS), null);
}

const QUARTER = 192;
const OPTIONS = { quarterBpm: 120, loop: false, countIn: 'none' } as const;
/** Lets everything that is due by now happen, at the moment its tick says. */
function turnTo(ticks: number): void {
  const due = fake.events.filter(({ at }) => parseInt(at) <= ticks);
  for (const event of due) {
    fake.events.splice(fake.events.indexOf(event), 1);
    event.run(parseInt(event.at));
  }
}

beforeEach(() => {
  fake.events.length = 0;
  fake.played.length = 0;
  fake.files.length = 0;
  fake.draws = true;
});
afterEach(() => vi.useRealTimers());

it('puts every note on its exact tick, however long the tune is, so that nothing drifts', async () => {
  const score = scoreOf(`|: ${'GABc dedc | '.repeat(64)} :|`);
  const player = createPlayer(() => undefined);
  await player.play('violin', score, OPTIONS);
  // So many notes and beats, and the end.
  await vi.waitFor(() => expect(fake.events).toHaveLength(1024 + 512 + 1));
  const ticks = [...new Set(fake.events.map(({ at }) => parseInt(at)))].sort((a, b) => a - b);
  expect(ticks).toEqual(Array.from({ length: 1025 }, (_, eighth) => eighth * (QUARTER / 2)));
  player.stop();
});

it('counts in before the music, and loops the music alone', async () => {
  const seen: (string | null)[] = [];
  const player = createPlayer((id) => seen.push(id));
  await player.play('violin', scoreOf('G4 A4 | B8 |]'), { ...OPTIONS, loop: true, countIn: 'beats' });
  expect(fake.transport).toMatchObject({ loop: true, loopStart: `${4 * QUARTER}i`, loopEnd: `${12 * QUARTER}i` });
  turnTo(3 * QUARTER);
  expect(fake.played.filter((one) => one.startsWith('click'))).toHaveLength(4);
  expect(fake.played.some((one) => one.startsWith('strings 67'))).toBe(false);
  turnTo(4 * QUARTER);
  expect(fake.played.at(-1)).toBe(`strings 67 970 ms at ${4 * QUARTER}`);
  expect(seen.at(-1)).toBe('n1');
  player.stop();
  expect(seen.at(-1)).toBeNull();
  expect(fake.events).toEqual([]);
});

it('comes to its end though no frame is drawn', async () => {
  const player = createPlayer(() => undefined);
  await player.play('violin', scoreOf('G4 A4 |]'), OPTIONS);
  vi.useFakeTimers();
  fake.draws = false;
  turnTo(4 * QUARTER);
  expect(player.playing.value).toBe(true);
  vi.runAllTimers();
  expect(player.playing.value).toBe(false);
});

it('lets chords, beat and drone come and go while it plays', async () => {
  const player = createPlayer(() => undefined);
  player.setMix({ chords: true, metronome: false, aloud: false, drone: [50, 57] });
  await player.play('violin', scoreOf('"G"G8 | "D"A8 | "G"B8 |]'), OPTIONS);
  expect(fake.played).toContain('drone 50+57');
  turnTo(QUARTER);
  expect(fake.played.filter((one) => one.startsWith('chord 43'))).toHaveLength(1);
  expect(fake.played.some((one) => one.startsWith('click'))).toBe(false);
  player.setMix({ chords: false, metronome: true, aloud: true, drone: [] });
  expect(fake.played.at(-1)).toBe('drone silent');
  turnTo(5 * QUARTER);
  expect(fake.played.filter((one) => one.startsWith('chord'))).not.toContain('chord 38');
  expect(fake.played.filter((one) => one.startsWith('click'))).toHaveLength(4);
  player.stop();
});

it('lets the notes of a stroke run into each other, and a note with an accent begin loud', async () => {
  const player = createPlayer(() => undefined);
  await player.play('violin', scoreOf('(G4 A4) | B8 |]'), OPTIONS);
  turnTo(0);
  turnTo(5 * QUARTER);
  // The slurred note lasts its time and a little over it; the last of a stroke ends early.
  expect(fake.played.filter((one) => one.startsWith('strings 6')).map((one) => one.split(' at')[0])).toEqual([
    'strings 67 1040 ms',
    'strings 69 970 ms',
  ]);
  player.stop();
});

it('counts aloud where the browser can speak, and falls silent with the tune', async () => {
  const said: string[] = [];
  const cancel = vi.fn();
  vi.stubGlobal('speechSynthesis', { speak: ({ text }: { text: string }) => said.push(text), cancel });
  vi.stubGlobal(
    'SpeechSynthesisUtterance',
    class {
      rate = 1;
      constructor(readonly text: string) {}
    },
  );
  const player = createPlayer(() => undefined);
  player.setMix({ chords: false, metronome: false, aloud: true, drone: [] });
  await player.play('violin', scoreOf('G4 A4 |]'), { ...OPTIONS, countIn: 'eighths' });
  turnTo(8 * QUARTER);
  expect(said.slice(0, 4)).toEqual(['1', 'and', '2', 'and']);
  expect(said.slice(-4)).toEqual(['1', '2', '3', '4']);
  player.stop();
  expect(cancel).toHaveBeenCalled();
  vi.unstubAllGlobals();
});

it('shows each count as it falls, whether or not it is said', async () => {
  const seen: (string | null)[] = [];
  const player = createPlayer(
    () => undefined,
    (count) => seen.push(count),
  );
  await player.play('violin', scoreOf('G4 A4 |]'), { ...OPTIONS, countIn: 'beats' });
  turnTo(9 * QUARTER);
  expect(seen.filter((count) => count !== null).slice(0, 6)).toEqual(['1', '2', '3', '4', '1', '2']);
  player.stop();
  expect(seen.at(-1)).toBeNull();
});

it('plays a note with a dot short, and one with a line to its end', async () => {
  const player = createPlayer(() => undefined);
  await player.play('violin', scoreOf('.G4 !tenuto!A4 |]'), OPTIONS);
  turnTo(4 * QUARTER);
  expect(fake.played.filter((one) => one.startsWith('strings 6')).map((one) => one.split(' at')[0])).toEqual([
    'strings 67 500 ms',
    'strings 69 1000 ms',
  ]);
  player.stop();
});

it('plays notes shorter at a quicker tempo, at the same pitch', async () => {
  const player = createPlayer(() => undefined);
  await player.play('violin', scoreOf('G4 A4 |]'), OPTIONS);
  turnTo(0);
  player.setTempo(240);
  turnTo(2 * QUARTER);
  expect(fake.played.filter((one) => one.startsWith('strings 6'))).toEqual([
    'strings 67 970 ms at 0',
    `strings 69 485 ms at ${2 * QUARTER}`,
  ]);
  player.stop();
});

it('forgets a start that was stopped while it was still loading', async () => {
  const player = createPlayer(() => undefined);
  const started = player.play('violin', scoreOf('G8 |]'), OPTIONS);
  player.stop();
  await started;
  expect(fake.events).toEqual([]);
  expect(player.playing.value).toBe(false);
});

it('loads only the samples that the notes need, and others when they are needed', async () => {
  const player = createPlayer(() => undefined);
  await player.prepare('violin', [67, 69, 71]);
  // A4 stands too close to G4 to be worth its time.
  expect(fake.files).toEqual(['G4', 'C5']);
  await player.prepare('violin', [67, 76]);
  expect(fake.files).toEqual(['G4', 'C5', 'E5']);
});

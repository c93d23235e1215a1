/** Laws of the formats: what goes out comes back. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { deciding } from '../test/setups.ts';
import { arbitraryTune } from '../test/arbitrary.ts';
import { FIRST_DECISIONS } from '../arrange/index.ts';
import {
  openZip,
  packMxl,
  readAbc,
  readMusicXml,
  scoreIn,
  writeAbc,
  writeMidi,
  writeMusicXml,
} from '../formats/index.ts';
import { playedOrder, tuneSchema, type Tune, type TuneEvent } from '../music/index.ts';
import { readNokta, writeNokta } from './index.ts';
import { leadIn, playedNotes } from '../formats/midi/write.ts';
import toneMidi from '@tonejs/midi';

const RUNS = { numRuns: 150 };

/** A tune without the places where a reader found things. */
function bare(tune: Tune, change: (event: TuneEvent) => object = (event) => event): unknown {
  return {
    ...tune,
    slurs: [...tune.slurs].sort((a, b) => a.from.localeCompare(b.from)),
    bars: tune.bars.map((bar) => ({
      ...bar,
      events: bar.events.map((event) => {
        const { source: _, ...rest } = event;
        // Signs on one note have no order.
        const signs = 'decorations' in rest && { decorations: [...rest.decorations!].sort() };
        return change({ ...rest, ...signs } as TuneEvent);
      }),
    })),
  };
}

function fromAbc(text: string): Tune {
  const read = readAbc(text);
  if (!read.ok) throw new Error(`${JSON.stringify(read.problems)}\n${text}`);
  return read.value.tune;
}

function fromXml(text: string): Tune {
  const read = readMusicXml(text);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.value.tune;
}

describe('tune → ABC → tune', () => {
  it('keeps everything', () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        // Where no line end is marked, the writer breaks the lines itself.
        const noLineEnds = (event: TuneEvent) => {
          if (event.kind === 'rest') return event;
          const { lineEnd: _, ...rest } = event;
          return rest;
        };
        expect(bare(fromAbc(writeAbc(tune)), noLineEnds)).toEqual(bare(tune));
      }),
      RUNS,
    );
  });
});

describe('tune → MusicXML → tune', () => {
  it('keeps everything, ids too', () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        expect(bare(fromXml(writeMusicXml(tune)))).toEqual(bare(tune));
      }),
      RUNS,
    );
  });

  it('comes out of its archive as it went in', () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const xml = writeMusicXml(tune);
        const archive = openZip(packMxl(xml));
        expect(archive.ok && scoreIn(archive.value)).toMatchObject({ ok: true, value: xml });
      }),
      { numRuns: 10 },
    );
  });

  it('keeps the melody of a transposing part, and of one with a tablature staff', () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const strings = ['E1', 'A1', 'D2', 'G2'].map((name) => ({
          letter: name[0] as 'E',
          alter: 0 as const,
          octave: Number(name[1]),
        }));
        const xml = writeMusicXml(tune, { writtenOctave: 1, tabStrings: strings, scordatura: strings });
        expect(bare(fromXml(xml))).toEqual(bare(tune));
      }),
      { numRuns: 40 },
    );
  });
});

describe('tune → Nokta file → tune', () => {
  it('keeps everything, decisions too', () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const contents = {
          tune,
          arrangements: [FIRST_DECISIONS, deciding({ instrument: 'cello', transpose: -12 })],
          tags: ['supper'],
          versions: [{ name: 'First try', madeAt: '2026-03-01T10:00:00Z', tune }],
        };
        const read = readNokta(writeNokta(contents));
        expect(read).toEqual({ ok: true, value: JSON.parse(JSON.stringify(contents)), notices: [] });
      }),
      { numRuns: 50 },
    );
  });

  it('takes every sound tune and refuses broken ones', () => {
    fc.assert(
      fc.property(arbitraryTune(), fc.nat(), (tune, pick) => {
        expect(tuneSchema.safeParse(tune).success).toBe(true);
        const at = pick % tune.bars.length;
        const broken = tune.bars.map((bar, index) => (index === at ? { ...bar, length: bar.length + 1 } : bar));
        expect(tuneSchema.safeParse({ ...tune, bars: broken }).success).toBe(false);
      }),
      { numRuns: 50 },
    );
  });
});

describe('tune → MIDI', () => {
  it('keeps every sounding pitch and time, repeats unfolded', () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => {
        const file = new toneMidi.Midi(writeMidi(tune));
        const heard = (file.tracks[0]?.notes ?? []).map(({ midi: number, ticks, durationTicks }) =>
          [ticks, number, durationTicks].join(' '),
        );
        const meant = playedNotes(tune).flatMap(({ pitches, onset, duration }) =>
          // A pickup comes after the silence that fills its bar.
          pitches.map((number) => [leadIn(tune) + onset, number, duration].join(' ')),
        );
        expect([...heard].sort()).toEqual([...meant].sort());
        const length = playedOrder(tune.bars).reduce((sum, { index }) => sum + tune.bars[index]!.length, 0);
        const end = Math.max(0, ...playedNotes(tune).map(({ onset, duration }) => onset + duration));
        expect(end).toBeLessThanOrEqual(length);
      }),
      RUNS,
    );
  });
});

/** The talk-through read back: every number, name, string and bar in it is the arrangement's. */
import { readFileSync, readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { FIRST_DECISIONS, arrange, bestOctave, decided, type Arrangement } from '../arrange/index.ts';
import { readAbc } from '../formats/index.ts';
import { barNumbers, type Tune } from '../music/index.ts';
import { INSTRUMENTS } from '../instrument/index.ts';
import { arbitraryTune } from '../test/arbitrary.ts';
import { expectToldTruly } from '../test/talkTruth.ts';
import { tuneOf } from '../test/testing.ts';
import { NAMINGS, USUAL_NAMES } from '../paper/index.ts';
import { noteName } from '../words/index.ts';
import { PICKUP, USUAL_TALK, VOICES, digestOf, talkFacts, talkThrough, type TalkOptions } from './index.ts';

const TUNES = new URL('../../../server/src/demo/tunes/', import.meta.url);
const demo: readonly (readonly [string, Tune])[] = readdirSync(TUNES).map((file) => {
  const read = readAbc(readFileSync(new URL(file, TUNES), 'utf8'));
  if (!read.ok) throw new Error(file);
  return [file.replace(/\.abc$/, ''), read.value.tune];
});

function setFor(tune: Tune, instrument: (typeof INSTRUMENTS)[number], more = {}): Arrangement {
  const decisions = decided(FIRST_DECISIONS, { key: { instrument }, ...more });
  return arrange(tune, decided(decisions, { key: { transpose: bestOctave(tune, decisions) } }));
}

/** What is to be minded is there in every bar that is named. */
function expectWatched(arrangement: Arrangement): void {
  const numbers = barNumbers(arrangement.tune.bars);
  for (const { phrase, watch } of talkFacts(arrangement)) {
    const own = new Set(phrase.notes);
    const notes = arrangement.fingering.notes.filter(({ of, grace }) => own.has(of) && !grace);
    for (const watched of watch) {
      for (const bar of watched.bars) {
        const there = notes.filter((note) =>
          bar === PICKUP
            ? note.onset < phrase.downbeat
            : note.onset >= phrase.downbeat && numbers[note.barIndex] === bar,
        );
        const { kind, note } = watched;
        const is = there.some((one) => {
          if (kind === 'sign') {
            const { finger, sign, string } = watched.stop;
            return one.stops.some((stop) => stop.finger === finger && stop.sign === sign && stop.string === string);
          }
          const same = JSON.stringify(one.pitches) === JSON.stringify(note.pitches);
          if (kind === 'long') return same && one.duration === note.duration;
          return (
            same &&
            (kind === 'shift'
              ? one.shift !== null
              : kind === 'hop'
                ? one.hop
                : kind === 'extension'
                  ? one.extension
                  : true)
          );
        });
        expect(is).toBe(true);
      }
    }
  }
}

describe('the talk-through', () => {
  describe.each(INSTRUMENTS)('for the %s', (instrument) => {
    it.each(demo)('tells the truth of %s', (_, tune) => {
      const arrangement = setFor(tune, instrument);
      expectToldTruly(arrangement);
      expectWatched(arrangement);
    });
  });

  // Versions are read back where they are made: arrange/versions.test.ts.
  it('tells it of any tune', () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => expectToldTruly(arrange(tune))),
      { numRuns: 60 },
    );
  });

  it.each([
    ['sign-first', 'low 2 on the A string'],
    ['finger-first', '2 low on the A string'],
    ['letter', 'L2 on the A string'],
  ] as const)('says fingers in the order that is wished: %s', (fingers, said) => {
    const tune = arrange(tuneOf('c4 d4 | c8 |', { key: 'G' }));
    const [first] = talkThrough(tune, { voice: 'fingers', short: false, names: { ...USUAL_NAMES, fingers } });
    expect(first!.text).toContain(said);
  });

  it('names the notes in each naming, in their order', () => {
    const arrangement = arrange(tuneOf('^F2 _B2 c4 | d8 |', { key: 'C' }));
    for (const naming of NAMINGS) {
      const [first] = talkThrough(arrangement, {
        voice: 'names',
        short: false,
        names: { ...USUAL_NAMES, notes: naming },
      });
      const told = [...first!.text.matchAll(/(?:Pickup|Bar \d+): ([^.]*)\./g)].flatMap(([, said]) => said!.split(' '));
      expect(told).toEqual(arrangement.fingering.notes.map(({ pitches }) => noteName(pitches[0]!, naming)));
    }
  });

  it('is short where it is wished so, and no two phrases in a row begin alike', () => {
    const arrangement = arrange(demo.find(([name]) => name === 'salt-on-the-sill')![1]);
    const full = talkThrough(arrangement);
    const short = talkThrough(arrangement, { ...USUAL_TALK, short: true });
    short.forEach(({ text }, index) => expect(text.length).toBeLessThan(full[index]!.text.length));
    const begins = full.map(({ text }) => text.slice(0, 12));
    begins.slice(1).forEach((begin, index) => expect(begin).not.toBe(begins[index]));
  });

  it('speaks in voices that differ, and says the same twice', () => {
    const arrangement = arrange(demo[0]![1]);
    const said = VOICES.map(
      (voice) => talkThrough(arrangement, { ...USUAL_TALK, voice } satisfies TalkOptions)[0]!.text,
    );
    expect(new Set(said).size).toBe(3);
    expect(talkThrough(arrangement)).toEqual(talkThrough(arrangement));
  });

  it('has a digest that changes with fingers, bows and notes, and with nothing else', () => {
    const tune = demo[0]![1];
    const digests = (more: Parameters<typeof decided>[1]) =>
      talkFacts(arrange(tune, decided(FIRST_DECISIONS, more))).map(digestOf);
    expect(digests({ pace: { tempo: 61 } })).toEqual(digests({}));
    expect(digests({ bow: { start: 'up' } })).not.toEqual(digests({}));
    expect(digests({ key: { transpose: 2 } })).not.toEqual(digests({}));
  });
});

/** The talk-through read back: every number, name, string and bar in it is the arrangement's. */
import { readFileSync, readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { FIRST_DECISIONS, arrange, bestOctave, decided, type Arrangement } from '../arrange/index.ts';
import { readAbc } from '../formats/index.ts';
import { phrasesOf } from '../form/index.ts';
import { barNumbers, type Tune } from '../music/index.ts';
import { INSTRUMENTS } from '../instrument/index.ts';
import { arbitraryTune } from '../test/arbitrary.ts';
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

/** What is heard, bar by bar, in a text of finger numbers: string, sign, finger. */
function fingersIn(text: string): ReadonlyMap<string, readonly string[]> {
  let string = '';
  const found = new Map<string, readonly string[]>();
  for (const [, bar, said] of text.matchAll(/(Pickup|Bar \d+): ([^.]*)\./g)) {
    const heard: string[] = [];
    for (const run of said!.split(/; /)) {
      if (/ with | and |out of reach/.test(run) || /\d on the/.test(run)) {
        heard.push(run);
        string = '';
        continue;
      }
      const named = /^on the (\S+) string (.*)$/.exec(run);
      if (named) string = named[1]!;
      const rest = named ? named[2]! : run;
      for (const [one] of rest.matchAll(/(low |high )?\d/g)) heard.push(`${string} ${one}`);
    }
    found.set(bar!, [...(found.get(bar!) ?? []), ...heard]);
  }
  return found;
}

function expectTrue(arrangement: Arrangement): void {
  const strings = arrangement.instrument.strings.map(({ name }) => name);
  const numbers = barNumbers(arrangement.tune.bars);
  const texts = talkThrough(arrangement, { ...USUAL_TALK, voice: 'fingers' });
  phrasesOf(arrangement.form).forEach((phrase, index) => {
    const { text, label } = texts[index]!;
    expect(label).toBe(phrase.label);
    const own = new Set(phrase.notes);
    const notes = arrangement.fingering.notes.filter(({ of, grace }) => own.has(of) && !grace);
    const told = fingersIn(text);
    if (told.size > 0) {
      const expected = new Map<string, string[]>();
      for (const { onset, barIndex, stops } of notes) {
        const bar = onset < phrase.downbeat ? 'Pickup' : `Bar ${numbers[barIndex]}`;
        const [stop] = stops;
        const one =
          stops.length === 1
            ? `${strings[stop!.string]} ${stop!.sign === 'low' || stop!.sign === 'high' ? `${stop!.sign} ` : ''}${stop!.finger}`
            : '*';
        expected.set(bar, [...(expected.get(bar) ?? []), one]);
      }
      expect([...told.keys()]).toEqual([...expected.keys()]);
      for (const [bar, ones] of expected) {
        const heard = told.get(bar)!;
        expect(heard.filter((one) => /^\S+ (low |high )?\d$/.test(one))).toEqual(ones.filter((one) => one !== '*'));
      }
    }
    // A pickup is one only where something sounds in it.
    const leadsIn = /(The pickup is|It leads in with|The pickup comes on) /.test(text);
    if (notes.length > 0) expect(leadsIn).toBe(notes[0]!.onset < phrase.downbeat);
    // Where it starts and ends, and with which bow.
    const bow = arrangement.bowing.phrases.find(({ id }) => id === phrase.id);
    if (notes.length > 0 && bow) {
      const where = ({ stops }: (typeof notes)[number]) =>
        stops.length === 1
          ? stops[0]!.finger === 0
            ? `the open ${strings[stops[0]!.string]}`
            : `${stops[0]!.finger} on the ${strings[stops[0]!.string]} string`
          : '';
      expect(text).toContain(`${where(notes[0]!)}, ${bow.startsWith} bow.`);
      expect(text).toContain(`${where(notes.at(-1)!)}, ${bow.endsWith} bow`);
    }
    // The same is said only of what is the same.
    const again = /^(\S+) again: the same notes, (the same fingers|but look)/.exec(text);
    if (again) {
      const root = phrasesOf(arrangement.form).find((one) => one.label === again[1])!;
      const sounds = (ids: readonly string[]) =>
        arrangement.fingering.notes
          .filter(({ of, grace }) => ids.includes(of) && !grace)
          .map(({ pitches, duration, stops }) => [
            pitches,
            duration,
            again[2] === 'the same fingers' ? stops.map(({ finger, string }) => [finger, string]) : null,
          ]);
      expect(sounds(phrase.notes)).toEqual(sounds(root.notes));
    }
  });
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
      expectTrue(arrangement);
      expectWatched(arrangement);
    });
  });

  it('tells it of versions', () => {
    for (const grade of [1, 3] as const) {
      for (const [, tune] of demo) expectTrue(setFor(tune, 'violin', { version: { grade } }));
    }
  });

  it('tells it of any tune', () => {
    fc.assert(
      fc.property(arbitraryTune(), (tune) => expectTrue(arrange(tune))),
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

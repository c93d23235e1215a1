/** The talk-through read back: every number, name, string and bar in it is the arrangement's. */
import { expect } from 'vitest';
import type { Arrangement } from '../arrange/index.ts';
import { phrasesOf } from '../form/index.ts';
import { barNumbers } from '../music/index.ts';
import { USUAL_TALK, talkThrough } from '../talk/index.ts';

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

export function expectToldTruly(arrangement: Arrangement): void {
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

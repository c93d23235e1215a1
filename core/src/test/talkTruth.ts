/** The talk-through read back: every number, name, string and bar in it is the arrangement's. */
import { expect } from 'vitest';
import type { Arrangement } from '../arrange/index.ts';
import { phrasesOf } from '../form/index.ts';
import type { Stop } from '../hand/index.ts';
import { barNumbers } from '../music/index.ts';
import { USUAL_TALK, talkThrough } from '../talk/index.ts';

/** What is heard, bar by bar, in a text of finger numbers: string, sign, finger; of a bar that is as another one, its number. */
function fingersIn(text: string): ReadonlyMap<string, readonly string[] | number> {
  let string = '';
  const found = new Map<string, readonly string[] | number>();
  for (const [, first, to, last, as, bar, said] of text.matchAll(
    /^Bars? (\d+)(?: (and|to) (\d+))?: as bars? (\d+)|^(Pickup|Bar \d+): ([^.]*)\./gm,
  )) {
    if (as !== undefined) {
      const count = to === undefined ? 1 : Number(last) - Number(first) + 1;
      for (let more = 0; more < count; more += 1) found.set(`Bar ${Number(first) + more}`, Number(as) + more);
      string = '';
      continue;
    }
    const heard: string[] = [];
    for (const run of said!.split(/; /)) {
      if (/ with | and |leave out/.test(run) || /\d on the/.test(run)) {
        heard.push(run);
        string = '';
        continue;
      }
      const named = /^(\S+) string: (.*)$/.exec(run);
      if (named) string = named[1]!;
      const rest = (named ? named[2]! : run).split(', ').filter((one) => !/grace/.test(one));
      for (const [one] of rest.join(', ').matchAll(/(low |high )?\d/g)) heard.push(`${string} ${one}`);
    }
    found.set(bar!, [...((found.get(bar!) as readonly string[] | undefined) ?? []), ...heard]);
  }
  return found;
}

export function expectToldTruly(arrangement: Arrangement): void {
  const strings = arrangement.instrument.strings.map(({ name }) => name);
  const numbers = barNumbers(arrangement.tune.bars);
  const texts = talkThrough(arrangement, { ...USUAL_TALK, voice: 'fingers' });
  const oneOf = ({ stops }: { readonly stops: readonly Pick<Stop, 'string' | 'sign' | 'finger'>[] }): string => {
    const [stop] = stops;
    const sign = stop?.sign === 'low' || stop?.sign === 'high' ? `${stop.sign} ` : '';
    return stops.length === 1 ? `${strings[stop!.string]} ${sign}${stop!.finger}` : '*';
  };
  const everywhere = new Map<number, string[]>();
  for (const note of arrangement.fingering.notes) {
    const bar = numbers[note.barIndex]!;
    if (!note.grace) everywhere.set(bar, [...(everywhere.get(bar) ?? []), oneOf(note)]);
  }
  phrasesOf(arrangement.form).forEach((phrase, index) => {
    const { text, label } = texts[index]!;
    expect(label).toBe(phrase.label);
    const own = new Set(phrase.notes);
    const notes = arrangement.fingering.notes.filter(({ of, grace }) => own.has(of) && !grace);
    const told = fingersIn(text);
    if (told.size > 0) {
      const expected = new Map<string, string[]>();
      for (const note of notes) {
        const bar = note.onset < phrase.downbeat ? 'Pickup' : `Bar ${numbers[note.barIndex]}`;
        expected.set(bar, [...(expected.get(bar) ?? []), oneOf(note)]);
      }
      expect([...told.keys()]).toEqual([...expected.keys()]);
      for (const [bar, ones] of expected) {
        const heard = told.get(bar)!;
        // A bar that is as another one is so note by note.
        if (typeof heard === 'number') {
          expect(ones).toEqual(everywhere.get(heard));
          continue;
        }
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
      expect(text).toMatch(new RegExp(`${where(notes[0]!)}(, in [^,.]*)?, ${bow.startsWith} bow\\.`));
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

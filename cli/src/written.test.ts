import { readFile, readdir } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { XMLParser } from 'fast-xml-parser';
import { describe, expect, it } from 'vitest';
import { INSTRUMENTS, type InstrumentId } from '@nokta/core/instrument';
import { TUNES, nokta, usesFolder } from './test/nokta.ts';

const names = (await readdir(TUNES)).filter((name) => name.endsWith('.abc'));
const folder = usesFolder();

async function said(...args: readonly string[]): Promise<string> {
  const { code, out } = await nokta(...args);
  expect(code, args.join(' ')).toBe(0);
  return out;
}

/** A head with its pitch as it is written, finger and string: a reader of its own, that knows nothing of Nokta's. */
interface Read {
  readonly pitch: string;
  readonly finger: string;
  readonly string: string;
}
interface XmlNote {
  readonly pitch?: { readonly step: string; readonly alter?: string; readonly octave: string };
  readonly tie?: readonly { readonly '@type': string }[];
  readonly notations?: readonly {
    readonly technical?: readonly { readonly fingering?: string; readonly string?: string }[];
  }[];
}
interface XmlMeasure {
  readonly note?: readonly XmlNote[];
  readonly attributes?: readonly { readonly transpose?: { readonly 'octave-change'?: string } }[];
}

function readXml(text: string): readonly Read[] {
  const arrays = new Set(['measure', 'note', 'tie', 'notations', 'technical', 'attributes', 'part']);
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: '@',
    parseTagValue: false,
    isArray: (name) => arrays.has(name),
  });
  const root = parser.parse(text) as {
    'score-partwise': { part: readonly { readonly measure: readonly XmlMeasure[] }[] };
  };
  const [part] = root['score-partwise'].part;
  let octaves = 0;
  return part!.measure.flatMap(({ note = [], attributes = [] }) => {
    for (const { transpose } of attributes) if (transpose) octaves = Number(transpose['octave-change'] ?? 0);
    return note.flatMap((one): Read[] => {
      // What a tie holds has no finger of its own.
      if (!one.pitch || one.tie?.some((tie) => tie['@type'] === 'stop')) return [];
      const { step, alter = '0', octave } = one.pitch;
      const sign = { '-2': 'bb', '-1': 'b', '0': '', '1': '#', '2': '##' }[alter] ?? '?';
      const technical = (one.notations ?? []).flatMap((notation) => notation.technical ?? []);
      const told = (name: 'fingering' | 'string') => technical.flatMap((sign_) => sign_[name] ?? [])[0] ?? '';
      return [
        { pitch: `${step}${sign}${Number(octave) + octaves}`, finger: told('fingering'), string: told('string') },
      ];
    });
  });
}

interface Fingered {
  readonly notes: readonly {
    readonly pitches: readonly string[];
    readonly stops: readonly { readonly finger: number; readonly string: string }[];
  }[];
}

/** Strings of each instrument, the first the highest, as they are numbered on paper. */
const NUMBERS: Readonly<Record<InstrumentId, string>> = { violin: 'EADG', viola: 'ADGC', cello: 'ADGC', bass: 'GDAE' };

describe('what convert writes is what finger says', () => {
  const cases = names.flatMap((name, number) =>
    INSTRUMENTS.map((instrument, place) => [name, instrument, (number + place) % 5] as const),
  );
  it.each(cases)('%s, %s, grade %i (0 is the tune)', async (name, instrument, grade) => {
    const out = join(folder.directory, `${basename(name, '.abc')}-${instrument}.musicxml`);
    const options = ['--instrument', instrument, ...(grade === 0 ? [] : ['--grade', String(grade)])];
    await said('convert', join(TUNES, name), '-o', out, ...options);
    const told = JSON.parse(await said('finger', join(TUNES, name), '--json', ...options)) as Fingered;
    const wanted = told.notes.flatMap(({ pitches, stops }) =>
      pitches.map((pitch, at): Read => {
        // What cannot be reached has no finger, and stays.
        const stop = stops[at];
        return {
          pitch,
          finger: stop ? String(stop.finger) : '',
          string: stop ? String(NUMBERS[instrument].indexOf(stop.string[0]!) + 1) : '',
        };
      }),
    );
    expect(wanted.length).toBeGreaterThan(0);
    expect(readXml(await readFile(out, 'utf8'))).toEqual(wanted);
  });
});

import { strToU8, zipSync } from 'fflate';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange } from '../arrange/index.ts';
import { analyseForm, namePhrase, orderPhrases, phrasesOf, splitPhrase } from '../form/index.ts';
import { placedNotes } from '../music/index.ts';
import { tuneOf } from '../test/testing.ts';
import {
  ENDINGS,
  endingOf,
  instrumentNamed,
  openFile,
  openText,
  readNokta,
  saveArrangement,
  writeNokta,
} from './index.ts';

const ABC = 'X:1\nT:Café Löwe\nM:4/4\nL:1/8\nK:D\nd4 A4 |]\n';
const ARRANGEMENT = arrange(tuneOf('G2BG dGBG | ABcA G4 |]', { key: 'G' }), FIRST_DECISIONS);
const CONTENTS = { tune: ARRANGEMENT.tune, arrangements: [FIRST_DECISIONS], tags: [], versions: [] };

const latin1 = (text: string) => Uint8Array.from(text, (sign) => sign.charCodeAt(0));
function utf16(text: string, little: boolean, mark: boolean): Uint8Array {
  const codes = [...(mark ? [0xfeff] : []), ...Array.from(text, (sign) => sign.charCodeAt(0))];
  return Uint8Array.from(codes.flatMap((code) => (little ? [code & 255, code >> 8] : [code >> 8, code & 255])));
}

describe('encodings', () => {
  it.each([
    ['UTF-8', new TextEncoder().encode(ABC)],
    ['UTF-8 with a mark', new TextEncoder().encode(`\uFEFF${ABC}`)],
    ['Latin-1', latin1(ABC)],
    ['UTF-16 little end first', utf16(ABC, true, true)],
    ['UTF-16 big end first', utf16(ABC, false, true)],
    ['UTF-16 without a mark', utf16(ABC, true, false)],
  ])('%s', (_, bytes) => {
    const opened = openFile(bytes, 'tune.abc');
    expect(opened.ok && opened.value.tunes).toEqual([{ number: 1, title: 'Café Löwe' }]);
  });
});

describe('every format that is written is read', () => {
  it.each(ENDINGS)('%s', (ending) => {
    const saved = saveArrangement(ARRANGEMENT, ending, CONTENTS);
    const bytes = typeof saved === 'string' ? new TextEncoder().encode(saved) : saved;
    // The name says nothing: what counts is inside.
    const opened = openFile(bytes, ending === 'mxl' ? 'x.mxl' : 'x');
    const read = opened.ok ? opened.value.read() : opened;
    expect(read.ok && placedNotes(read.value.tune).length).toBe(placedNotes(ARRANGEMENT.tune).length);
    expect(endingOf(`a.b.${ending.toUpperCase()}`)).toBe(ending);
  });

  it('the Nokta file with its decisions', () => {
    const saved = saveArrangement(ARRANGEMENT, 'nokta.json', CONTENTS) as string;
    const opened = openText(saved);
    const read = opened.ok ? opened.value.read() : opened;
    expect(read.ok && read.value.arrangements).toEqual([FIRST_DECISIONS]);
  });
});

describe('archives', () => {
  it('are books of whatever they hold', () => {
    const zip = zipSync({
      'b.abc': strToU8(ABC),
      'a/lamp_oil.musicxml': strToU8('<score/>'),
      'read me.txt': strToU8('no'),
    });
    const opened = openFile(zip, 'tunes.zip');
    expect(opened.ok && opened.value.tunes.map(({ title }) => title)).toEqual(['Lamp oil', 'B']);
    expect(opened.ok && opened.value.read({ tune: 2 }).ok).toBe(true);
    expect(opened.ok && opened.value.read({ tune: 1 }).ok).toBe(false);
  });

  it('that unpack to far more than music are not opened', () => {
    const zip = zipSync({ 'a.abc': new Uint8Array(2_000_000) });
    /** The same archive, whose list of contents says another size. */
    const saying = (size: number) => {
      const said = zip.slice();
      const view = new DataView(said.buffer);
      for (let at = 0; at < said.length - 30; at += 1) {
        if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 24, size, true);
      }
      return said;
    };
    expect(openFile(saying(60_000_000), 'a.zip')).toMatchObject({ ok: true });
    expect(openFile(saying(60_000_001), 'a.zip')).toMatchObject({ ok: false });
    // An archive that lies about its size gets no more room than it asked for.
    const opened = openFile(saying(100), 'a.zip');
    expect(opened.ok && opened.value.read().ok).toBe(false);
  });
});

describe('hostile files', () => {
  const good = ENDINGS.map((ending) => {
    const saved = saveArrangement(ARRANGEMENT, ending, CONTENTS);
    return typeof saved === 'string' ? new TextEncoder().encode(saved) : saved;
  });

  /** Opens and reads everything; whatever comes, it is a result with a message and a remedy. */
  function survive(bytes: Uint8Array, name: string): void {
    const started = performance.now();
    const opened = openFile(bytes, name);
    const results = opened.ok
      ? opened.value.tunes.slice(0, 3).map(({ number }) => opened.value.read({ tune: number }))
      : [opened];
    for (const result of results) {
      if (result.ok) continue;
      expect(result.problems.length).toBeGreaterThan(0);
      for (const problem of result.problems.filter(({ severity }) => severity === 'error')) {
        expect(problem.message).not.toBe('');
        expect(problem.remedy, problem.message).toBeTruthy();
      }
    }
    expect(performance.now() - started).toBeLessThan(5_000);
  }

  it('cut anywhere', () => {
    fc.assert(
      fc.property(fc.constantFrom(...good), fc.double({ min: 0, max: 1, noNaN: true }), (bytes, share) => {
        survive(bytes.slice(0, Math.floor(bytes.length * share)), 'x.mxl');
      }),
      { numRuns: 150 },
    );
  });

  it('with bytes changed', () => {
    const changes = fc.array(fc.tuple(fc.nat(), fc.nat(255)), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(fc.constantFrom(...good), changes, (bytes, list) => {
        const damaged = bytes.slice();
        for (const [at, value] of list) damaged[at % damaged.length] = value;
        survive(damaged, 'x');
      }),
      { numRuns: 400 },
    );
  });

  it('of anything at all', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), (bytes) => survive(bytes, 'x')),
      { numRuns: 150 },
    );
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), (text) =>
        survive(new TextEncoder().encode(`X:1\nK:C\n${text}|`), 'x'),
      ),
      {
        numRuns: 300,
      },
    );
    for (const bytes of [
      new Uint8Array(0),
      new Uint8Array(100_000),
      latin1('{'.repeat(100_000)),
      latin1('['.repeat(50_000)),
    ]) {
      survive(bytes, 'x');
    }
  });

  it('that are long: a line of a million signs, ten thousand voices, a note of a thousand bars', () => {
    survive(latin1(`X:1\nK:C\n${'('.repeat(100_000)}`), 'x');
    survive(latin1(`X:1\nK:C\n${'A|'.repeat(20_000)}`), 'x');
    survive(latin1(`X:1\nK:C\nA9999999|B/99999999|`), 'x');
    survive(latin1(`<a>${'<b/>'.repeat(100_000)}</a>`), 'x');
  });
});

it('keeps in the Nokta file what was decided about parts and phrases', () => {
  const tune = tuneOf('G8 | A8 | B8 | c8 | d8 | c8 | B8 | A8 |]');
  const moved = splitPhrase(tune, tune.bars[1]!.events[0]!.id);
  if (!moved.ok) throw new Error(moved.why);
  const named = namePhrase(moved.tune, 0, 'The call');
  if (!named.ok) throw new Error(named.why);
  const ordered = orderPhrases(named.tune, phrasesOf(analyseForm(named.tune)).slice(1));
  const read = readNokta(writeNokta({ tune: ordered, arrangements: [], tags: [], versions: [] }));
  expect(read.ok && read.value.tune.parting).toEqual(ordered.parting);
  expect(phrasesOf(analyseForm(read.ok ? read.value.tune : tune)).map(({ label, bars }) => `${label} ${bars}`)).toEqual(
    ['The call 1', 'A2 3', 'A3 4'],
  );
});

it('hears from a part’s name what it is for', () => {
  expect(['Violoncello', 'Vla.', 'Fiddle 2', 'Double Bass', 'Bassoon', 'Voice'].map(instrumentNamed)).toEqual([
    'cello',
    'viola',
    'violin',
    'bass',
    null,
    null,
  ]);
});

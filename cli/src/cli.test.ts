import { execFile } from 'node:child_process';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { DEMO_REEL, nokta, usesFolder, type Said } from './test/nokta.ts';

const MAIN = fileURLToPath(new URL('../../scripts/nokta.mjs', import.meta.url));
const folder = usesFolder();

/** As a person runs it: a process of its own. */
function asProcess(...args: readonly string[]): Promise<Said> {
  return new Promise((resolve) => {
    execFile(process.execPath, [MAIN, ...args], (error, out, err) =>
      resolve({ code: error ? Number(error.code) : 0, out, err }),
    );
  });
}

interface FingerJson {
  readonly tuning: readonly string[];
  readonly notes: readonly {
    bar: number;
    beat: number;
    onset: number;
    stops: {
      string: string;
      stringPitch: string;
      finger: number;
      sign: string;
      symbol: string;
      position: string;
      midi: number;
    }[];
    alternatives: { extra: number; reasons: string[] }[];
  }[];
  readonly totals: { cost: number };
}

describe('nokta', () => {
  it('tells the chords under a tune, written or found', async () => {
    const found = JSON.parse((await nokta('harmony', folder.file, '--json')).out) as { from: string; symbol: string }[];
    expect(found[0]).toMatchObject({
      bar: 1,
      beat: 1,
      symbol: 'G',
      root: 'G',
      kind: 'major',
      function: 'I',
      from: 'found',
    });
    const reel = JSON.parse((await nokta('harmony', DEMO_REEL, '--json')).out) as { from: string }[];
    const left = JSON.parse((await nokta('harmony', DEMO_REEL, '--json', '--found')).out) as { from: string }[];
    expect(left.every(({ from }) => from === 'found')).toBe(true);
    expect(reel.length).toBeGreaterThan(4);
    expect((await nokta('harmony', folder.file)).out).toContain('G major, home (I)');
  });

  it('chooses the octave as the desk does, unless the pitch is said', async () => {
    const file = join(folder.directory, 'high.abc');
    await writeFile(file, 'X:1\nT:High\nM:4/4\nL:1/4\nK:D\nF,G,A,F,|\n');
    const firstNote = async (...more: string[]) => {
      const { out } = await nokta('finger', file, '--json', '--instrument', 'bass', ...more);
      return (JSON.parse(out) as { notes: { pitches: string[]; position: string }[] }).notes[0]!;
    };
    expect((await firstNote()).pitches).toEqual(['F#2']);
    expect((await firstNote('--transpose', '0')).pitches).toEqual(['F#3']);
  });

  it('prints fingers with everything the format promises', async () => {
    const { code, out } = await asProcess('finger', folder.file, '--json', '--tempo', '120');
    expect(code).toBe(0);
    const json = JSON.parse(out) as FingerJson;
    expect(json.tuning).toEqual(['G3', 'D4', 'A4', 'E5']);
    expect(json.notes[0]).toMatchObject({
      bar: 1,
      beat: 1,
      onset: 0,
      stops: [{ string: 'D', stringPitch: 'D4', finger: 4, sign: 'home', symbol: '4', position: 'I', midi: 69 }],
    });
    expect(json.notes[2]!.stops[0]).toMatchObject({ string: 'A', finger: 0 });
    expect(json.notes[0]!.alternatives[0]!.extra).toBeGreaterThanOrEqual(0);
    expect(Object.keys(json.totals)).toEqual(['cost', 'effort', 'shifts', 'crossings', 'extensions', 'blocks', 'hops']);
  });

  it('prints the form', async () => {
    const { out } = await nokta('form', folder.file, '--json');
    expect(JSON.parse(out)).toMatchObject({
      parts: [
        {
          label: 'A',
          bars: [1, 4],
          times: 2,
          phrases: [{ id: 'p1', from: { bar: 1, beat: 1 }, closing: 'closed', relation: { kind: 'new', of: null } }],
        },
      ],
      learn: { newBars: 4, totalBars: 8, inOrder: ['p1'] },
    });
  });

  it('says with words and exit code when a process is called wrongly', async () => {
    expect(await asProcess('polish', folder.file)).toMatchObject({ code: 2, out: '' });
  });

  it('reads the form out: relations with their differences, licks, motion, orders of learning', async () => {
    const reel = join(folder.directory, 'reel.abc');
    await writeFile(
      reel,
      'X:1\nT:Rope and Oil\nM:4/4\nL:1/8\nK:G\n|: G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG FDEF | G2BG dGBG | ABcA BGAB | c2ec B2dB | AFDF G4 :|\n',
    );
    const { out } = await nokta('form', reel);
    expect(out).toContain('Rope and Oil: AA, 16 bars, question and answer');
    expect(out).toContain('A2  from bar 5 beat 1, 4 bars, closed, same but ending: A1 (bar 4)');
    expect(out).toContain('bar 4: F♯ D F♯ G instead of B A G F♯ D E F♯');
    expect(out).toContain('runs up from G to C');
    expect(out).toMatch(/B G A B {2}2 beats: bar 1 beat 4, bar 2 beat 3/);
    expect(out).toContain('Learn 5 bars, play 16.\nAs it comes: A1 A2\nMost of the tune first: A1 A2');
    const json = JSON.parse((await nokta('form', reel, '--json')).out) as {
      parts: { phrases: object[] }[];
      licks: object[];
    };
    expect(json.parts[0]!.phrases[1]).toMatchObject({
      relation: {
        kind: 'same-but-ending',
        of: 'p1',
        differs: 'bar 4',
        differences: [{ own: expect.any(Array) as string[] }],
      },
    });
    expect(json.licks[0]).toMatchObject({ beats: 2, places: [{ bar: 1, beat: 4 }, { bar: 2, beat: 3 }, {}, {}] });
  });

  it('talks a tune through, in three voices', async () => {
    const said = JSON.parse((await nokta('talk', folder.file, '--voice', 'fingers', '--json')).out) as {
      phrase: string;
      text: string;
    }[];
    expect(said[0]).toMatchObject({ phrase: 'p1' });
    expect(said[0]!.text).toMatch(/^(The pickup is|Start on) .*, (up|down) bow\./);
    expect(said[0]!.text).toMatch(/\nBar 1: /);
    const short = (await nokta('talk', folder.file, '--voice', 'names', '--short')).out;
    expect(short).toMatch(/^A1: /);
    expect(short).not.toContain('Bar 1:');
  }, 60_000);

  it.each(['musicxml', 'mxl', 'mid', 'nokta.json', 'abc'])(
    'converts to %s and reads it again',
    async (ending) => {
      const out = join(folder.directory, `round.${ending}`);
      const made = await nokta('convert', folder.file, '-o', out, '--json');
      expect(made.code).toBe(0);
      expect(JSON.parse(made.out)).toMatchObject({ title: 'Tar and Twine', key: 'G major', out: `round.${ending}` });
      const again = JSON.parse((await nokta('finger', out, '--json')).out) as FingerJson;
      const first = JSON.parse((await nokta('finger', folder.file, '--json')).out) as FingerJson;
      const midis = (json: FingerJson) => json.notes.map(({ stops }) => stops[0]!.midi);
      // MIDI has no repeat signs: the tune comes back as it sounds.
      expect(midis(again)).toEqual(ending === 'mid' ? [...midis(first), ...midis(first)] : midis(first));
    },
    60_000,
  );

  it('says what MIDI cannot hold, and what endings there are', async () => {
    const midi = await nokta('convert', folder.file, '-o', join(folder.directory, 'x.mid'));
    expect(midi.err).toContain('MIDI holds sounds only');
    const other = await nokta('convert', folder.file, '-o', join(folder.directory, 'x.doc'));
    expect(other).toMatchObject({ code: 2, out: '' });
    expect(other.err).toContain('.nokta.json');
  });

  it('lays every key side by side, the easiest first', async () => {
    const { out } = await nokta('keys', folder.file, '--json');
    const keys = JSON.parse(out) as { key: string; transpose: number; fits: boolean; cost: number; effort: number }[];
    expect(Object.keys(keys[0]!)).toEqual(
      expect.arrayContaining(
        'key transpose octave fits cost effort ringing accidentals positions extensions fourth low1 high3 outOfRange words'.split(
          ' ',
        ),
      ),
    );
    expect(new Set(keys.map(({ key }) => key)).size).toBe(12);
    const [first] = keys;
    const { out: fingered } = await nokta('finger', folder.file, '--transpose', String(first!.transpose), '--json');
    const { totals } = JSON.parse(fingered) as { totals: { cost: number; effort: number } };
    expect(first).toMatchObject({ fits: true, cost: totals.cost, effort: totals.effort });
  });

  it('finds the keys of a group, with each one’s octave', async () => {
    const { out } = await nokta('keys', folder.file, '--for', 'violin,cello:2', '--json');
    const keys = JSON.parse(out) as { key: string; octaves: Record<string, { transpose: number; octave: number }> }[];
    expect(keys.length).toBeGreaterThan(0);
    expect(Object.keys(keys[0]!.octaves)).toEqual(['violin', 'cello:2']);
    expect((await nokta('keys', folder.file, '--for', 'violin,cello')).out).toContain('  cello: ');
  });

  it('refuses a tuning that is out of order, and says the way to one that is not', async () => {
    expect(await nokta('tension', '--tuning', 'D4,G3,A4,E5')).toMatchObject({ code: 2, out: '' });
    const { out } = await nokta('tension', '--tuning', 'A3,D4,A4,E5');
    expect(out).toContain('G peg: 2 semitones (200 cents) up to A3, an octave from the open A string');
  });

  it('tells the tension of a tuning', async () => {
    const { out } = await nokta('tension', '--tuning', 'A3,E4,A4,E5', '--json');
    expect(JSON.parse(out)).toMatchObject({ total: { beforeN: 221, afterN: 244.4, change: 0.106 } });
  });

  it('warns of a string that goes slack beside one that is loaded', async () => {
    const { out } = await nokta('tension', '--tuning', 'D3,E4,A4,E5', '--json');
    const { caution } = JSON.parse(out) as { caution: string };
    expect(caution).toContain('D string: This loads the string');
    expect(caution).toContain('G string: A string this slack');
  });

  it.each([
    [
      'a broken tune',
      async () => writeFile(join(folder.directory, 'torn.abc'), 'X:1\nT:Torn\nK:G\nGAB [GB |\n'),
      ['finger', 'torn.abc'],
      'torn.abc:4:9: A chord',
    ],
    ['an unknown instrument', null, ['finger', 'tune.abc', '--instrument', 'lute'], 'violin, viola, cello, bass'],
    ['an unknown command', null, ['polish', 'tune.abc'], 'There is no command'],
    ['a file that is not there', null, ['form', 'gone.abc'], 'cannot be read'],
    ['an unknown option', null, ['form', 'tune.abc', '--loud'], '--help'],
  ])('answers %s with code 2, words on standard error and nothing else', async (_, prepare, args, words) => {
    await prepare?.();
    const paths = args.map((arg) => (arg.endsWith('.abc') ? join(folder.directory, arg) : arg));
    const { code, out, err } = await nokta(...paths);
    expect(code).toBe(2);
    expect(out).toBe('');
    expect(err).toContain(words);
  });

  describe('bow', () => {
    interface BowJson {
      readonly school: string;
      readonly pattern: string | null;
      readonly hairMm: number;
      readonly strokes: readonly Record<string, unknown>[];
      readonly drift: readonly unknown[];
      readonly phrases: readonly Record<string, unknown>[];
      readonly flags: readonly { readonly kind: string; readonly message: string }[];
      readonly exceptions: readonly { readonly reason: string; readonly kind: string }[];
      readonly alternatives: readonly Record<string, unknown>[];
    }
    const bow = async (...args: readonly string[]) =>
      JSON.parse((await nokta('bow', folder.file, '--json', ...args)).out) as BowJson;

    it('prints every stroke with its place on the hair, phrases, and what else could be done', async () => {
      const json = await bow('--tempo', '120');
      expect(json).toMatchObject({ school: 'as-it-comes', pattern: null, hairMm: 650 });
      expect(json.strokes).toHaveLength(54);
      expect(json.drift).toHaveLength(54);
      expect(json.strokes[0]).toMatchObject({
        notes: ['n1'],
        bar: 1,
        beat: 1,
        time: 1,
        onset: 0,
        duration: 0.5,
        direction: 'down',
        retake: false,
        hook: false,
        crossings: 0,
        naturalMm: 83.2,
      });
      expect(Object.keys(json.strokes[0]!)).toEqual(
        expect.arrayContaining(['lengthMm', 'startMm', 'endMm', 'speed', 'strain']),
      );
      expect(json.phrases[0]).toMatchObject({ label: 'A1', startsWith: 'down', endsWith: 'down' });
      expect(json.alternatives[0]).toMatchObject({ at: 'n1', change: 'up', reasons: ['one more lift'] });
    });

    it('takes school, pattern, start, limit and the tune’s slurs', async () => {
      const patterned = await bow('--pattern', 'one-and-three', '--start', 'up', '--school', 'down-on-the-beat');
      expect(patterned).toMatchObject({ school: 'down-on-the-beat', pattern: 'one-and-three' });
      expect(patterned.strokes[0]).toMatchObject({ direction: 'up' });
      const cut = await bow('--pattern', 'four-to-a-bow', '--max-slur', '2');
      expect(cut.strokes.every(({ notes }) => (notes as string[]).length <= 2)).toBe(true);
      expect(cut.exceptions[0]).toMatchObject({
        kind: 'limit',
        reason: 'More notes than a stroke may have: shared out.',
      });
      expect((await bow('--pattern', 'two-and-one')).exceptions[0]).toMatchObject({ kind: 'metre', bar: 1, beat: 1 });
    });

    it('reads as text, and refuses what it does not know', async () => {
      const { out } = await nokta('bow', folder.file);
      expect(out).toContain('A1  d u d u');
      expect(out).toContain('Hair 650 mm.');
      const { code, err } = await nokta('bow', folder.file, '--pattern', 'zigzag');
      expect(code).toBe(2);
      expect(err).toContain('--pattern zigzag is not known. Use one of separate, pairs');
      expect((await nokta('bow', folder.file, '--max-slur', '0')).code).toBe(2);
    });
  });
});

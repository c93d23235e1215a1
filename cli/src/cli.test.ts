import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { openZip } from '@nokta/core/formats';
import { run } from './run.ts';

const MAIN = fileURLToPath(new URL('../../scripts/nokta.mjs', import.meta.url));
const ABC = 'X:1\nT:Tar and Twine\nM:4/4\nL:1/8\nK:G\n|: AGAB dGBG | ABcA BGAB | c2ec B2dB | ABAG G4 :|\n';
const DEMO_REEL = fileURLToPath(new URL('../../server/src/demo/tunes/lamplighters-ladder.abc', import.meta.url));
let directory = '';
let file = '';

beforeAll(async () => {
  directory = await mkdtemp(join(tmpdir(), 'nokta-cli-'));
  file = join(directory, 'tune.abc');
  await writeFile(file, ABC);
});
afterAll(() => rm(directory, { recursive: true }));

interface Said {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

/** As a person runs it: a process of its own. */
function asProcess(...args: readonly string[]): Promise<Said> {
  return new Promise((resolve) => {
    execFile(process.execPath, [MAIN, ...args], (error, out, err) =>
      resolve({ code: error ? Number(error.code) : 0, out, err }),
    );
  });
}

/** The same without the process, which takes most of the time. */
async function nokta(...args: readonly string[]): Promise<Said> {
  const lines = (spy: { readonly mock: { readonly calls: readonly unknown[][] } }) =>
    spy.mock.calls.map(([text]) => `${String(text)}\n`).join('');
  const out = vi.spyOn(console, 'log').mockImplementation(() => undefined);
  const err = vi.spyOn(console, 'error').mockImplementation(() => undefined);
  try {
    const code = await run(args);
    return { code, out: lines(out), err: lines(err) };
  } finally {
    vi.restoreAllMocks();
  }
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
    const found = JSON.parse((await nokta('harmony', file, '--json')).out) as { from: string; symbol: string }[];
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
    expect((await nokta('harmony', file)).out).toContain('G major, home (I)');
  });

  it('chooses the octave as the desk does, unless the pitch is said', async () => {
    const file = join(directory, 'high.abc');
    await writeFile(file, 'X:1\nT:High\nM:4/4\nL:1/4\nK:D\nF,G,A,F,|\n');
    const firstNote = async (...more: string[]) => {
      const { out } = await nokta('finger', file, '--json', '--instrument', 'bass', ...more);
      return (JSON.parse(out) as { notes: { pitches: string[]; position: string }[] }).notes[0]!;
    };
    expect((await firstNote()).pitches).toEqual(['F#2']);
    expect((await firstNote('--transpose', '0')).pitches).toEqual(['F#3']);
  });

  it('prints fingers with everything the format promises', async () => {
    const { code, out } = await asProcess('finger', file, '--json', '--tempo', '120');
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
    const { out } = await nokta('form', file, '--json');
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
    expect(await asProcess('polish', file)).toMatchObject({ code: 2, out: '' });
  });

  it('reads the form out: relations with their differences, licks, motion, orders of learning', async () => {
    const reel = join(directory, 'reel.abc');
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

  it('converts, and makes a sheet on either paper', async () => {
    const xml = join(directory, 'out.musicxml');
    expect((await nokta('convert', file, '-o', xml, '--transpose', '-5')).code).toBe(0);
    expect(await readFile(xml, 'utf8')).toContain('<fifths>2</fifths>');
    const pdf = join(directory, 'out.pdf');
    const made = await nokta('sheet', file, '-o', pdf, '--paper', 'letter');
    expect(made.out).toContain('1 Letter page');
    expect((await readFile(pdf)).subarray(0, 5).toString()).toBe('%PDF-');
    const svg = join(directory, 'out.svg');
    await nokta('sheet', file, '-o', svg, '--bare', '--instrument', 'viola', '--transpose', '-7');
    expect(await readFile(svg, 'utf8')).toContain('bare version');
  }, 60_000);

  it('lays a sheet out as it is wished', async () => {
    const svg = join(directory, 'tab.svg');
    await nokta(
      'sheet',
      file,
      '-o',
      svg,
      '--layout',
      'tab',
      '--lanes',
      'tab,names',
      '--names',
      'german',
      '--landscape',
    );
    const page = await readFile(svg, 'utf8');
    expect(page).toContain('width="841.89"');
    // Without the staff its metre is said; B is H.
    expect(page).toContain('4/4');
    expect(page).toMatch(/>H<\/text>/);
    const refused = await nokta('sheet', file, '-o', svg, '--lanes', 'tab,lyre');
    expect(refused).toMatchObject({ code: 2, out: '' });
    expect(refused.err).toContain('chords, counts');
  }, 60_000);

  it('prints warm-ups, how to read it, the weave and empty lines, as pictures too', async () => {
    const png = join(directory, 'pages.png');
    const made = await nokta('sheet', file, '-o', png, '--pages', 'how,warmups,weave,blank', '--fingerboard');
    expect(made.code).toBe(0);
    const first = await readFile(join(directory, 'pages-1.png'));
    expect(first.subarray(1, 4).toString()).toBe('PNG');
    const svg = join(directory, 'signs.svg');
    await nokta('sheet', file, '-o', svg, '--finger-signs', 'letters', '--turned', '--string-names', 'sound');
    expect(await readFile(svg, 'utf8')).toMatch(/>L<\/text>/);
    const refused = await nokta('sheet', file, '-o', svg, '--pages', 'poem');
    expect(refused.err).toContain('tune, how, warmups, weave, blank');
  }, 60_000);

  it('counts as it is asked to, or as a Nokta file decided', async () => {
    const kept = join(directory, 'counted.nokta.json');
    await nokta('convert', file, '-o', kept, '--counting', 'ta');
    const svg = join(directory, 'counted.svg');
    const said = async (...options: readonly string[]) => {
      await nokta('sheet', kept, '-o', svg, '--lanes', 'counts,bow,tab', ...options);
      const page = await readFile(svg, 'utf8');
      return ['>ti<', '>di<', '>&amp;<'].filter((text) => page.includes(text));
    };
    expect(await said('--as-decided')).toEqual(['>ti<']);
    expect(await said('--as-decided', '--counting', 'takadimi')).toEqual(['>di<']);
    expect(await said()).toEqual(['>&amp;<']);
    expect((await nokta('sheet', kept, '-o', svg, '--counting', 'drum')).err).toContain('takadimi');
  }, 60_000);

  it('packs a group’s sheets and scores, each player’s own version', async () => {
    const zip = join(directory, 'group.zip');
    const made = await nokta('sheet', file, '-o', zip, '--for', 'violin,cello:1,cello:1', '--json');
    expect(JSON.parse(made.out)).toMatchObject({ players: 3 });
    const opened = openZip(await readFile(zip));
    expect(opened.ok && [...opened.value.names].sort()).toEqual([
      'Tar and Twine - Grade 1, cello (2).musicxml',
      'Tar and Twine - Grade 1, cello (2).pdf',
      'Tar and Twine - Grade 1, cello.musicxml',
      'Tar and Twine - Grade 1, cello.pdf',
      'Tar and Twine - The tune, violin.musicxml',
      'Tar and Twine - The tune, violin.pdf',
    ]);
    expect((await nokta('sheet', file, '-o', zip)).err).toContain('--for');
    expect((await nokta('sheet', file, '-o', zip, '--for', 'lute')).code).toBe(2);
  }, 60_000);

  it('talks a tune through, in three voices', async () => {
    const said = JSON.parse((await nokta('talk', file, '--voice', 'fingers', '--json')).out) as {
      phrase: string;
      text: string;
    }[];
    expect(said[0]).toMatchObject({ phrase: 'p1' });
    expect(said[0]!.text).toMatch(/^(The pickup is|Start on) .*, (up|down) bow\./);
    expect(said[0]!.text).toMatch(/\nBar 1: /);
    const short = (await nokta('talk', file, '--voice', 'names', '--short')).out;
    expect(short).toMatch(/^A1: /);
    expect(short).not.toContain('Bar 1:');
  }, 60_000);

  it.each(['musicxml', 'mxl', 'mid', 'nokta.json', 'abc'])(
    'converts to %s and reads it again',
    async (ending) => {
      const out = join(directory, `round.${ending}`);
      const made = await nokta('convert', file, '-o', out, '--json');
      expect(made.code).toBe(0);
      expect(JSON.parse(made.out)).toMatchObject({ title: 'Tar and Twine', key: 'G major', out: `round.${ending}` });
      const again = JSON.parse((await nokta('finger', out, '--json')).out) as FingerJson;
      const first = JSON.parse((await nokta('finger', file, '--json')).out) as FingerJson;
      const midis = (json: FingerJson) => json.notes.map(({ stops }) => stops[0]!.midi);
      // MIDI has no repeat signs: the tune comes back as it sounds.
      expect(midis(again)).toEqual(ending === 'mid' ? [...midis(first), ...midis(first)] : midis(first));
    },
    60_000,
  );

  it('says what MIDI cannot hold, and what endings there are', async () => {
    const midi = await nokta('convert', file, '-o', join(directory, 'x.mid'));
    expect(midi.err).toContain('MIDI holds sounds only');
    const other = await nokta('convert', file, '-o', join(directory, 'x.doc'));
    expect(other).toMatchObject({ code: 2, out: '' });
    expect(other.err).toContain('.nokta.json');
  });

  it('lays every key side by side, the easiest first', async () => {
    const { out } = await nokta('keys', file, '--json');
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
    const { out: fingered } = await nokta('finger', file, '--transpose', String(first!.transpose), '--json');
    const { totals } = JSON.parse(fingered) as { totals: { cost: number; effort: number } };
    expect(first).toMatchObject({ fits: true, cost: totals.cost, effort: totals.effort });
  });

  it('finds the keys of a group, with each one’s octave', async () => {
    const { out } = await nokta('keys', file, '--for', 'violin,cello:2', '--json');
    const keys = JSON.parse(out) as { key: string; octaves: Record<string, { transpose: number; octave: number }> }[];
    expect(keys.length).toBeGreaterThan(0);
    expect(Object.keys(keys[0]!.octaves)).toEqual(['violin', 'cello:2']);
    expect((await nokta('keys', file, '--for', 'violin,cello')).out).toContain('  cello: ');
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
      async () => writeFile(join(directory, 'torn.abc'), 'X:1\nT:Torn\nK:G\nGAB [GB |\n'),
      ['finger', 'torn.abc'],
      'torn.abc:4:9: A chord',
    ],
    ['an unknown instrument', null, ['finger', 'tune.abc', '--instrument', 'lute'], 'violin, viola, cello, bass'],
    ['an unknown command', null, ['polish', 'tune.abc'], 'There is no command'],
    ['a file that is not there', null, ['form', 'gone.abc'], 'cannot be read'],
    ['an unknown option', null, ['form', 'tune.abc', '--loud'], '--help'],
  ])('answers %s with code 2, words on standard error and nothing else', async (_, prepare, args, words) => {
    await prepare?.();
    const paths = args.map((arg) => (arg.endsWith('.abc') ? join(directory, arg) : arg));
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
      JSON.parse((await nokta('bow', file, '--json', ...args)).out) as BowJson;

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
      const { out } = await nokta('bow', file);
      expect(out).toContain('A1  d u d u');
      expect(out).toContain('Hair 650 mm.');
      const { code, err } = await nokta('bow', file, '--pattern', 'zigzag');
      expect(code).toBe(2);
      expect(err).toContain('--pattern zigzag is not known. Use one of separate, pairs');
      expect((await nokta('bow', file, '--max-slur', '0')).code).toBe(2);
    });
  });

  it('says what a grade may ask', async () => {
    const { out } = await nokta('contract', '--instrument', 'cello', '--grade', '3', '--json');
    const json = JSON.parse(out) as { limits: Record<string, unknown>; words: string[]; name: string };
    expect(json).toMatchObject({ instrument: 'cello', grade: 3, name: 'Extensions' });
    expect(json.limits).toMatchObject({ maxSlur: 4, triplets: false, maxPosition: 'II' });
    expect(json.words).toContain('No double stops.');
    expect((await nokta('contract', '--grade', '1')).out).toContain('A bow to each note.');
    expect((await nokta('contract')).err).toContain('Say which grade');
    expect((await nokta('contract', '--grade', '7')).code).toBe(2);
  });

  it('grade makes a version, says what it changes and breaks, and writes it with fingers and bows', async () => {
    const out = join(directory, 'grade2.musicxml');
    const { out: text, code } = await nokta('grade', DEMO_REEL, '--grade', '2', '--json', '-o', out);
    expect(code).toBe(0);
    const json = JSON.parse(text) as {
      contract: { limits: { maxSlur: number } };
      breaches: unknown[];
      changes: { kind: string; direction: string; bar: number; beat: number; notes: string[]; reason: string }[];
      likeness: number;
      difficulty: { total: number; breakdown: Record<string, { share: number }> };
    };
    expect(json).toMatchObject({ grade: 2, contract: { name: 'All strings', limits: { maxSlur: 2 } }, breaches: [] });
    expect(json.changes.length).toBeGreaterThan(0);
    expect(json.changes[0]).toMatchObject({ direction: 'easier' });
    expect(json.likeness).toBeGreaterThan(0.4);
    expect(Object.values(json.difficulty.breakdown).reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 6);
    expect(await readFile(out, 'utf8')).toContain('<fingering');
    expect((await nokta('grade', DEMO_REEL)).err).toContain('Say which grade');
    expect((await nokta('grade', DEMO_REEL, '--grade', '1')).out).toContain('It fits the contract.');
    expect((await nokta('grade', DEMO_REEL, '--grade', '1', '-o', 'x.doc')).code).toBe(2);
  });

  it('grade makes a line that goes with the tune, and says what each note is to its chord', async () => {
    const { out, code } = await nokta('grade', DEMO_REEL, '--grade', '1', '--line', 'drone', '--json');
    expect(code).toBe(0);
    const json = JSON.parse(out) as {
      likeness: number | null;
      breaches: unknown[];
      line: { role: string; notes: { bar: number; beat: number; pitches: string[]; tone: string; reason: string }[] };
    };
    expect(json).toMatchObject({ likeness: null, breaches: [], line: { role: 'drone' } });
    expect(json.line.notes[0]).toMatchObject({ bar: 1, beat: 1, pitches: ['G3'], tone: 'root' });
    expect(json.line.notes[0]!.reason).toContain('G, the root of G; an octave under the tune.');
    expect((await nokta('grade', DEMO_REEL, '--grade', '2', '--line', 'bass')).out).toContain('to go with the tune');
    expect((await nokta('finger', DEMO_REEL, '--line', 'bass')).err).toContain('--line goes with --grade');
  });

  it('difficulty says by what it is difficult, phrase by phrase, and what keeps it from an easier grade', async () => {
    const { out } = await nokta('difficulty', DEMO_REEL, '--json');
    const json = JSON.parse(out) as {
      total: number;
      grade: number;
      keptFrom: string[];
      phrases: { total: number; easyTempo: number; hardest: { bar: number } }[];
    };
    expect(json.total).toBeGreaterThan(1);
    expect(json.grade).toBe(3);
    expect(json.keptFrom.length).toBeGreaterThan(0);
    const easiest = Math.min(...json.phrases.map(({ total }) => total));
    for (const { total, easyTempo } of json.phrases) expect(total === easiest || easyTempo <= 168).toBe(true);
    const slow = JSON.parse((await nokta('difficulty', DEMO_REEL, '--json', '--tempo', '60')).out) as { total: number };
    expect(slow.total).toBeLessThan(json.total);
    expect((await nokta('difficulty', DEMO_REEL)).out).toContain('Speed:');
  });
});

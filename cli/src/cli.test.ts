import { execFile } from 'node:child_process';
import { mkdtemp, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { beforeAll, describe, expect, it } from 'vitest';

const MAIN = fileURLToPath(new URL('./main.ts', import.meta.url));
const ABC = 'X:1\nT:Tar and Twine\nM:4/4\nL:1/8\nK:G\n|: AGAB dGBG | ABcA BGAB | c2ec B2dB | ABAG G4 :|\n';
let directory = '';
let file = '';

beforeAll(async () => {
  directory = await mkdtemp(join(tmpdir(), 'nokta-cli-'));
  file = join(directory, 'tune.abc');
  await writeFile(file, ABC);
});

function nokta(...args: readonly string[]): Promise<{ code: number; out: string; err: string }> {
  return new Promise((resolve) => {
    execFile(process.execPath, ['--import', 'tsx', MAIN, ...args], (error, out, err) =>
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
  it('prints fingers with everything the format promises', async () => {
    const { code, out } = await nokta('finger', file, '--json', '--tempo', '120');
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
    expect(Object.keys(json.totals)).toEqual(['cost', 'shifts', 'crossings', 'extensions', 'blocks']);
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

  it('tells the tension of a tuning', async () => {
    const { out } = await nokta('tension', '--tuning', 'A3,E4,A4,E5', '--json');
    expect(JSON.parse(out)).toMatchObject({ total: { beforeN: 221, afterN: 244.4, change: 0.106 } });
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
});

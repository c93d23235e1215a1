/** The command line as a person uses it, without a process of its own, which takes most of the time; and a folder to write into. */
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, vi } from 'vitest';
import { run } from '../run.ts';

export interface Said {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

export const ABC = 'X:1\nT:Tar and Twine\nM:4/4\nL:1/8\nK:G\n|: AGAB dGBG | ABcA BGAB | c2ec B2dB | ABAG G4 :|\n';
export const TUNES = fileURLToPath(new URL('../../../server/src/demo/tunes/', import.meta.url));
export const DEMO_REEL = join(TUNES, 'lamplighters-ladder.abc');

export async function nokta(...args: readonly string[]): Promise<Said> {
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

/** A folder for the tests of a file, with one tune in it; there once they run. */
export function usesFolder(): { readonly directory: string; readonly file: string } {
  const folder = { directory: '', file: '' };
  beforeAll(async () => {
    folder.directory = await mkdtemp(join(tmpdir(), 'nokta-cli-'));
    folder.file = join(folder.directory, 'tune.abc');
    await writeFile(folder.file, ABC);
  });
  afterAll(() => rm(folder.directory, { recursive: true }));
  return folder;
}

/** What the tests share: finding things as a person does, and the accessibility scan. */
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, expect, test as base, type BrowserContext, type Locator, type Page } from '@playwright/test';
import type { TuneList, TuneRecord } from '@nokta/api';
import { readAbc } from '@nokta/core/formats';

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

interface AxeViolation {
  readonly id: string;
  readonly impact: string | null;
  readonly nodes: readonly { readonly html: string; readonly failureSummary: string }[];
}

/**
 * One browser for all tests of a worker, with a window that stays on a desk: programs that one window has compiled
 * are there for the next of the same process, and the engraver's takes longer to compile than most tests to run.
 *
 * A test goes on in the window of the one before, as a teacher's day does from tune to tune; loading costs five times
 * what opening another tune does. It finds nothing remembered by the browser, and a window of its own where the one
 * before had failed. What is there after loading anew is asked with `page.reload()` and `page.goto()`.
 */
export const test = base.extend<object, { shared: BrowserContext }>({
  shared: [
    // oxlint-disable-next-line no-empty-pattern -- the runner reads from it what a fixture needs
    async ({}, use, { project }) => {
      const profile = mkdtempSync(join(tmpdir(), 'nokta-browser-'));
      const { baseURL, viewport, launchOptions } = project.use;
      const context = await chromium.launchPersistentContext(profile, {
        ...launchOptions,
        ...(baseURL && { baseURL }),
        ...(viewport && { viewport }),
        // Menus that fade are waited for at each choice.
        reducedMotion: 'reduce',
      });
      const [first] = context.pages();
      if (first) await openTune(first, 'Barnacle Steps');
      await use(context);
      await context.close();
      rmSync(profile, { recursive: true, force: true });
    },
    { scope: 'worker' },
  ],
  context: async ({ shared }, use) => {
    await use(shared);
    // The next test finds none of them to go on in.
    await Promise.all(deaf.splice(0).map((page) => page.close()));
  },
  page: async ({ context, baseURL, viewport }, use, info) => {
    const [first, before] = context.pages();
    // Cleared in another window, whatever the browser remembers is forgotten in the test's as well.
    await first!.evaluate(() => localStorage.clear());
    const page = before ?? (await context.newPage());
    if (!page.url().startsWith(baseURL!)) await page.goto('/');
    // What its own window remembers, as well; a window that is loaded anew finds none of it.
    await page.evaluate(() => sessionStorage.clear());
    await use(page);
    const [, ...others] = context.pages();
    const isAsItWas = info.status === info.expectedStatus && page.url().startsWith(baseURL!);
    await Promise.all(others.filter((one) => one !== page || !isAsItWas).map((one) => one.close()));
    if (!isAsItWas) return;
    // Dialogs and menus go with the view.
    await visit(page, '/workshop/tapes');
    await page.unrouteAll();
    await page.emulateMedia({ media: null, colorScheme: null, forcedColors: null, reducedMotion: 'reduce' });
    if (viewport) await page.setViewportSize(viewport);
  },
});

/** What the framework leaves on the element that it is mounted on. */
interface Mounted {
  readonly __vue_app__: {
    readonly config: { readonly globalProperties: { readonly $router: { push(to: string): unknown } } };
  };
}

/** Goes to an address of the application without loading it anew, as its own links do. */
export async function visit(page: Page, address: string): Promise<void> {
  if (page.url() === 'about:blank') {
    await page.goto(address);
    return;
  }
  await page.evaluate((to) => {
    const root = document.querySelector('#app') as unknown as Mounted;
    return root.__vue_app__.config.globalProperties.$router.push(to);
  }, address);
}

/** The library, with all tunes in it. */
export async function visitLibrary(page: Page): Promise<void> {
  await visit(page, '/');
  await expect(page.getByRole('heading', { name: 'Library' })).toBeVisible();
  const all = page.getByRole('button', { name: 'Show all' }).first();
  if (await all.isVisible()) await all.click();
}

/** Waits until what fades in has come in: the colours of what is half seen are half what they will be. */
const arrivedAll = (page: Page): Promise<void> =>
  page.evaluate(async () => {
    // A menu is placed first, and begins to appear two frames later.
    for (let frame = 0; frame < 3; frame += 1) await new Promise(requestAnimationFrame);
    const passing = document
      .getAnimations()
      .filter(({ effect }) => Number.isFinite(Number(effect?.getComputedTiming().endTime ?? 0)));
    await Promise.allSettled(passing.map(({ finished }) => finished));
  });

const SERIOUS: readonly string[] = ['serious', 'critical'];

/**
 * Fails on anything that axe finds serious or critical.
 * @param rules only these, where not all are wanted
 * @param impacts what of the rest counts too
 */
export async function expectAccessible(
  page: Page,
  rules?: readonly string[],
  impacts: readonly string[] = SERIOUS,
): Promise<void> {
  // The page's policy allows no foreign script, so the scanner comes in through the debugger.
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(AXE);
  await arrivedAll(page);
  // In forced colours the browser tells the colours that are asked for, not those that are seen.
  const isForced = await page.evaluate(() => matchMedia('(forced-colors: active)').matches);
  const violations = await page.evaluate(
    async ([runOnly, noContrast]) => {
      const { axe } = window as unknown as { axe: { run(options: object): Promise<{ violations: AxeViolation[] }> } };
      // What passes is told no more than once: describing each element of it takes longer than the rules.
      const without = noContrast ? { rules: { 'color-contrast': { enabled: false } } } : {};
      return (await axe.run({ resultTypes: ['violations'], ...(runOnly && { runOnly }), ...without })).violations;
    },
    [rules, isForced] as const,
  );
  const serious = violations.filter(({ impact }) => impacts.includes(impact ?? 'serious'));
  expect(
    serious.map(
      ({ id, nodes }) =>
        `${id}: ${nodes.map(({ html, failureSummary }) => `${html.slice(0, 160)} ${failureSummary}`).join('\n')}`,
    ),
  ).toEqual([]);
}

/** Looks a tune up in the library, whose list shows only what is in sight. */
export async function findTune(page: Page, title: string): Promise<void> {
  await visitLibrary(page);
  await page.getByRole('textbox', { name: 'Find by title' }).fill(title);
  await expect(page.getByRole('link', { name: title, exact: true })).toBeVisible();
}

/** Opens a tune of the demo at its desk, and waits until its strips are engraved. */
export async function openTune(page: Page, title: string): Promise<void> {
  const answer = await page.request.get('/api/tunes', { params: { words: title } });
  const { tunes } = (await answer.json()) as TuneList;
  await visit(page, `/tune/${tunes.find((tune) => tune.title === title)!.id}`);
  await expectEngraved(page);
}

export async function expectEngraved(page: Page): Promise<void> {
  // Waited for, not expected: each look of an expectation that finds nothing describes the whole page for its report.
  await page.getByRole('group', { name: /^Notes of phrase A1(?!\d)/ }).waitFor();
  await expect(page.getByText('Engraving…')).toHaveCount(0);
}

export async function goToPass(
  page: Page,
  name: 'Tune' | 'Parts' | 'Key' | 'Hand' | 'Bow' | 'Grades' | 'Sheet' | 'Teach',
): Promise<void> {
  const pass = page.getByRole('navigation', { name: 'Passes' }).getByRole('button', { name });
  await pass.click();
  await expect(pass).toHaveAttribute('aria-current', 'step');
}

/** What the dark theme can change. */
export const COLOURS = ['color-contrast'] as const;

/** Opens a list of choices and takes one, as the keyboard does. */
export async function choose(page: Page, list: string, option: string): Promise<void> {
  const wanted = page.getByRole('option', { name: option, exact: true });
  // On a machine that is very slow a list was seen to close again at once; whoever chooses opens it again.
  await expect(async () => {
    if (!(await wanted.isVisible())) {
      await page.getByRole('combobox', { name: list }).focus();
      await page.keyboard.press('ArrowDown');
    }
    await wanted.click({ timeout: 3_000 });
  }).toPass({ timeout: 30_000 });
}

export const saved = (page: Page): Promise<void> => page.getByText('Saved', { exact: true }).waitFor();

/** The notes of a phrase, each a button named "A4, open A, down bow". */
export const notesOf = (page: Page, phrase: string): Locator =>
  page.getByRole('group', { name: `Notes of phrase ${phrase}`, exact: true }).getByRole('button');

let made = 0;

const titleFor = () => `Trial ${process.pid} ${Date.now()} ${(made += 1)}`;
const HEADER = 'M:4/4\nL:1/8\nQ:1/4=120\nK:G';

/** A tune of the test's own, put into the library behind the scenes, and its desk opened. */
export async function seedTune(page: Page, music: string, header = HEADER): Promise<string> {
  const title = titleFor();
  const read = readAbc(`X:1\nT:${title}\n${header}\n${music}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  const answer = await page.request.post('/api/tunes', { data: { tune: read.value.tune } });
  await visit(page, `/tune/${((await answer.json()) as TuneRecord).id}`);
  // Not the strips of the tune before.
  await page.getByRole('heading', { name: title, level: 1 }).waitFor();
  await expectEngraved(page);
  return title;
}

const deaf: Page[] = [];

/** A window whose line is down: it hears nothing of what other desks do. Closed after the test. */
export async function deafWindow(context: BrowserContext): Promise<Page> {
  const page = await context.newPage();
  deaf.push(page);
  await page.addInitScript(() => delete (globalThis as { EventSource?: unknown }).EventSource);
  return page;
}

/** Brings a tune in by pasting and lands on its desk. */
export async function pasteTune(page: Page, music: string): Promise<string> {
  const title = titleFor();
  await visitLibrary(page);
  await page.getByRole('button', { name: 'Bring a tune in' }).first().click();
  await page.getByRole('textbox', { name: 'Paste ABC here' }).fill(`X:1\nT:${title}\n${HEADER}\n${music}\n`);
  await expect(page.getByRole('heading', { name: title })).toBeVisible();
  await page.getByRole('button', { name: 'Keep this tune' }).click();
  await expectEngraved(page);
  return title;
}

/** Columns of notes that are marked, by what the mark says. */
export const marked = (within: Page | Locator, says: 'sounds now' | 'pointed at' | 'other finger below'): Locator =>
  within.getByRole('img', { name: says, exact: true });

/** The note that is selected. */
export const selectedNote = (page: Page): Locator =>
  page.getByRole('main', { name: 'Phrases' }).getByRole('button', { pressed: true });

/** A second Nokta with a data folder of its own, which can be stopped and started again. */
export async function startFresh(port: number) {
  const directory = mkdtempSync(join(tmpdir(), 'nokta-fresh-'));
  const start = async () => {
    const child = spawn(process.execPath, ['server/dist/main.js'], {
      cwd: join(import.meta.dirname, '../..'),
      env: { ...process.env, PORT: String(port), NOKTA_DATA: directory },
    });
    await new Promise<void>((resolve, reject) => {
      child.stdout.on('data', (chunk: Buffer) => chunk.toString().includes('is ready') && resolve());
      child.once('exit', () => reject(new Error('It did not start')));
    });
    return child;
  };
  let child = await start();
  const stop = async (signal: 'SIGTERM' | 'SIGKILL' = 'SIGTERM') => {
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await gone;
  };
  return {
    stop,
    async again() {
      child = await start();
    },
    async remove() {
      if (child.exitCode === null && child.signalCode === null) await stop();
      rmSync(directory, { recursive: true, force: true });
    },
  };
}

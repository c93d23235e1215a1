/** Nothing is lost: not when the server stops amid edits, nor when the page is loaded again meanwhile. */
import { expect } from '@playwright/test';
import { readAbc } from '@nokta/core/formats';
import type { TuneRecord } from '@nokta/api';
import { expectAccessible, expectEngraved, notesOf, saved, startFresh, test } from './support.ts';

const ADDRESS = 'http://127.0.0.1:4189';

test('keeps every edit while the server is stopped and the page loaded again, and saves all of them', async ({
  page,
}) => {
  const read = readAbc('X:1\nT:Salt Stairs\nM:4/4\nL:1/8\nQ:1/4=120\nK:G\nAGAB AGAB | G8 |\n');
  if (!read.ok) throw new Error('unreadable');
  const fresh = await startFresh(4189);
  try {
    const made = await page.request.post(`${ADDRESS}/api/tunes`, { data: { tune: read.value.tune } });
    const { id } = (await made.json()) as TuneRecord;
    await page.goto(`${ADDRESS}/tune/${id}`);
    await expectEngraved(page);
    await notesOf(page, 'A1').first().focus();
    await page.keyboard.press('0');
    await saved(page);
    await fresh.stop('SIGKILL');
    // A finger, a title and another finger, none of which can reach anything.
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('l');
    await expect(page.getByText('Not saved yet', { exact: true })).toBeVisible();
    await page.getByLabel('Title').fill('Salt Stairs, Wet');
    await page.keyboard.press('Enter');
    await notesOf(page, 'A1').nth(2).focus();
    await page.keyboard.press('l');
    await expect(page.getByRole('alert')).toContainText('Nokta does not answer');
    await expectAccessible(page);
    // The page itself comes from the server: a reload finds nothing until it is back.
    await page.reload().catch(() => undefined);
    await fresh.again();
    await page.goto(`${ADDRESS}/tune/${id}`);
    await expectEngraved(page);
    await saved(page);
    await page.reload();
    await expectEngraved(page);
    await expect(page.getByRole('heading', { name: 'Salt Stairs, Wet', level: 1 })).toBeVisible();
    for (const note of [0, 1, 2]) await expect(notesOf(page, 'A1').nth(note)).toHaveAccessibleName(/kept/);
    const stored = (await (await page.request.get(`${ADDRESS}/api/tunes/${id}`)).json()) as TuneRecord;
    expect(Object.keys(stored.arrangements[0]!.decisions.hand.locks)).toHaveLength(3);
    expect(stored.title).toBe('Salt Stairs, Wet');
  } finally {
    await fresh.remove();
  }
});

/** A browser whose storage is closed: asking for it throws, or is never answered. */
const CLOSED = {
  'throws when it is asked for': () => {
    for (const name of ['indexedDB', 'localStorage', 'sessionStorage'])
      Object.defineProperty(window, name, {
        configurable: true,
        get() {
          throw new DOMException('denied', 'SecurityError');
        },
      });
  },
  'never answers': () => {
    IDBFactory.prototype.open = () => new EventTarget() as IDBOpenDBRequest;
  },
} as const;

for (const [how, close] of Object.entries(CLOSED))
  test(`opens library and desk, saves, and says what is not safe, where the browser’s storage ${how}`, async ({
    browser,
    baseURL,
  }) => {
    const page = await browser.newPage({ baseURL: baseURL! });
    await page.addInitScript(close);
    await page.goto('/');
    await expect(page.getByRole('link', { name: 'Barnacle Steps' })).toBeVisible();
    await expect(page.getByText('keeps nothing for Nokta').last()).toBeVisible();
    await page.getByRole('link', { name: 'Barnacle Steps' }).click();
    await expectEngraved(page);
    await notesOf(page, 'A1').first().focus();
    await page.keyboard.press('l');
    await saved(page);
    await page.route('**/api/arrangements/*', (route) => route.abort());
    await page.keyboard.press('l');
    await expect(page.getByRole('alert')).toContainText('leave this window open until it is saved');
    await page.unroute('**/api/arrangements/*');
    await saved(page);
    await page.close();
  });

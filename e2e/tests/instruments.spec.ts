/** The desk on every instrument, with long tunes, many repeats, and hands that lack a finger. */
import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import {
  choose,
  expectAccessible,
  expectEngraved,
  goToPass,
  notesOf,
  openTune,
  saved,
  seedTune,
  test,
  visitLibrary,
} from './support.ts';

const SONG = readFileSync(new URL('../../server/src/demo/tunes/deep-water-slow-oars.abc', import.meta.url), 'utf8');

const panel = (page: Page) => page.getByRole('complementary');

test('sets one tune for each instrument in turn, always within reach', async ({ page }) => {
  // A copy: others look at the song itself meanwhile.
  const [, header, music] = /X:1\nT:[^\n]*\n([^]*?K:[^\n]*)\n([^]*)/.exec(SONG)!;
  await seedTune(page, music!, header);
  await goToPass(page, 'Key');
  for (const [instrument, first] of [
    ['Violin', /^D4, open D/],
    ['Viola', /^D[34], /],
    ['Cello', /^D3, open D/],
  ] as const) {
    await page.getByRole('button', { name: instrument, exact: true }).click();
    await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(first);
    await expect(page.getByText('out of reach')).toHaveCount(0);
  }
  await saved(page);
});

test('opens the cello hand for C sharp and stays open on the way down', async ({ page }) => {
  await openTune(page, 'Deep Water, Slow Oars');
  const names = await notesOf(page, 'A1').evaluateAll((all) => all.map((note) => note.getAttribute('aria-label')));
  expect(names[6]).toContain('D3, open D');
  expect(names[7]).toContain('extended 4 on the G string');
  expect(names[8]).toContain('extended 2 on the G string');
});

test('changes the school of the bass, and reports what it cannot reach', async ({ page }) => {
  await seedTune(page, 'B,,,2 C,,2 ^C,,2 D,,2 | G,,8 |', 'M:4/4\nL:1/8\nQ:1/4=100\nK:C clef=bass');
  await goToPass(page, 'Key');
  await page.getByRole('button', { name: 'Bass', exact: true }).click();
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/on the A string/);
  await goToPass(page, 'Hand');
  await page.getByRole('tab', { name: 'Wishes' }).click();
  await choose(page, 'Fingers', '1 2 3 4');
  await expect(notesOf(page, 'A1').nth(2)).toHaveAccessibleName(/3 on the A string/);
  await goToPass(page, 'Key');
  await page.getByRole('button', { name: 'Up', exact: true }).click();
  await page.getByRole('button', { name: 'Up', exact: true }).click();
  await expect(page.getByText(/notes are out of reach here, marked ◇ on the tab/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/out of reach here/)).toHaveCount(0);
});

test('fingers for a learner without a fourth finger', async ({ page }) => {
  await seedTune(page, 'FGAG FGAG | F8 |');
  await goToPass(page, 'Hand');
  await expect(notesOf(page, 'A1').nth(2)).toHaveAccessibleName(/4 on the D string/);
  await page.getByRole('tab', { name: 'Wishes' }).click();
  await page.getByLabel('No fourth finger').press('Space');
  await expect(notesOf(page, 'A1').nth(2)).toHaveAccessibleName(/open A/);
  await page.keyboard.press('Control+z');
  await expect(notesOf(page, 'A1').nth(2)).toHaveAccessibleName(/4 on the D string/);
});

test('folds a phrase that is exactly the same and opens it on demand', async ({ page }) => {
  const four = 'G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG G4 | ';
  await seedTune(page, `|: ${four}${four}`.replace(/\| $/, ':|'));
  const second = page.getByRole('region', { name: 'Phrase A2' });
  await expect(second).toContainText('same as A1');
  await expect(notesOf(page, 'A2')).toHaveCount(0);
  await second.getByRole('button', { name: 'Show' }).click();
  await expect(notesOf(page, 'A2')).not.toHaveCount(0);
  await second.getByRole('button', { name: 'Fold' }).click();
  await expect(notesOf(page, 'A2')).toHaveCount(0);
});

test('stays usable with a long tune', async ({ page }) => {
  const part = (letter: string) => `${letter}2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG FDEF | `;
  const music = ['G', 'A', 'B', 'c', 'd', 'e', 'f', 'g', 'E', 'D'].map((letter) => part(letter).repeat(2)).join('\n');
  await seedTune(page, music.replace(/\| $/, '|]'));
  await expect(page.getByText('Engraving…')).toHaveCount(0, { timeout: 30_000 });
  await expect(page.getByRole('navigation', { name: 'Form of the tune' }).getByRole('button')).toHaveCount(80);
  await page
    .getByRole('navigation', { name: 'Form of the tune' })
    .getByRole('button', { name: /^Bar 78/ })
    .click();
  const last = page.getByRole('region', { name: /^Phrase/ }).last();
  await expect(last).toHaveClass(/current/);
  await expect(last).toBeInViewport();
  await goToPass(page, 'Sheet');
  await expect(page.getByRole('img', { name: /^Page 1 of/ })).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Page after' }).click();
  await expect(page.getByRole('img', { name: /^Page 2 of/ })).toBeVisible();
});

test('keeps the desk usable on a narrow window', async ({ page }) => {
  await page.setViewportSize({ width: 620, height: 900 });
  await openTune(page, 'Salt on the Sill');
  await goToPass(page, 'Hand');
  await notesOf(page, 'A1').nth(3).click();
  await expect(panel(page).filter({ hasText: 'Other ways' })).toBeVisible();
  const wide = await page.evaluate(() => document.documentElement.scrollWidth > window.innerWidth);
  expect(wide).toBe(false);
  await expectAccessible(page);
});

test('opens the library empty, says what to do, and shows when the server is gone', async ({ page }) => {
  await page.route('**/api/tunes?*', (route) => route.fulfill({ json: { total: 0, tunes: [] } }));
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'No tunes yet' })).toBeVisible();
  await expectAccessible(page);
  await page.unroute('**/api/tunes?*');
  await page.route('**/api/tunes?*', (route) => route.abort());
  await page.reload();
  await expect(page.getByRole('alert')).toContainText('Nokta does not answer');
  await page.unroute('**/api/tunes?*');
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('listitem').first()).toBeVisible();
});

test('keeps the working tempo, the chosen paper and the theme over a reload', async ({ page }) => {
  await seedTune(page, 'G8 | A8 |');
  await page.getByLabel('Working tempo (quarters a minute)').fill('77');
  await page.keyboard.press('Enter');
  await expect(page.getByText('100 % · quarter = 77')).toBeVisible();
  await goToPass(page, 'Sheet');
  await choose(page, 'Paper', 'Letter');
  await page.getByRole('button', { name: 'Light or dark' }).click();
  await saved(page);
  await page.reload();
  await expect(page.getByRole('img', { name: /^Page 1 of/ })).toBeVisible();
  await expect(page.getByText('100 % · quarter = 77')).toBeVisible();
  await expect(page.getByRole('link', { name: 'PDF' })).toHaveAttribute('href', /%22paper%22%3A%22letter%22/);
  await expect(page.getByRole('button', { name: 'Light or dark', pressed: true })).toBeVisible();
});

test('says on the strip which phrase comes round on the other bow', async ({ page }) => {
  await seedTune(page, '|: G4 A2 B2 :|');
  const strip = page.getByRole('region', { name: 'Phrase A1' });
  await expect(strip).toContainText('other bow on the repeat');
  await expect(strip.getByTitle('A1 starts down the first time and up when it comes round again.')).toBeVisible();
  await seedTune(page, '|: G4 A4 :|');
  await expect(page.getByRole('region', { name: 'Phrase A1' })).not.toContainText('other bow');
});

test('offers the voices of a tune and brings in the one that is chosen', async ({ page }) => {
  await visitLibrary(page);
  await page.getByRole('button', { name: 'Bring a tune in' }).click();
  const text = 'X:1\nT:Two Oars\nM:4/4\nL:1/8\nK:C\nV:1 name="Top"\nV:2 name="Low"\n[V:1] c8 |\n[V:2] G8 |\n';
  await page.getByRole('textbox', { name: 'Paste ABC here' }).fill(text);
  await page.getByRole('radio', { name: 'Low' }).check();
  await page.getByRole('button', { name: 'Keep this tune' }).click();
  await expectEngraved(page);
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/^G4, /);
});

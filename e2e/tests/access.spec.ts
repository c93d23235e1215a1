/** For keyboard and screen reader: past what stands before the work, back to where a dialog was opened, nothing that axe finds. */
import { expect, type Page } from '@playwright/test';
import { expectAccessible, goToPass, notesOf, openTune, selectedNote, test, visitLibrary } from './support.ts';

/** What the scan finds of any weight. */
const scan = (page: Page) => expectAccessible(page, undefined, ['minor', 'moderate', 'serious', 'critical']);

test('skips to the music with the first key, and to the tunes in the library', async ({ page }) => {
  await openTune(page, 'Salt on the Sill');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('Tab');
  await expect(page.getByRole('link', { name: 'To the music' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(selectedNote(page)).toBeFocused();
  await page.keyboard.press('ArrowRight');
  await expect(notesOf(page, 'A1').nth(1)).toBeFocused();
  await visitLibrary(page);
  await expect(page.getByRole('link', { name: 'Barnacle Steps' })).toBeVisible();
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Barnacle Steps' })).toBeFocused();
});

test('gives the focus back when a dialog is closed', async ({ page }) => {
  await openTune(page, 'Salt on the Sill');
  await notesOf(page, 'A1').nth(2).focus();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(notesOf(page, 'A1').nth(2)).toBeFocused();
  const version = page.getByRole('button', { name: 'A version for another grade or instrument' });
  await version.press('Enter');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(version).toBeFocused();
});

for (const colours of ['light', 'dark', 'forced'] as const) {
  test(`axe finds nothing in any pass, dialog or tool: ${colours}`, async ({ page }) => {
    if (colours === 'forced') await page.emulateMedia({ forcedColors: 'active' });
    else await page.emulateMedia({ colorScheme: colours });
    await openTune(page, 'Deep Water, Slow Oars');
    for (const pass of ['Tune', 'Parts', 'Key', 'Hand', 'Bow', 'Grades', 'Sheet', 'Teach'] as const) {
      await goToPass(page, pass);
      if (pass === 'Sheet') await expect(page.getByRole('img', { name: 'Page 1 of' })).toBeVisible();
      await scan(page);
    }
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog')).toBeVisible();
    await scan(page);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'A version for another grade or instrument' }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    await scan(page);
    await page.keyboard.press('Escape');
    await page.goto('/book');
    await page.getByRole('button', { name: /^Barnacle Steps/ }).click();
    await scan(page);
    await page.getByRole('button', { name: 'Begin another' }).click();
    await page.goto('/');
    await expect(page.getByRole('link', { name: 'Barnacle Steps' })).toBeVisible();
    await scan(page);
    await page.getByRole('button', { name: 'Bring a tune in' }).first().click();
    await scan(page);
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Restore a backup' }).click();
    await scan(page);
    for (const tool of ['tuner', 'tapes', 'scales']) {
      await page.goto(`/workshop/${tool}`);
      await expect(page.getByRole('main')).toBeVisible();
      await scan(page);
    }
  });
}

/** What a day's work stumbled over: the way back, what keys reach, whose version opens. */
import { expect } from '@playwright/test';
import {
  choose,
  expectEngraved,
  findTune,
  goToPass,
  openTune,
  saved,
  seedTune,
  test,
  visitLibrary,
} from './support.ts';

test('the address keeps pass and arrangement: reload shows them, Back leads to what was before', async ({ page }) => {
  await seedTune(page, 'G2A2 B2c2 | d4 B4 | c2B2 A2G2 | G8 |');
  await goToPass(page, 'Key');
  await goToPass(page, 'Grades');
  await page.getByRole('button', { name: 'A version for another grade or instrument' }).click();
  await page.getByRole('button', { name: 'Grade 2 for the cello: make' }).click();
  const which = page.getByRole('button', { name: /^Arrangement:/ });
  await expect(which).toHaveText('Grade 2, cello');
  await expect(page).toHaveURL(/\/grades\?arrangement=/);
  await goToPass(page, 'Hand');
  await page.reload();
  await expectEngraved(page);
  await expect(which).toHaveText('Grade 2, cello');
  await expect(page.getByRole('button', { name: 'Hand', exact: true })).toHaveAttribute('aria-current', 'step');
  await page.goBack();
  await expect(page.getByRole('button', { name: 'Grades', exact: true })).toHaveAttribute('aria-current', 'step');
  await expect(which).toHaveText('Grade 2, cello');
  await page.goBack();
  await expect(which).toHaveText('The tune, violin');
  await page.goBack();
  await expect(page.getByRole('button', { name: 'Key', exact: true })).toHaveAttribute('aria-current', 'step');
});

test('the library comes back with its search and its place', async ({ page }) => {
  await findTune(page, 'Barnacle Steps');
  await openTune(page, 'Barnacle Steps');
  await page.goBack();
  const find = page.getByRole('textbox', { name: 'Find by title' });
  await expect(find).toHaveValue('Barnacle Steps');
  await page.reload();
  await expect(find).toHaveValue('Barnacle Steps');
  await find.fill('');
  const list = page.getByRole('list', { name: 'Tunes' });
  await expect(list.getByRole('link').nth(4)).toBeVisible();
  await list.evaluate((own) => (own.scrollTop = 400));
  await expect.poll(() => list.evaluate((own) => own.scrollTop)).toBe(400);
  // One that is seen: another would be scrolled to first.
  await list.evaluate((own) => {
    const top = own.getBoundingClientRect().top;
    [...own.querySelectorAll('a')].find((link) => link.getBoundingClientRect().top > top)!.click();
  });
  await expectEngraved(page);
  await page.goBack();
  await expect.poll(() => list.evaluate((own) => own.scrollTop)).toBe(400);
  await visitLibrary(page);
});

test('letters after a choice are music, and change nothing where they are typed elsewhere', async ({ page }) => {
  await seedTune(page, 'G2A2 B2c2 | d8 |');
  await page.keyboard.press('e');
  await expect(page.getByRole('group', { name: 'Writing', exact: true })).toBeVisible();
  await page.keyboard.press('End');
  await choose(page, 'Key', 'A major');
  await saved(page);
  await page.keyboard.press('e');
  const key = page.getByRole('combobox', { name: 'Key' });
  await expect(page.getByText(/next note/)).toBeVisible();
  await expect(page.locator('.v-select', { hasText: 'A major' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Undo: write E' })).toBeVisible();
  // In the list itself, closed, a letter is neither a note nor a key.
  await key.focus();
  await page.keyboard.press('d');
  await expect(page.getByRole('button', { name: 'Undo: write E' })).toBeVisible();
  await expect(page.locator('.v-select', { hasText: 'A major' })).toBeVisible();
});

import { expect, type Page } from '@playwright/test';
import { expectAccessible, expectEngraved, goToPass, notesOf, saved, seedTune, test } from './support.ts';

const TUNE = '|: D2FA d2AF | G2Bd gdBG | F2Ad fdAF | E2A2 D4 :|';
const HEADER = 'M:4/4\nL:1/8\nQ:1/4=100\nK:D';
const band = (page: Page) => page.getByRole('region', { name: 'Side by side' });
const card = (page: Page, name: RegExp) => band(page).getByRole('radio', { name });

test('lays all keys side by side, shows and plays one before it is taken, and takes it', async ({ page }) => {
  await seedTune(page, TUNE, HEADER);
  await goToPass(page, 'Key');
  await expect(band(page).getByRole('radio')).toHaveCount(12, { timeout: 30_000 });
  await expect(card(page, /^D major, as it is/)).toBeChecked();
  await expect(card(page, /the easiest/)).toHaveCount(1);

  await card(page, /^G major/).click();
  await expect(band(page)).toContainText('home note and fifth are open strings');
  // Seen before it is taken: the tune itself is still in D.
  await expect(band(page).locator('.preview svg').first()).toBeVisible({ timeout: 20_000 });
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/^D4/);
  await band(page).getByRole('button', { name: 'Hear it' }).click();
  await expect(page.getByRole('button', { name: 'Stop' }).first()).toBeVisible({ timeout: 20_000 });
  await page.keyboard.press('p');

  await band(page).getByRole('button', { name: 'Take this key' }).click();
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/^G/);
  await expect(card(page, /^G major/)).toBeChecked();
  await saved(page);
  await page.reload();
  await expectEngraved(page);
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/^G/);
  await page.getByRole('button', { name: /^Undo: change the key/ }).click();
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/^D4/);
});

test('goes from key to key by the keyboard, and follows the instrument', async ({ page }) => {
  await seedTune(page, TUNE, HEADER);
  await goToPass(page, 'Key');
  await expect(band(page).getByRole('radio')).toHaveCount(12, { timeout: 30_000 });
  const names = () =>
    band(page)
      .getByRole('radio')
      .evaluateAll((all) => all.map((one) => one.ariaLabel));
  const onViolin = await names();
  const at = onViolin.findIndex((name) => name?.startsWith('D major'));
  await card(page, /^D major/).focus();
  await page.keyboard.press('ArrowRight');
  await expect(
    band(page)
      .getByRole('radio')
      .nth((at + 1) % 12),
  ).toBeFocused();
  await expect(
    band(page)
      .getByRole('radio')
      .nth((at + 1) % 12),
  ).toBeChecked();
  await expectAccessible(page);

  await page.getByRole('button', { name: 'Cello', exact: true }).click();
  await expect(card(page, /^D major/)).toHaveAccessibleName(/octaves? down/, { timeout: 30_000 });
  await expect.poll(names).not.toEqual(onViolin);
});

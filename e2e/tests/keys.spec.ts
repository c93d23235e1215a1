import { expect, type Page } from '@playwright/test';
import { choose, expectAccessible, expectEngraved, goToPass, notesOf, saved, seedTune, test } from './support.ts';

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

const LOW = '|: A,2C2 E2F2 | E2C2 A,4 | A2c2 e2f2 | e2c2 A4 :|';
const LOW_HEADER = 'M:4/4\nL:1/8\nQ:1/4=100\nK:A';
const panel = (page: Page) => page.getByRole('complementary', { name: 'Instrument, key and tuning' });

test('compares tunings, takes one, keeps it by name, and writes the staff as fingered', async ({ page }) => {
  await seedTune(page, LOW, LOW_HEADER);
  await goToPass(page, 'Key');
  await page.getByRole('tab', { name: 'Tunings' }).click();
  await card(page, /^A3 E4 A4 E5/).click();
  await expect(band(page)).toContainText('This loads the string, bridge and top');
  await expect(band(page).locator('.preview svg').first()).toBeVisible();
  await band(page).getByRole('button', { name: 'Take this tuning' }).click();
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/^A3, open/);

  const names = () => page.getByRole('group', { name: 'Notes of phrase A1', exact: true }).getByRole('button').first();
  await expect(names()).toHaveAccessibleName(/^A3/);
  const before = await page.locator('.strip .engraved').first().innerHTML();
  await choose(page, 'The staff shows', 'where the fingers go, as if tuned as usual');
  await expect.poll(() => page.locator('.strip .engraved').first().innerHTML()).not.toBe(before);
  // What sounds, and what is played, is the same.
  await expect(names()).toHaveAccessibleName(/^A3, open/);

  await panel(page).getByRole('textbox', { name: 'Or by hand' }).fill('F3,D4,A4,E5');
  await panel(page).getByRole('textbox', { name: 'Or by hand' }).press('Enter');
  await panel(page).getByRole('textbox', { name: 'Keep this tuning as' }).fill('Harbour');
  await panel(page).getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(panel(page).getByRole('button', { name: 'Keep Harbour no longer' })).toBeVisible();
  await expect(card(page, /Harbour/)).toHaveCount(1);
  await expectAccessible(page);
  await panel(page).getByRole('button', { name: 'Keep Harbour no longer' }).click();
  await expect(panel(page).getByRole('button', { name: 'Keep Harbour no longer' })).toHaveCount(0);
});

test('makes an instrument of one’s own, and says what is wrong with one that cannot be', async ({ page }) => {
  await seedTune(page, TUNE, HEADER);
  await goToPass(page, 'Key');
  await panel(page).getByRole('button', { name: 'Measure or change' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox', { name: 'String length' }).fill('0');
  await expect(dialog).toContainText('Measure it from the nut to the bridge');
  await expect(dialog.getByRole('button', { name: 'Use it here' })).toBeDisabled();
  await dialog.getByRole('textbox', { name: 'String length' }).fill('300');
  await dialog.getByRole('textbox', { name: 'Strings, low to high' }).fill('D4 G3 A4');
  await expect(dialog).toContainText('G3 is not above D4');
  await dialog.getByRole('textbox', { name: 'Strings, low to high' }).fill('D3 A3 D4 A4 E5');
  const name = `Five of ${Date.now()}`;
  await dialog.getByRole('textbox', { name: 'Name' }).fill(name);
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Keep and use' }).click();
  await expect(panel(page)).toContainText('string length 300 mm');
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/^D4, open D/);
  await saved(page);
  await page.reload();
  await expectEngraved(page);
  await expect(panel(page)).toContainText('D3 A3 D4 A4 E');
  await page.getByRole('button', { name: /^Undo: set for/ }).click();
  await expect(panel(page)).toContainText('G D A E, string length 328 mm');
  await choose(page, 'Size and strings', name);
  await expect(panel(page)).toContainText('string length 300 mm');
});

test('moves a phrase by an octave, and makes a call and echo version for the other pair', async ({ page }) => {
  await seedTune(page, '|: A2c2 e2f2 | e2c2 A4 | B2c2 d2e2 | c2B2 A4 :|', LOW_HEADER);
  await goToPass(page, 'Key');
  await page.getByRole('tab', { name: 'Octaves and echoes' }).click();
  await expect(band(page)).toContainText('no two pairs of strings lie an octave apart');
  await band(page)
    .getByRole('button', { name: /^A1 an octave up/ })
    .click();
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/^A5/);
  await page.keyboard.press('Control+z');
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/^A4/);

  await choose(page, 'Tuning', 'A E A E · low pair up a tone');
  await expect(band(page)).toContainText('echo on the other pair with the same fingers');
  await expectAccessible(page);
  const count = await notesOf(page, 'A1').count();
  await band(page).getByRole('button', { name: 'Make a call and echo version' }).click();
  await expect(page.getByRole('button', { name: /Call and echo/ }).first()).toBeVisible();
  const calls = notesOf(page, 'A1');
  const echoes = notesOf(page, 'A2');
  await expect(calls).toHaveCount(count);
  await expect(echoes).toHaveCount(count);
  await expect(calls.first()).toHaveAccessibleName(/^A4, open A/);
  await expect(echoes.first()).toHaveAccessibleName(/^A3, open G/);
  await goToPass(page, 'Parts');
  await page.keyboard.press('Control+z');
});

test('finds one key for a mixed group, and sets it for all', async ({ page }) => {
  await seedTune(page, TUNE, HEADER);
  await goToPass(page, 'Key');
  await page.getByRole('tab', { name: 'A group' }).click();
  await band(page).getByRole('button', { name: 'Add a cello' }).click();
  await band(page).getByRole('combobox', { name: 'Grade of player 2' }).selectOption('grade 1');
  const keys = band(page).getByRole('group', { name: 'Key for the group' }).getByRole('button');
  await expect(keys).toHaveCount(12);
  await expect(band(page)).toContainText('a version for grade 1');
  await expectAccessible(page);
  for (const _ of [1, 2]) await band(page).getByRole('button', { name: 'Remove player 1' }).click();
  await expect(band(page)).toContainText('Nobody plays yet');
  await band(page).getByRole('combobox', { name: 'A group that is kept' }).selectOption('Tuesday group');
  await expect(keys).toHaveCount(12);
  await band(page)
    .getByRole('button', { name: /^Set .* for all/ })
    .click();
  await expect(band(page)).toContainText(/6 made, 0 there already/, { timeout: 90_000 });
});

test('shows the fingerboard of the whole tune', async ({ page }) => {
  await seedTune(page, TUNE, HEADER);
  await goToPass(page, 'Key');
  await page.getByRole('tab', { name: 'Fingerboard' }).click();
  await expect(page.getByRole('img', { name: /^Fingerboard of the tune: .*D string, open/ })).toBeVisible();
  await expectAccessible(page);
});

test('takes a learner’s hand together with the instrument', async ({ page }) => {
  await seedTune(page, TUNE, HEADER);
  await goToPass(page, 'Hand');
  await page.getByRole('tab', { name: 'Wishes' }).click();
  await choose(page, 'What the hand prefers', 'Small hands, half size');
  await goToPass(page, 'Key');
  await expect(panel(page)).toContainText('string length 285 mm');
  await page.getByRole('button', { name: /^Undo: the hand of Small hands/ }).click();
  await expect(panel(page)).toContainText('string length 328 mm');
});

test('refuses to part an arrangement with echoes, and says where to', async ({ page }) => {
  await seedTune(page, '|: A2c2 e2f2 | e2c2 A4 | B2c2 d2e2 | c2B2 A4 :|', LOW_HEADER);
  await goToPass(page, 'Key');
  await page.getByRole('tab', { name: 'Octaves and echoes' }).click();
  await band(page).getByRole('button', { name: 'Echo of A1' }).click();
  await expect(notesOf(page, 'A2').first()).toHaveAccessibleName(/^A3/);
  await goToPass(page, 'Parts');
  await notesOf(page, 'A1').nth(3).click();
  await page.keyboard.press('b');
  await expect(page.getByText('This arrangement plays echoes').first()).toBeVisible();
});

/** The sheet and the talk-through: what the learner takes home, and what is said at the stand. */
import { expect } from '@playwright/test';
import { expectAccessible, expectEngraved, goToPass, notesOf, openTune, saved, seedTune, test } from './support.ts';

const TUNE = '|: "D"d2fd Adfd | "G"g2fg "A"e2ce | "D"d2fd Adfd | "A"e2c2 "D"d4 :|';

test('shows the page, as it is wished, and leads back to a note', async ({ page }) => {
  await seedTune(page, TUNE, 'M:4/4\nL:1/8\nQ:1/4=100\nK:D');
  await goToPass(page, 'Sheet');
  const sheet = page.getByRole('img', { name: 'Page 1 of 1' });
  await expect(sheet).toBeVisible();
  // In the place of the strips, and large.
  await expect(page.getByRole('group', { name: 'Notes of phrase A1' })).toHaveCount(0);
  expect((await sheet.boundingBox())!.width).toBeGreaterThan(700);
  await page.getByRole('button', { name: 'Tab alone' }).click();
  await expect(page.getByRole('button', { name: 'Tab alone' })).toHaveAttribute('aria-pressed', 'true');
  await expect(sheet).toContainText('4/4');
  await expect(sheet).toContainText('half a quarter');
  await page.getByRole('checkbox', { name: 'Note names' }).press('Space');
  await expect(sheet).toContainText('DF♯DADF♯D');
  await page.getByText('Signs and names', { exact: true }).click();
  await page.getByRole('combobox', { name: 'Names of notes' }).press('Enter');
  await page.getByRole('option', { name: /^Fixed do/ }).click();
  await expect(sheet).toContainText('ReFa♯ReLa');
  await page.getByRole('textbox', { name: 'By a name' }).fill('Nine-year-olds');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await page.getByRole('button', { name: 'Staff and tab' }).click();
  await expect(sheet).not.toContainText('ReFa♯');
  await page.getByRole('button', { name: 'Nine-year-olds', exact: true }).click();
  await expect(sheet).toContainText('ReFa♯ReLa');
  await expect(page.getByRole('link', { name: 'PDF' })).toHaveAttribute('href', /%22staff%22%3Afalse/);
  await expectAccessible(page);
  const [pdf] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'PDF' }).click()]);
  expect(pdf.suggestedFilename()).toMatch(/\.pdf$/);
  await sheet.locator('[data-note]').nth(3).click();
  await expectEngraved(page);
  await expect(page.getByRole('group', { name: 'Notes of phrase A1' }).locator('[aria-pressed="true"]')).toBeFocused();
});

test('lays a card out for the stand, with what to say', async ({ page }) => {
  await seedTune(page, TUNE, 'M:4/4\nL:1/8\nQ:1/4=100\nK:D');
  await goToPass(page, 'Sheet');
  await page.getByRole('button', { name: 'Card for the stand' }).click();
  const sheet = page.getByRole('img', { name: /^Page 1 of/ });
  await expect(sheet).toContainText('Start on D, 3 on the A string, down bow.');
  await page.getByLabel('Landscape').press('Space');
  await expect(page.getByRole('link', { name: 'PDF' })).toHaveAttribute('href', /%22landscape%22%3Atrue/);
});

test('prints warm-ups that can be heard, and keeps with the arrangement how it looks', async ({ page }) => {
  await seedTune(page, TUNE, 'M:4/4\nL:1/8\nQ:1/4=100\nK:D');
  await goToPass(page, 'Sheet');
  const side = page.getByRole('complementary', { name: 'Print and files' });
  await expect(page.getByRole('img', { name: 'Page 1 of 1' })).toBeVisible();
  await side.getByRole('checkbox', { name: 'Warm-ups' }).press('Space');
  await side.getByRole('checkbox', { name: 'The tune' }).press('Space');
  const sheet = page.getByRole('img', { name: /^Page 1 of/ });
  await expect(sheet).toContainText('Scale of D major');
  await side.getByRole('button', { name: 'Hear: Scale of D major' }).press('Enter');
  await expect(page.getByRole('button', { name: 'Stop', exact: true }).first()).toBeAttached();
  await side.getByRole('checkbox', { name: 'On the page: Scale of D major' }).press('Space');
  await expect(sheet).not.toContainText('Scale of D major');
  await expect(sheet).toContainText('Arpeggio of D major');
  await side.getByLabel('With this arrangement').press('Space');
  await saved(page);
  await page.reload();
  await expect(sheet).toContainText('Arpeggio of D major');
  await expect(sheet).not.toContainText('Scale of D major');
  await expect(side.getByLabel('With this arrangement')).toBeChecked();
  // Another tune looks as usual; this one is undone like any decision.
  await page.getByRole('button', { name: /^Undo: how this sheet looks/ }).click();
  await expect(side.getByLabel('With this arrangement')).not.toBeChecked();
});

test('prints the chart of fingers, the words and the chords, and an address as a square', async ({ page }) => {
  const song =
    '"G"G2 A2 "D"A2 F2 | "C"E2 "D"F2 "G"G4 |]\nw:down the hill we sing and home\nw:up a-gain we come to rest';
  await seedTune(page, song, 'M:4/4\nL:1/8\nQ:1/4=100\nK:G');
  await goToPass(page, 'Sheet');
  const side = page.getByRole('complementary', { name: 'Print and files' });
  const sheet = page.getByRole('img', { name: /^Page 1 of/ });
  await expect(sheet).toBeVisible();
  await side.getByText('For the lesson').click();
  const address = side.getByLabel('A page to practise with');
  await address.fill('strings.example');
  await address.press('Enter');
  await expect(side.getByText('An address begins with https:// or http://')).toBeVisible();
  await address.fill('https://strings.example/home');
  await address.press('Enter');
  await expect(sheet).toContainText('Listen and practise at home');
  await saved(page);
  await side.getByRole('checkbox', { name: 'Where the fingers go' }).press('Space');
  await side.getByRole('checkbox', { name: 'The tune' }).press('Space');
  await expect(sheet).toContainText('these fingers touch');
  await side.getByRole('checkbox', { name: 'Words and chords' }).press('Space');
  await side.getByRole('checkbox', { name: 'Where the fingers go' }).press('Space');
  await expect(sheet).toContainText('Words and chords');
  await side.getByRole('checkbox', { name: 'Chords to play along' }).press('Space');
  await side.getByRole('checkbox', { name: 'Words and chords' }).press('Space');
  await expect(sheet).toContainText('(V) D F');
  await page.reload();
  await side.getByText('For the lesson').click();
  await expect(address).toHaveValue('https://strings.example/home');
});

test('changes on the strips what is changed on paper: lanes, signs, names, from any pass', async ({ page }) => {
  await seedTune(page, 'd2fc Adfd | g2fg e2c2 | d2fd Adfd | =c4 d4 |', 'M:4/4\nL:1/8\nQ:1/4=100\nK:D');
  await goToPass(page, 'Hand');
  const strip = notesOf(page, 'A1').first().locator('xpath=ancestor::*[local-name()="svg"][1]');
  await page.getByRole('button', { name: 'What the strips show' }).press('Enter');
  const menu = page.getByRole('dialog', { name: 'What the strips show' });
  await menu.getByRole('checkbox', { name: 'Note names' }).press('Space');
  await expect(strip).toContainText('DF♯');
  await menu.getByRole('combobox', { name: 'Low and high fingers' }).press('Enter');
  await page.getByRole('option', { name: /^Letters/ }).click();
  await expect(strip.locator('text', { hasText: /^\s*L\s*$/ }).first()).toBeAttached();
  await menu.getByRole('combobox', { name: 'Fingers in words' }).press('Enter');
  await page.getByRole('option', { name: '2 low' }).click();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await goToPass(page, 'Sheet');
  await expect(page.getByRole('img', { name: /^Page 1 of/ })).toContainText('DF♯');
});

test('says what to say, keeps the teacher’s words, and marks them when the notes change', async ({ page }) => {
  await seedTune(page, TUNE, 'M:4/4\nL:1/8\nQ:1/4=100\nK:D');
  await goToPass(page, 'Teach');
  const side = page.getByRole('complementary', { name: 'What to say at the stand' });
  await expect(side).toContainText('Start on D, 3 on the A string, down bow.');
  // Short, unless somebody asks for more.
  await expect(side).not.toContainText('Bar 1:');
  await side.getByRole('button', { name: 'Note by note' }).click();
  await side.getByRole('button', { name: 'Fingers', exact: true }).click();
  await expect(side).toContainText('Bar 1: A string: 3; E string: 1');
  await side.getByRole('button', { name: 'Note names', exact: true }).click();
  await expect(side).toContainText('Bar 1: D F♯ D A D F♯ D.');
  await expectAccessible(page);
  await side.getByRole('button', { name: 'In your words' }).click();
  await side.getByRole('textbox', { name: 'In your words' }).fill('Rock between the two strings like a boat.');
  await side.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(side).toContainText('like a boat');
  await saved(page);
  await page.reload();
  await expectEngraved(page);
  await expect(side).toContainText('like a boat');
  await notesOf(page, 'A1').nth(4).focus();
  await page.keyboard.press('4');
  await expect(side.getByText(/have changed since you wrote this/)).toBeVisible();
  await side.getByRole('button', { name: 'Nokta’s words again' }).click();
  await expect(side).not.toContainText('like a boat');
});

test('packs every player’s sheet into one zip', async ({ page }) => {
  await openTune(page, 'Up Lantern Hill');
  await goToPass(page, 'Sheet');
  await expect(page.getByRole('img', { name: /^Page 1 of/ })).toBeVisible();
  const [zip] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: /^All \d+ arrangements, one zip/ }).click(),
  ]);
  expect(zip.suggestedFilename()).toBe('Up Lantern Hill.zip');
});

test('says what the open formats cannot hold before a file goes out', async ({ page }) => {
  await openTune(page, 'Salt on the Sill');
  await goToPass(page, 'Sheet');
  await page.getByText('What is not in these files').click();
  await expect(page.getByText(/^Strings are not in the file: \d+ places, the first in bar/).first()).toBeVisible();
  await expectAccessible(page);
});

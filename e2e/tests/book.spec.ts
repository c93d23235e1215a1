/** Books, and what a sheet says of the lesson: from the library to the file. */
import { expect } from '@playwright/test';
import { choose, expectEngraved, goToPass, openTune, saved, seedTune, test, visit, visitLibrary } from './support.ts';

test('makes a book of tunes in their order, keeps it, and opens it again', async ({ page }) => {
  await visitLibrary(page);
  await page.getByRole('button', { name: 'Salt on the Sill into the book' }).click();
  await page.getByRole('button', { name: 'Open the book' }).click();
  const tunes = page.getByRole('list', { name: 'Tunes of the book' });
  await expect(tunes.getByRole('link')).toHaveText(['Salt on the Sill']);
  await page.getByRole('button', { name: /^Four Barrels/ }).click();
  await page.getByRole('button', { name: 'Four Barrels: earlier' }).click();
  await expect(tunes.getByRole('link')).toHaveText(['Four Barrels', 'Salt on the Sill']);
  const title = `Spring ${Date.now()}`;
  await page.getByLabel('Title', { exact: true }).fill(title);
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText(`“${title}” is kept.`)).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Make the book' }).click(),
  ]);
  expect(file.suggestedFilename()).toBe(`${title}.pdf`);
  await page.getByRole('button', { name: 'Begin another' }).click();
  await expect(tunes.getByRole('link')).toHaveCount(0);
  await page.getByRole('button', { name: title, exact: true }).click();
  await expect(tunes.getByRole('link')).toHaveText(['Four Barrels', 'Salt on the Sill']);
  // After a reload it is as it was.
  await page.reload();
  await expect(tunes.getByRole('link')).toHaveText(['Four Barrels', 'Salt on the Sill']);
  await page.getByRole('button', { name: `Forget ${title}` }).click();
  await expect(page.getByRole('button', { name: title, exact: true })).toHaveCount(0);
  // The window remembers the book: others begin with an empty one.
  await page.getByRole('button', { name: 'Begin another' }).click();
});

test('makes an edition for each instrument, and can be called off', async ({ page }) => {
  await visit(page, '/book');
  const again = page.getByRole('button', { name: 'Begin another' });
  if (await again.isVisible()) await again.click();
  for (const name of [/^Kettle on the Stove/, /^Wick and Tallow/, /^Twelve Windows Lit/])
    await page.getByRole('button', { name }).click();
  await choose(page, 'For whom', 'An edition for each instrument');
  await page.getByRole('checkbox', { name: 'Cello' }).check();
  await page.getByLabel('With warm-ups, each once').check({ force: true });
  await page.getByRole('button', { name: 'Make the book' }).click();
  await expect(page.getByText(/of 6 tunes drawn/)).toBeVisible();
  await page.getByRole('button', { name: 'Call it off' }).click();
  await expect(page.getByRole('button', { name: 'Make the book' })).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await page.getByRole('button', { name: 'Begin another' }).click();
});

test('says on the sheet whose it is, when, and what for, and brings it back after a reload', async ({ page }) => {
  await seedTune(page, 'd2e2 f4 | g4 d4 |', 'M:4/4\nL:1/8\nQ:1/4=100\nK:D');
  await goToPass(page, 'Sheet');
  await page.getByText('For the lesson').click();
  await page.getByLabel('Name, date and practice boxes at the top').check({ force: true });
  const next = page.getByLabel('For next time');
  await next.fill('Second part without slurs.');
  await next.blur();
  await saved(page);
  const sheet = page.getByRole('img', { name: 'Page 1 of' });
  await expect(sheet).toContainText('Second part without slurs.');
  await expect(sheet).toContainText('quarter = 60');
  await page.reload();
  await expect(sheet).toContainText('Second part without slurs.');
  // The look is this browser's: other tests begin as usual.
  await page.getByText('For the lesson').click();
  await page.getByLabel('Name, date and practice boxes at the top').uncheck({ force: true });
});

test('tells what cannot be reached before it is printed, and what helps', async ({ page }) => {
  await seedTune(page, 'd2e2 f4 | G,4 d4 |', 'M:4/4\nL:1/8\nQ:1/4=100\nK:D');
  await goToPass(page, 'Key');
  await page.getByRole('button', { name: 'Down', exact: true }).click();
  await goToPass(page, 'Sheet');
  await expect(page.getByText(/lies? out of reach, in bars? /)).toBeVisible();
  await page.getByRole('button', { name: 'An octave up' }).click();
  await expect(page.getByText(/out of reach, in/)).toHaveCount(0);
});

test('prints large, and names a phrase that comes again', async ({ page }) => {
  await openTune(page, 'Salt on the Sill');
  await expectEngraved(page);
  await goToPass(page, 'Sheet');
  const sheet = page.getByRole('img', { name: 'Page 1 of' });
  await expect(sheet).toBeVisible();
  await page.getByRole('button', { name: 'Very large' }).click();
  await expect(page.getByText(/Page 1 of [2-9]/)).toBeVisible();
  await page.getByRole('button', { name: 'Usual', exact: true }).click();
});

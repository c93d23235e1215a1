import { expect } from '@playwright/test';
import {
  choose,
  expectAccessible,
  expectEngraved,
  findTune,
  pasteTune,
  COLOURS,
  test,
  visitLibrary,
} from './support.ts';

test('shows the demo’s tunes and finds among them', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('listitem')).not.toHaveCount(0);
  await page.getByRole('textbox', { name: 'Find by title' }).fill('hornpipe');
  await expect(page.getByRole('listitem')).toHaveCount(1);
  await expect(page.getByRole('link', { name: 'The Foghorn Keeper' })).toBeVisible();
  await page.getByRole('textbox', { name: 'Find by title' }).fill('nothing of the kind');
  await expect(page.getByText('No tune is like that.')).toBeVisible();
});

test('previews a pasted tune, keeps it and opens it', async ({ page }) => {
  const title = await pasteTune(page, 'A2 | G2BG dGBG | ABcA G4 |');
  await expect(page.getByRole('heading', { name: title })).toBeVisible();
  await page.getByRole('link', { name: 'Back to the library' }).click();
  await findTune(page, title);
});

test('says line, column and remedy of a malformed tune, and keeps nothing', async ({ page }) => {
  await visitLibrary(page);
  await expect(page.getByRole('listitem').first()).toBeVisible();
  await page.getByRole('button', { name: 'Bring a tune in' }).click();
  await page.getByRole('textbox', { name: 'Paste ABC here' }).fill('X:1\nT:Torn\nK:G\nGAB [GB |\n');
  await expect(page.getByRole('alert')).toContainText('Line 4, column 9');
  await expect(page.getByRole('alert')).toContainText('Put ] after its last note.');
  await expect(page.getByRole('button', { name: 'Keep this tune' })).toBeDisabled();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Cancel' }).click();
  await page.reload();
  await expect(page.getByRole('listitem').first()).toBeVisible();
  await expect(page.getByRole('link', { name: 'Torn', exact: true })).toHaveCount(0);
  expect(await (await page.request.get('/api/tunes')).text()).not.toContain('"Torn"');
});

test('offers each tune of a file that is opened, and says what was skipped', async ({ page }) => {
  await visitLibrary(page);
  await page.getByRole('button', { name: 'Bring a tune in' }).click();
  const book = 'X:1\nT:Left Boot\nM:4/4\nL:1/8\nK:D\nd4 A4 |\n\nX:2\nT:Right Boot\nM:4/4\nL:1/8\nK:D\nA4 # d4 |\n';
  await page
    .getByLabel('Tune files')
    .setInputFiles({ name: 'boots.abc', mimeType: 'text/plain', buffer: Buffer.from(book) });
  await expect(page.getByRole('heading', { name: 'Left Boot' })).toBeVisible();
  await choose(page, 'Tune in this file', '2. Right Boot');
  await expect(page.getByRole('heading', { name: 'Right Boot' })).toBeVisible();
  await page.getByText('1 thing to know').click();
  await expect(page.getByText('Line 13, column 4')).toBeVisible();
});

test('takes a file that is dropped on the page', async ({ page }) => {
  await visitLibrary(page);
  await expect(page.getByRole('heading', { name: 'Library' })).toBeVisible();
  const data = await page.evaluateHandle(() => {
    const transfer = new DataTransfer();
    transfer.items.add(
      new File(['X:1\nT:Dropped Oar\nM:4/4\nL:1/8\nK:D\nd4 A4 |\n'], 'oar.abc', { type: 'text/plain' }),
    );
    return transfer;
  });
  await page.dispatchEvent('.library', 'dragenter', { dataTransfer: data });
  await page.dispatchEvent('.library', 'drop', { dataTransfer: data });
  await expect(page.getByRole('heading', { name: 'Dropped Oar' })).toBeVisible();
});

test('renames, deletes and brings back', async ({ page }) => {
  const title = await pasteTune(page, 'G8 |');
  const renamed = `${title} again`;
  await findTune(page, title);
  await page.getByRole('button', { name: `Rename ${title}` }).click();
  await page.getByLabel('Title', { exact: true }).fill(renamed);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: renamed })).toBeVisible();
  await page.getByRole('button', { name: `Delete ${renamed}` }).click();
  await expect(page.getByRole('link', { name: renamed })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: renamed })).toBeVisible();
});

test('has nothing serious for axe, light and dark', async ({ page }) => {
  await visitLibrary(page);
  await expect(page.getByRole('listitem').first()).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Light or dark' }).click();
  await expectAccessible(page, COLOURS);
});

test('is reached and used with the keyboard alone', async ({ page }) => {
  await findTune(page, 'Salt on the Sill');
  await page.getByRole('link', { name: 'Salt on the Sill' }).focus();
  await page.keyboard.press('Enter');
  await expectEngraved(page);
  await page.keyboard.press(']');
  await expect(page.getByRole('heading', { name: 'Parts and phrases' })).toBeVisible();
  await page.keyboard.press(']');
  await expect(page.getByRole('heading', { name: 'Instrument, key and tuning' })).toBeVisible();
});

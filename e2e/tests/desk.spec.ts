import { expect } from '@playwright/test';
import {
  choose,
  expectAccessible,
  expectEngraved,
  goToPass,
  marked,
  notesOf,
  openTune,
  saved,
  seedTune,
  test,
  deafWindow,
} from './support.ts';

test('changes and keeps a finger from the keyboard; it is there after a reload, and undone and done again', async ({
  page,
}) => {
  await seedTune(page, 'AGAB AGAB | G8 |');
  await goToPass(page, 'Hand');
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName('A4, 4 on the D string, down bow');
  await notesOf(page, 'A1').first().focus();
  await page.keyboard.press('0');
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName('A4, open A, down bow, kept');
  await saved(page);
  await page.reload();
  await expectEngraved(page);
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName('A4, open A, down bow, kept');
  await page.keyboard.press('Control+z');
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName('A4, 4 on the D string, down bow');
  await page.keyboard.press('Control+Shift+z');
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName('A4, open A, down bow, kept');
  await page.keyboard.press('l');
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName('A4, 4 on the D string, down bow');
});

test('says why, and what each other way costs', async ({ page }) => {
  await seedTune(page, 'F2 GAGF A4 | G8 |');
  await goToPass(page, 'Hand');
  await notesOf(page, 'A1').nth(2).click();
  const panel = page.getByRole('complementary', { name: 'Strings and fingers' });
  await expect(panel).toContainText('4, because the line goes back down');
  await expect(panel).toContainText('two more string crossings');
  await panel.getByRole('button', { name: /open A/ }).click();
  await expect(notesOf(page, 'A1').nth(2)).toHaveAccessibleName(/open A, .*kept/);
  await panel.getByRole('button', { name: 'Kept. Free it' }).click();
  await expect(notesOf(page, 'A1').nth(2)).toHaveAccessibleName(/4 on the D string/);
});

test('sets the tune for the cello and another key, keeps a decision resting, and shows what retuning does', async ({
  page,
}) => {
  await seedTune(page, 'AGAB AGAB | G8 |');
  await notesOf(page, 'A1').first().focus();
  await page.keyboard.press('0');
  await goToPass(page, 'Key');
  await choose(page, 'Key', 'A major');
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/^B4, 1 on the A string/);
  await expect(page.getByText('1 kept finger rests')).toBeVisible();
  await choose(page, 'Key', 'G major (as brought in)');
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/open A, down bow, kept/);
  await page.getByLabel('Or by hand, low to high').fill('A3,E4,A4,E5');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'String tension' })).toContainText('221 → 244.4');
  await expect(page.getByRole('note')).toContainText('bridge stays upright');
  await page.getByLabel('Or by hand, low to high').fill('A3,E4');
  await page.keyboard.press('Enter');
  await expect(page.getByText('The violin has 4 strings, but 2 pitches are given.')).toBeVisible();
  await page.getByRole('button', { name: 'Cello' }).click();
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/^A3, open A/);
  await saved(page);
});

test('makes a bare version beside the tune and switches between them', async ({ page }) => {
  await openTune(page, "The Lamplighter's Ladder");
  // Strips are engraved one after the other.
  await expect(notesOf(page, 'B1')).not.toHaveCount(0);
  const full = await notesOf(page, 'B1').count();
  await goToPass(page, 'Grades');
  await page.getByRole('button', { name: /^Bare/ }).click();
  await expect.poll(() => notesOf(page, 'B1').count()).toBeLessThan(full);
  await expect(page.getByRole('region', { name: 'What was changed' })).toContainText('carries the beat');
  await page.getByRole('button', { name: /^The tune/ }).click();
  await expect.poll(() => notesOf(page, 'B1').count()).toBe(full);
});

test('plays a phrase, shows the note that sounds, loops and stops', async ({ page }) => {
  await openTune(page, 'Four Barrels');
  await page.keyboard.press('o');
  await expect(page.getByRole('button', { name: /^Loop/ })).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: 'Play phrase A2' }).click();
  await expect(marked(page, 'sounds now')).toHaveCount(1);
  await expect(page.getByRole('button', { name: 'Stop phrase A2' })).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(marked(page, 'sounds now')).toHaveCount(0);
});

test('lays out a sheet, prints it, and gives files', async ({ page }) => {
  await openTune(page, 'Keep the Lantern Low');
  await goToPass(page, 'Sheet');
  await expect(page.getByRole('img', { name: 'Page 1 of' })).toBeVisible({ timeout: 20_000 });
  await expect(page.getByRole('img', { name: 'Page 1 of' })).toContainText('Keep the Lantern Low');
  const [pdf] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'PDF' }).click()]);
  expect(pdf.suggestedFilename()).toBe('Keep the Lantern Low.pdf');
  const [xml] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'MusicXML', exact: true }).click(),
  ]);
  expect(xml.suggestedFilename()).toBe('Keep the Lantern Low.musicxml');
  await page.evaluate(() => {
    window.print = () => (document.title = 'printed');
  });
  await page.getByRole('button', { name: 'Print', exact: true }).click();
  await expect(page).toHaveTitle('printed');
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('img', { name: 'Printed page 1', includeHidden: true })).toBeVisible();
  await expect(page.getByRole('main', { name: 'Phrases' })).toHaveCount(0);
});

test('counts above the staff where they are wanted, on strips and sheet', async ({ page }) => {
  await openTune(page, 'The Foghorn Keeper');
  await goToPass(page, 'Sheet');
  const sheet = page.getByRole('img', { name: 'Page 1 of' });
  await expect(sheet).toBeVisible();
  await expect(sheet).not.toContainText('&la');
  await page.getByRole('checkbox', { name: 'Counts' }).press('Space');
  const notes = page.getByRole('group', { name: 'Notes of phrase A1', exact: true });
  await expect(sheet).toContainText(/4lali12&/);
  await expect(page.getByRole('link', { name: 'PDF' })).toHaveAttribute('href', /counts/);
  await page.reload();
  await expect(sheet).toContainText(/4lali12&/);
  await goToPass(page, 'Hand');
  await expect(notes).toContainText(/4\s*la\s*li\s*1\s*2\s*&/);
});

test('renames the tune at the desk', async ({ page }) => {
  const title = await seedTune(page, 'G8 |');
  await page.getByLabel('Title').fill(`${title} anew`);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: `${title} anew`, level: 1 })).toBeVisible();
});

test('walks notes, phrases and passes by keys, and shows the keys', async ({ page }) => {
  await openTune(page, 'The Foghorn Keeper');
  await notesOf(page, 'A1').first().focus();
  await page.keyboard.press('ArrowRight');
  await expect(notesOf(page, 'A1').nth(1)).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await expect(notesOf(page, 'A2').first()).toBeFocused();
  await page.keyboard.press('s');
  await expect(notesOf(page, 'A2').first()).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('note before, note after');
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await page.getByRole('navigation', { name: 'Form of the tune' }).getByRole('button', { name: 'Bar 12' }).click();
  await expect(page.getByRole('region', { name: 'Phrase B1' })).toHaveClass(/current/);
});

test('says so when a tune is not there, and when another window was quicker', async ({ context }) => {
  const [page, other] = [await deafWindow(context), await deafWindow(context)];
  await page.goto('/tune/none');
  await expect(page.getByRole('alert')).toContainText('not here any more');
  await seedTune(page, 'AGAB AGAB | G8 |');
  await other.goto(page.url());
  await expectEngraved(other);
  await notesOf(other, 'A1').first().focus();
  await other.keyboard.press('0');
  await expect(notesOf(other, 'A1').first()).toHaveAccessibleName(/open A, .*kept/);
  await saved(other);
  // Another note goes together with it.
  await notesOf(page, 'A1').nth(1).focus();
  await page.keyboard.press('l');
  await saved(page);
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/open A, down bow, kept/);
  // Of the same note both sides are shown, and the one that is kept goes on top of the other.
  await notesOf(other, 'A1').nth(2).focus();
  await other.keyboard.press('4');
  // A key asks for reasons first: what it decides is there when the note says so.
  await expect(notesOf(other, 'A1').nth(2)).toHaveAccessibleName(/4 on the D string, .*kept/);
  await saved(other);
  await notesOf(page, 'A1').nth(2).focus();
  await page.keyboard.press('0');
  const both = page.getByRole('alert', { name: 'Changed here, and in another window' });
  await expect(both).toContainText('Not saved', { ignoreCase: true });
  await expect(page.getByText('Not saved', { exact: true })).toBeVisible();
  await expect(notesOf(page, 'A1').nth(2)).toHaveAccessibleName(/open A, .*kept/);
  await both.getByRole('button', { name: 'Keep what is here' }).click();
  await saved(page);
  await page.keyboard.press('Control+z');
  await expect(notesOf(page, 'A1').nth(2)).toHaveAccessibleName(/4 on the D string, .*kept/);
  await expect(notesOf(page, 'A1').nth(1)).toHaveAccessibleName(/kept/);
  // Once more, and this time the other side counts.
  await other.reload();
  await expectEngraved(other);
  await notesOf(other, 'A1').nth(4).focus();
  await other.keyboard.press('4');
  // A key asks for reasons first: what it decides is there when the note says so.
  await expect(notesOf(other, 'A1').nth(4)).toHaveAccessibleName(/4 on the D string, .*kept/);
  await saved(other);
  await notesOf(page, 'A1').nth(4).focus();
  await page.keyboard.press('0');
  await both.getByRole('button', { name: 'Take what is there' }).click();
  await saved(page);
  await expect(notesOf(page, 'A1').nth(4)).toHaveAccessibleName(/4 on the D string, .*kept/);
});

test('keeps a decision that could not be saved on the desk, and saves it when asked again', async ({ page }) => {
  await seedTune(page, 'AGAB AGAB | G8 |');
  await page.route('**/api/arrangements/*', (route) => route.abort());
  await notesOf(page, 'A1').first().focus();
  await page.keyboard.press('0');
  await expect(page.getByText('Not saved yet', { exact: true })).toBeVisible();
  await expect(page.getByRole('alert')).toContainText('What was saved is safe');
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/open A, .*kept/);
  // Away from the desk it is told too, and the way back is short.
  await page.getByRole('link', { name: 'Back to the library' }).click();
  await expect(page.getByText(/^1 change to “.*”\s+will be saved when Nokta answers again/)).toBeVisible();
  await page.getByRole('link', { name: 'Look at it' }).click();
  await expectEngraved(page);
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/open A, .*kept/);
  const again = page.getByRole('button', { name: 'Try again' });
  await expect(again).toBeVisible();
  await page.unroute('**/api/arrangements/*');
  // It goes out by itself as well, and then there is nothing left to press.
  await again.click({ timeout: 1_000 }).catch(() => undefined);
  await saved(page);
  await page.reload();
  await expectEngraved(page);
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/open A, .*kept/);
});

test('draws where windows of a browser cannot share an engraver', async ({ page, context }) => {
  await openTune(page, 'Salt on the Sill');
  const other = await context.newPage();
  await other.addInitScript(() => delete (globalThis as { SharedWorker?: unknown }).SharedWorker);
  await other.goto(page.url());
  await expectEngraved(other);
  // The one is its own: a script of the page, which a shared one is not.
  expect(other.workers().map((worker) => worker.url())).toContainEqual(expect.stringContaining('engrave.worker'));
  expect(page.workers().map((worker) => worker.url())).not.toContainEqual(expect.stringContaining('engrave.worker'));
});

/** The Bow pass as a teacher uses it. */
import { expect } from '@playwright/test';
import { expectEngraved, goToPass, notesOf, openTune, saved, seedTune, test } from './support.ts';

test('turns and slurs by keys, changes the school, and all of it is there after a reload', async ({ page }) => {
  await seedTune(page, 'A2 B2 cd e2 | f8 | A2 B2 cd e2 | f8 |]');
  await goToPass(page, 'Bow');
  const notes = notesOf(page, 'A1');
  await expect(notes.nth(5)).toHaveAccessibleName(/up bow/);
  await notes.nth(1).focus();
  await page.keyboard.press('u');
  await expect(page.getByText('Down-bow, two notes.')).toBeVisible();
  await expect(notes.nth(5)).toHaveAccessibleName(/down bow/);
  await page.keyboard.press('Control+z');
  await expect(notes.nth(5)).toHaveAccessibleName(/up bow/);
  // The last pair that begins on a beat is slurred, so that the next bar begins down.
  await page.getByRole('button', { name: /^Down on the beat/ }).click();
  await expect(notes.nth(5)).toHaveAccessibleName(/down bow/);
  await notes.nth(3).focus();
  await expect(page.getByText('Down-bow, two notes.')).toBeVisible();
  await notes.nth(0).focus();
  await page.keyboard.press('v');
  await expect(notes.nth(0)).toHaveAccessibleName(/up bow/);
  await saved(page);
  await page.reload();
  await expectEngraved(page);
  await expect(notes.nth(0)).toHaveAccessibleName(/up bow/);
  await expect(page.getByRole('button', { name: /^Down on the beat/ })).toHaveAttribute('aria-pressed', 'true');
});

test('shows where the bow ends up, and what runs off the hair', async ({ page }) => {
  await openTune(page, 'The Foghorn Keeper');
  await goToPass(page, 'Bow');
  await expect(page.getByRole('img', { name: /runs off its 650 mm of hair if nothing is done/ })).toBeVisible();
  await expect(page.getByText(/^Up-bow, one note\. From \d+ mm to \d+ mm/)).toBeVisible();
});

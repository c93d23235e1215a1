/** The Bow pass as a teacher uses it. */
import { expect } from '@playwright/test';
import { expectAccessible, expectEngraved, goToPass, notesOf, openTune, saved, seedTune, test } from './support.ts';

const IN_B_FLAT = 'M:4/4\nL:1/8\nQ:1/4=138\nK:Bb';
const HORNPIPE =
  '|: (3FGA | B2dB FBdB | ceAc FAce | dfbf dBAB | cBAG F2(3FGA | B2dB FBdB | cegb agfe | dfBd cAFA | B2 d2 B2 :|';

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

test('lays a pattern that is heard first, takes what brings the bow back, and keeps both over a reload', async ({
  page,
}) => {
  await seedTune(page, HORNPIPE, IN_B_FLAT);
  await goToPass(page, 'Bow');
  const side = page.getByRole('complementary', { name: 'Strokes and the hair' });
  await notesOf(page, 'A1').first().focus();
  await expect(side.getByText(/the bow runs out here/)).toBeVisible();
  const pattern = side.getByRole('combobox', { name: 'Pattern' });
  await pattern.press('Enter');
  await page.getByRole('option', { name: 'Four to a bow' }).click();
  await side.getByRole('button', { name: 'Hear it', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Stop', exact: true }).first()).toBeVisible();
  // Heard, and nothing decided yet.
  await expect(page.getByRole('button', { name: /^Undo/ })).toBeDisabled();
  await side.getByRole('button', { name: /^On A1/ }).click();
  await expect(side.getByText('Up-bow, three notes.')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(side.getByText('Up-bow, one note.')).toBeVisible();
  // What helps is worked out, and taken with one key.
  await notesOf(page, 'A1').first().focus();
  await expect(side.getByRole('button', { name: /R$/ })).toBeVisible();
  await page.keyboard.press('r');
  await expect(side.getByText('Up-bow, three notes.')).toBeVisible();
  await saved(page);
  await page.reload();
  await expectEngraved(page);
  await notesOf(page, 'A1').first().focus();
  await expect(side.getByText('Up-bow, three notes.')).toBeVisible();
});

test('draws the hair at the tempo that is heard', async ({ page }) => {
  await seedTune(page, 'A2 B2 c2 d2 | e8 | A2 B2 c2 d2 | e8 |]');
  await goToPass(page, 'Bow');
  await notesOf(page, 'A1').nth(1).focus();
  const place = page.getByText(/^Up-bow, one note\. From/);
  await expect(place).toBeVisible();
  const before = await place.textContent();
  await page.getByRole('slider', { name: /tempo/i }).press('ArrowLeft');
  for (let step = 0; step < 8; step += 1) await page.getByRole('slider', { name: /tempo/i }).press('ArrowLeft');
  await expect(place).not.toHaveText(before!);
});

test('lifts, stops and walks through patterns by keys alone, and tells what cannot be', async ({ page }) => {
  await seedTune(page, 'A2 B2 cd e2 | f8 | A2 B2 cd e2 | f8 |]');
  await goToPass(page, 'Bow');
  const notes = notesOf(page, 'A1');
  await notes.nth(1).focus();
  await page.keyboard.press('h');
  await expect(page.getByText('Down-bow, after a stop, one note.')).toBeVisible();
  await page.keyboard.press('k');
  await expect(page.getByRole('alert').filter({ hasText: 'no time to lift' })).toBeVisible();
  await page.keyboard.press('k');
  await expect(page.getByText('Up-bow, one note.')).toBeVisible();
  await notes.nth(3).focus();
  for (const _ of ['separate', 'pairs']) await page.keyboard.press('n');
  await expect(page.getByText('Down-bow, two notes.')).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('cell', { name: 'take what brings the bow back' })).toBeVisible();
  await page.keyboard.press('Escape');
});

test('shows the whole tune on a chart, counts by another system, and nothing in it keeps anybody out', async ({
  page,
}) => {
  await seedTune(page, HORNPIPE, IN_B_FLAT);
  await goToPass(page, 'Bow');
  await page.getByRole('button', { name: 'The whole tune, large' }).click();
  const chart = page.getByRole('dialog').getByRole('img', { name: /650 mm of hair/ });
  await expect(chart).toBeVisible();
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByText('Slurs, signs, regions, counting').click();
  await page.getByRole('combobox', { name: 'Counting' }).press('Enter');
  await page.getByRole('option', { name: /^ta ka di mi/ }).click();
  await saved(page);
  await expectAccessible(page);
  await goToPass(page, 'Sheet');
  await page.getByRole('checkbox', { name: 'Counts' }).press('Space');
  await expect(page.getByRole('img', { name: 'Page 1 of' }).getByText('ki').first()).toBeAttached();
});

test('plans the strokes of a part, sets signs by keys, and both stay over a reload', async ({ page }) => {
  await seedTune(
    page,
    'G3A B3c | d3c B3A | G3A B3c | d3B A3F | G3A B3c | d3c B3A | B3G A3F | G8 |]',
    'M:4/4\nL:1/8\nK:G',
  );
  await goToPass(page, 'Bow');
  const side = page.getByRole('complementary', { name: 'Strokes and the hair' });
  const notes = notesOf(page, 'A1');
  await notes.first().focus();
  await side.getByRole('button', { name: 'For the tune' }).click();
  await expect(side.getByText(/^For the tune, repeats counted: .*fewer strokes? that stick/)).toBeVisible();
  await side.getByRole('button', { name: 'Hear it', exact: true }).last().click();
  await expect(page.getByRole('button', { name: 'Stop', exact: true }).first()).toBeVisible();
  await side.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByRole('button', { name: /^Undo/ })).toBeEnabled();
  await notes.first().focus();
  await page.keyboard.press('x');
  await page.keyboard.press('c');
  const signs = side.getByRole('group', { name: 'Signs on this note' });
  await expect(signs.getByRole('button', { name: /^Accent/ })).toHaveAttribute('aria-pressed', 'true');
  await expect(signs.getByRole('button', { name: /^Dot/ })).toHaveAttribute('aria-pressed', 'true');
  await saved(page);
  await page.reload();
  await expectEngraved(page);
  await notes.first().focus();
  await expect(signs.getByRole('button', { name: /^Accent/ })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('x');
  await expect(signs.getByRole('button', { name: /^Accent/ })).toHaveAttribute('aria-pressed', 'false');
});

test('keeps the school of a part, a region and inches, and settles both hands', async ({ page }) => {
  await seedTune(page, '|: A2 B2 cd e2 | f8 :| |: g2 f2 ed c2 | B8 :|');
  await goToPass(page, 'Bow');
  const side = page.getByRole('complementary', { name: 'Strokes and the hair' });
  await notesOf(page, 'A1').nth(1).focus();
  await page.getByText('Slurs, signs, regions, counting').click();
  await side.getByRole('combobox', { name: 'School of part B' }).press('Enter');
  await page.getByRole('option', { name: 'Down on the beat' }).click();
  await side.getByRole('combobox', { name: /^Part of the bow/ }).press('Enter');
  await page.getByRole('option', { name: 'Middle' }).click();
  await side.getByLabel('Inches').press('Space');
  await expect(side.getByText(/From [\d.]+ in to [\d.]+ in/)).toBeVisible();
  await side.getByRole('button', { name: 'Settle both hands' }).click();
  await expect(side.getByText(/^(Both hands are settled|Settled)/)).toBeVisible();
  await saved(page);
  await page.reload();
  await expectEngraved(page);
  await page.getByText('Slurs, signs, regions, counting').click();
  await expect(side.getByRole('combobox', { name: 'School of part B' })).toBeVisible();
  await expect(side.locator('.v-select', { hasText: 'School of part B' })).toContainText('Down on the beat');
  await notesOf(page, 'A1').nth(1).focus();
  await expect(side.getByText(/From [\d.]+ in to [\d.]+ in/)).toBeVisible();
});

test('shows the count while it plays', async ({ page }) => {
  await seedTune(page, 'A2 B2 cd e2 | f8 |]');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Player' }).locator('.count')).toHaveText(/^[1-4]$/);
});

/** The Grades pass as a teacher uses it. */
import { expect } from '@playwright/test';
import { expectAccessible, goToPass, seedTune, test } from './support.ts';

test('shows the six steps, the tune’s own among them, and what keeps it from a lower one', async ({ page }) => {
  await seedTune(page, 'D2 E2 F2 D2 | FG A2 F4 | D2 E2 F2 D2 | A4 D4 |]', 'M:4/4\nL:1/8\nQ:1/4=60\nK:D');
  await goToPass(page, 'Grades');
  const steps = page.getByRole('list', { name: 'Steps' });
  const own = steps.getByRole('button', { name: /^2 ✓? ?All strings the tune as it is/ });
  await expect(own).toBeVisible();
  await expect(own).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByText('The tune fits, as it stands.')).toBeVisible();
  await steps.getByRole('button', { name: /^1 First pieces/ }).press('Enter');
  await expect(page.getByText('A bow to each note.')).toBeVisible();
  await page.getByRole('button', { name: /^Too short a note/ }).click();
  await expect(page.getByRole('group', { name: 'Notes of phrase A1' }).getByRole('button').nth(4)).toBeFocused();
  await expectAccessible(page);
});

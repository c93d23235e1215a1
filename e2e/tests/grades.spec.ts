/** The Grades pass as a teacher uses it. */
import { expect, type Page } from '@playwright/test';
import { expectAccessible, expectEngraved, goToPass, notesOf, saved, seedTune, test } from './support.ts';

const sideOf = (page: Page) => page.getByRole('complementary', { name: 'Versions, easier and richer' });

/** A version for a grade, as a teacher asks for it. */
async function makeGrade(page: Page, grade: number): Promise<void> {
  const side = sideOf(page);
  await side
    .getByRole('list', { name: 'Steps' })
    .getByRole('button', { name: new RegExp(`^${grade} `) })
    .press('Enter');
  await side.getByRole('button', { name: `Make it a grade ${grade} for the violin` }).press('Enter');
}

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

test('makes a grade 1 and a grade 4, drops a change, hears both, undoes, and keeps it over a reload', async ({
  page,
}) => {
  await seedTune(
    page,
    'D2 |: G2BG dGBG | ABcA BGAB | c2ec B2dB | A2F2 D4 | G2BG dGBG | ABcA BGAB | c2ec BdAF | G6 D2 :|',
    'M:4/4\nL:1/8\nQ:1/4=120\nK:G',
  );
  await goToPass(page, 'Grades');
  const side = sideOf(page);
  await makeGrade(page, 1);
  await expect(side.getByText(/% like the tune\. It keeps its promise\./)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Arrangement: Grade 1, violin/ })).toBeVisible();
  const changes = side.getByRole('list', { name: 'Changes' });
  await expect(changes.getByText(/left out\./).first()).toBeVisible();
  await side.getByRole('button', { name: 'A1 in the tune' }).click();
  await expect(page.getByRole('button', { name: 'Stop', exact: true }).first()).toBeVisible();
  await side.getByRole('button', { name: 'A1 here' }).click();
  // A beat of the tune comes back, and the promise is broken there; undone, it is kept again.
  await changes
    .getByRole('button', { name: /^Bar 2, beat 1: as in the tune/ })
    .first()
    .click();
  await expect(side.getByRole('heading', { name: 'Not met' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(side.getByText('It keeps its promise.', { exact: false })).toBeVisible();
  await changes
    .getByRole('button', { name: /^Bar 2, beat 1: as in the tune/ })
    .first()
    .click();
  await expect(side.getByRole('heading', { name: 'Not met' })).toBeVisible();
  await saved(page);
  await page.reload();
  await expectEngraved(page);
  // The desk opens with the tune; its versions are chosen at the top.
  await page.getByRole('button', { name: /^Arrangement: / }).click();
  await page
    .getByRole('option', { name: 'Grade 1, violin' })
    .or(page.getByRole('listitem').filter({ hasText: 'Grade 1, violin' }))
    .first()
    .click();
  await expect(side.getByRole('heading', { name: 'Not met' })).toBeVisible();
  await makeGrade(page, 4);
  await expect(changes.getByRole('button', { name: /leave it out$/ }).first()).toBeVisible();
  await expectAccessible(page);
});

test('changes a contract, and shows what is not met; names the version', async ({ page }) => {
  await seedTune(
    page,
    'd3e f2d2 | g3f e2A2 | f3e d2B2 | A6 A2 | d3e f2d2 | g3f e2c2 | d2f2 e2c2 | d8 |]',
    'M:4/4\nL:1/8\nQ:1/4=96\nK:D',
  );
  await goToPass(page, 'Grades');
  const side = sideOf(page);
  await makeGrade(page, 2);
  await expect(side.getByText('It keeps its promise.', { exact: false })).toBeVisible();
  await side.getByText('The contract', { exact: true }).click();
  await side.getByRole('spinbutton', { name: 'Semitones from lowest to highest' }).fill('3');
  await side.getByRole('spinbutton', { name: 'Semitones from lowest to highest' }).press('Tab');
  await expect(side.getByRole('heading', { name: 'Not met' })).toBeVisible();
  await expect(side.getByText('The contract: My all strings')).toBeVisible();
  await side.getByRole('textbox', { name: 'Name', exact: true }).fill('Second-years');
  await side.getByRole('textbox', { name: 'Name', exact: true }).press('Enter');
  await expect(page.getByRole('button', { name: /^Arrangement: Second-years/ })).toBeVisible();
});

test('keeps a note by the keyboard alone', async ({ page }) => {
  await seedTune(
    page,
    'G2BG dGBG | ABcA BGAB | c2ec B2dB | A2F2 D4 | G2BG dGBG | ABcA BGAB | c2ec BdAF | G8 |]',
    'M:4/4\nL:1/8\nQ:1/4=120\nK:G',
  );
  await goToPass(page, 'Grades');
  const side = sideOf(page);
  await makeGrade(page, 2);
  await expect(side.getByText(/% like the tune/)).toBeVisible();
  await notesOf(page, 'A1').nth(1).focus();
  await page.keyboard.press('l');
  await expect(side.getByRole('button', { name: /^This note stays/ })).toHaveAttribute('aria-pressed', 'true');
});

test('lays the versions under each other, and plays them together', async ({ page }) => {
  await seedTune(
    page,
    'd3e f2d2 | g3f e2A2 | f3e d2B2 | A6 A2 | d3e f2d2 | g3f e2c2 | d2f2 e2c2 | d8 |]',
    'M:4/4\nL:1/8\nQ:1/4=96\nK:D',
  );
  await goToPass(page, 'Grades');
  const side = sideOf(page);
  await makeGrade(page, 2);
  await expect(side.getByText(/% like the tune/)).toBeVisible();
  await side.getByRole('button', { name: 'All 2 versions, beat under beat' }).click();
  const dialog = page.getByRole('dialog');
  await expect(
    dialog.getByRole('img', { name: /^Grade 2, violin: \d+ notes, \d+ of them not as in the tune/ }),
  ).toBeVisible();
  await expect(dialog.getByRole('img', { name: /^The tune, violin: \d+ notes, 0 of them/ })).toBeVisible();
  await dialog.getByRole('button', { name: 'All together' }).click();
  await expect(page.getByRole('button', { name: 'Stop', exact: true }).first()).toBeAttached();
  await expectAccessible(page);
});

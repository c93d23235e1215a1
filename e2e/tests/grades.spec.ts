/** The Grades pass as a teacher uses it. */
import { expect, type Locator, type Page } from '@playwright/test';
import { expectAccessible, expectEngraved, findTune, goToPass, notesOf, saved, seedTune, test } from './support.ts';

const sideOf = (page: Page) => page.getByRole('complementary', { name: 'Versions, easier and richer' });

const MARCH = 'd3e f2d2 | g3f e2A2 | f3e d2B2 | A6 A2 | d3e f2d2 | g3f e2c2 | d2f2 e2c2 | d8 |]';
const REEL = 'G2BG dGBG | ABcA BGAB | c2ec B2dB | A2F2 D4 | G2BG dGBG | ABcA BGAB | c2ec BdAF | G8 |]';

/** A tune on the desk, with its versions at the side. */
async function openGrades(page: Page, music: string, header: string): Promise<Locator> {
  await seedTune(page, music, header);
  await goToPass(page, 'Grades');
  return sideOf(page);
}

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

test('says before it is made what a version would be, and makes it slower', async ({ page }) => {
  const side = await openGrades(
    page,
    'B2d BAG E2G | DEB c2A AGF | B2d BAG E2G | F2A G3 G3 |]',
    'M:9/8\nL:1/8\nQ:3/8=120\nK:G',
  );
  const steps = side.getByRole('list', { name: 'Steps' });
  await steps.getByRole('button', { name: /^2 / }).press('Enter');
  await expect(side.getByText(/\d+ % like the tune\./)).toBeVisible({ timeout: 30_000 });
  const slower = side.getByRole('button', { name: /^Slower, at dotted quarter = \d+: \d+ %/ });
  const tempo = /= (\d+)/.exec((await slower.textContent())!)![1]!;
  await slower.press('Enter');
  await expect(steps.getByRole('button', { name: /^2 .*this version/ })).toBeVisible({ timeout: 30_000 });
  await saved(page);
  await expect(page.getByText(new RegExp(`100 % · dotted quarter = ${tempo}$`))).toBeVisible();
  await expectAccessible(page);
});

test('makes a line that goes with the tune, hears both, takes another note, undoes, and keeps it over a reload', async ({
  page,
}) => {
  const side = await openGrades(page, REEL, 'M:4/4\nL:1/8\nQ:1/4=160\nK:G');
  const steps = side.getByRole('list', { name: 'Steps' });
  await steps.getByRole('button', { name: /^1 / }).press('Enter');
  const offered = side.getByRole('button', { name: 'Open strings, grade 1' });
  if (!(await offered.isVisible())) await side.getByText('Or a line that goes with it').press('Enter');
  await offered.press('Enter');
  await expect(side.getByRole('heading', { name: 'Open strings, grade 1' })).toBeVisible({ timeout: 30_000 });
  await expect(side.getByText('It keeps its promise.')).toBeVisible();
  await expectEngraved(page);
  // Every finger of it is an open string, but where the chord has none.
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/open/);
  await notesOf(page, 'A1').first().click();
  await expect(side.getByText(/^[A-G], the (root|fifth) of G; .* under the tune\.$/)).toBeVisible();
  await side.getByRole('button', { name: 'A1 with the tune' }).press('Enter');
  await expect(page.getByRole('button', { name: 'Stop' }).first()).toBeVisible();
  await page.keyboard.press('Escape');
  const other = side.getByRole('group', { name: 'Another note here' }).getByRole('button').first();
  const name = (await other.textContent())!.trim();
  await other.press('Enter');
  await expect(side.getByText(new RegExp(`^${name.replace(/\d/, '')}, `))).toBeVisible();
  await side.getByRole('button', { name: 'As it was', exact: true }).press('Enter');
  await expect(side.getByRole('button', { name: 'As it was', exact: true })).toBeHidden();
  await saved(page);
  await expectAccessible(page);
  await page.reload();
  await expect(side.getByRole('heading', { name: 'Open strings, grade 1' })).toBeVisible({ timeout: 30_000 });
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
  await expect(side.getByText('Up to grade 2')).toBeVisible();
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
  const side = await openGrades(page, MARCH, 'M:4/4\nL:1/8\nQ:1/4=96\nK:D');
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
  await saved(page);
  // Another tune's versions can use it.
  const other = await openGrades(page, REEL, 'M:4/4\nL:1/8\nQ:1/4=120\nK:G');
  await makeGrade(page, 2);
  await expect(other.getByText(/% like the tune/)).toBeVisible();
  await other.getByText('The contract', { exact: true }).click();
  await other
    .getByRole('button', { name: /^Use “My all strings”/ })
    .first()
    .click();
  await expect(other.getByText('The contract: My all strings')).toBeVisible();
});

test('keeps a note by the keyboard alone', async ({ page }) => {
  const side = await openGrades(page, REEL, 'M:4/4\nL:1/8\nQ:1/4=120\nK:G');
  await makeGrade(page, 2);
  await expect(side.getByText(/% like the tune/)).toBeVisible();
  await notesOf(page, 'A1').nth(1).focus();
  await page.keyboard.press('l');
  await expect(side.getByRole('button', { name: /^This note stays/ })).toHaveAttribute('aria-pressed', 'true');
});

test('lays the versions under each other, and plays them together', async ({ page }) => {
  const side = await openGrades(page, MARCH, 'M:4/4\nL:1/8\nQ:1/4=96\nK:D');
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

const SONG =
  'D2 | "D"D2D2 F2F2 | "G"G3F "A"E2A2 | "D"D2D2 F2F2 | "A"E6 D2 | "D"D2D2 F2F2 | "G"G3F "A"E2C2 | "D"D2F2 "A"E2C2 | "D"D6 |]\n' +
  'w: Now bring the lamp in, the wind has turned, now bring the lamp in, low now bring the lamp in, the wind has turned to the sea to-night';

test('makes it a grade 2 for the cello from any pass, by the keyboard alone', async ({ page }) => {
  await seedTune(page, SONG, 'M:4/4\nL:1/8\nQ:1/4=90\nK:D');
  await goToPass(page, 'Hand');
  await page.keyboard.press('w');
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('button', { name: 'The tune for the violin: on the desk' })).toBeVisible();
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Grade 2 for the cello: make' }).press('Enter');
  await expect(page.getByRole('button', { name: /^Arrangement: Grade 2, cello/ })).toBeVisible();
  await expectEngraved(page);
  // What is there already is shown, and not made twice.
  await page.keyboard.press('w');
  await dialog.getByRole('button', { name: 'The tune for the violin: show' }).click();
  await expect(page.getByRole('button', { name: /^Arrangement: The tune, violin/ })).toBeVisible();
  // From the library too.
  await findTune(page, 'Salt on the Sill');
  await page
    .getByRole('button', { name: 'A version of Salt on the Sill for a grade and an instrument' })
    .press('Enter');
  await expect(dialog.getByRole('button', { name: 'Grade 1 for the bass: make' })).toBeVisible();
});

test('loosens what is sung for strings, and takes single changes back', async ({ page }) => {
  await seedTune(page, SONG, 'M:4/4\nL:1/8\nQ:1/4=90\nK:D');
  await goToPass(page, 'Grades');
  const side = sideOf(page);
  // The tune is a grade 3 as it is: asked for as such.
  await page.keyboard.press('w');
  await page.getByRole('button', { name: 'Grade 3 for the violin: make' }).click();
  await side.getByRole('combobox', { name: 'Repeated notes' }).press('Enter');
  await page.getByRole('option', { name: 'Joined into one' }).click();
  const changes = side.getByRole('list', { name: 'Changes' });
  await expect(changes.getByText('D once, not again and again.').first()).toBeVisible();
  await expect(page.getByRole('img', { name: 'not as in the tune' }).first()).toBeAttached();
  const before = await changes.getByText(/once, not again/).count();
  await changes.getByRole('button', { name: /^Bar 1, beat 1: as in the tune/ }).click();
  await expect(changes.getByText(/once, not again/)).toHaveCount(before - 1);
  await side.getByRole('combobox', { name: 'Dotted notes' }).press('Enter');
  await page.getByRole('option', { name: 'Even, for strings' }).click();
  await expect(changes.getByText(/evenly, not dotted/).first()).toBeVisible();
});

test('plays a phrase an octave higher the second time, shown and undone', async ({ page }) => {
  await seedTune(page, '|: D2FD A,DFA | G2FG E2CE | D2FD A,DFA | AGFE D4 :|', 'M:4/4\nL:1/8\nQ:1/4=100\nK:D');
  await goToPass(page, 'Grades');
  const side = sideOf(page);
  await expect(side.getByRole('list', { name: 'Steps' })).toBeVisible();
  await side.getByRole('combobox', { name: 'The second time' }).press('Enter');
  await page.getByRole('option', { name: 'An octave higher' }).click();
  const rounds = page.getByRole('group', { name: 'Time round' });
  await expect(rounds.getByRole('button', { name: 'second time' })).toHaveAttribute('aria-pressed', 'true');
  await expect(notesOf(page, 'A1').first()).toHaveAttribute('aria-label', /^D5/);
  // What is looked at is what leaves.
  await goToPass(page, 'Sheet');
  await expect(page.getByRole('link', { name: 'MusicXML', exact: true })).toHaveAttribute('href', /round=2/);
  await expect(page.getByRole('link', { name: 'PDF' })).toHaveAttribute('href', /round=2/);
  await goToPass(page, 'Grades');
  await rounds.getByRole('button', { name: 'first time' }).click();
  await expect(notesOf(page, 'A1').first()).toHaveAttribute('aria-label', /^D4/);
  await saved(page);
  await page.keyboard.press('Control+z');
  await expect(rounds).toHaveCount(0);
});

test('shows found chords, takes a correction, and names the notes that fit', async ({ page }) => {
  await seedTune(page, 'D2F2 A2F2 | G2B2 A4 | D2F2 E2C2 | D8 |]', 'M:4/4\nL:1/8\nQ:1/4=90\nK:D');
  await goToPass(page, 'Grades');
  const side = sideOf(page);
  await side.getByText('Chords, and notes to improvise with').click();
  const first = side.getByRole('textbox', { name: 'Bar 1, beat 1, found' });
  await expect(first).toHaveValue('D');
  await expect(side.getByRole('img', { name: /^D: .*D4 D0/ }).first()).toBeVisible();
  await first.fill('Hm7x');
  await first.press('Tab');
  await expect(side.getByRole('alert')).toContainText('is no chord');
  await first.fill('Bm');
  await first.press('Tab');
  // Written over the tune: they are found no more.
  await expect(side.getByRole('textbox', { name: 'Bar 1, beat 1', exact: true })).toHaveValue('Bm');
  await expect(side.getByRole('img', { name: /^Bm: / }).first()).toBeVisible();
  await expectAccessible(page);
});

test('tells where an edit of the tune undid a wish', async ({ page }) => {
  const side = await openGrades(page, REEL, 'M:4/4\nL:1/8\nQ:1/4=120\nK:G');
  await makeGrade(page, 2);
  await expect(side.getByText(/% like the tune/)).toBeVisible();
  await notesOf(page, 'A1').nth(1).focus();
  await page.keyboard.press('l');
  await expect(side.getByRole('button', { name: /^This note stays/ })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('e');
  await page.keyboard.press('Delete');
  await page.keyboard.press('Escape');
  await goToPass(page, 'Grades');
  await expect(side.getByRole('heading', { name: 'Undone by an edit' })).toBeVisible();
  await side.getByRole('button', { name: 'Let these wishes go' }).click();
  await expect(side.getByRole('heading', { name: 'Undone by an edit' })).toHaveCount(0);
});

import { expect, type Page } from '@playwright/test';
import {
  choose,
  expectAccessible,
  expectEngraved,
  findTune,
  goToPass,
  marked,
  notesOf,
  openTune,
  saved,
  seedTune,
  selectedNote,
  test,
} from './support.ts';

const REEL =
  'D2 |: G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG FDEF | G2BG dGBG | ABcA BGAB | c2ec B2dB | AFDF G2D2 :|\n|: d2gd Bdgd | e2ge cege | d2gd BdAc | BAGB A2Bc | d2gd Bdgd | e2gf edcB | c2ec BdAc | BAGF G4 :|';

const strip = (page: Page, label: string) => page.getByRole('region', { name: `Phrase ${label}`, exact: true });
const steps = (page: Page) => page.getByRole('complementary', { name: 'Parts and phrases' }).getByRole('listitem');

test('hears a phrase looped, moves its boundary by keys; it stays after a reload and whatever else is decided', async ({
  page,
}) => {
  await seedTune(page, REEL);
  await goToPass(page, 'Parts');
  await expect(strip(page, 'A2')).toContainText('like A1 but for bar 8 and the pickup');
  await notesOf(page, 'A2').first().focus();
  const before = await notesOf(page, 'A2').count();
  await page.keyboard.press('o');
  await page.keyboard.press('p');
  await expect(marked(page, 'sounds now')).toHaveCount(1, { timeout: 20_000 });
  // The bead of the bar that sounds goes along.
  const beads = page.getByRole('navigation', { name: 'Form of the tune' }).getByRole('listitem').nth(1);
  await expect(beads.getByRole('button', { name: /, here$/ })).toHaveCount(1);
  await page.keyboard.press('p');
  await expect(marked(page, 'sounds now')).toHaveCount(0);

  await page.keyboard.press('.');
  await expect(notesOf(page, 'A2')).toHaveCount(before - 1);
  await page.keyboard.press('.');
  await expect(notesOf(page, 'A2')).toHaveCount(before - 2);
  await expect(strip(page, 'A2').getByRole('img', { name: 'kept as it is' })).toBeVisible();
  await saved(page);
  await page.reload();
  await expectEngraved(page);
  await expect(notesOf(page, 'A2')).toHaveCount(before - 2);

  // Worked out anew in another key and version, it is where it was set.
  await goToPass(page, 'Grades');
  await page.getByRole('button', { name: /^Bare/ }).click();
  await expect(notesOf(page, 'A2').first()).toHaveAccessibleName(/^G4/);
  await page.getByRole('button', { name: /^Undo: move a boundary/ }).click();
  await page.getByRole('button', { name: /^Undo: move a boundary/ }).click();
  await expect(page.getByRole('button', { name: /^Redo: move a boundary/ })).toBeEnabled();
});

test('splits, joins, names and keeps phrases, and begins a part', async ({ page }) => {
  await seedTune(page, REEL);
  await goToPass(page, 'Parts');
  await notesOf(page, 'A1').nth(9).click();
  await page.keyboard.press('b');
  await expect(strip(page, 'A3')).toBeVisible();
  await page.keyboard.press('g');
  // Typing does not wait for the new part, which gives the phrase another name meanwhile.
  await page.keyboard.press('n');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('The turn');
  await expect(strip(page, 'C1')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(strip(page, 'The turn')).toBeVisible();
  await saved(page);
  await page.reload();
  await expectEngraved(page);
  await expect(strip(page, 'The turn')).toBeVisible();
  await notesOf(page, 'The turn').first().focus();
  await page.keyboard.press('j');
  await expect(strip(page, 'The turn')).toBeVisible();
  // The very first place cannot move, and that is said.
  await notesOf(page, 'The turn').first().focus();
  await page.keyboard.press('j');
  await expect(page.getByRole('alert')).toContainText('There is no phrase before this one.');
  await page.getByRole('button', { name: 'Part all as Nokta finds it' }).click();
  await expect(strip(page, 'A1')).toBeVisible();
  await expect(strip(page, 'The turn')).toHaveCount(0);
});

test('moves a boundary by dragging, to the note on the strip and by bars on the bead rail', async ({ page }) => {
  await seedTune(page, REEL);
  await goToPass(page, 'Parts');
  await expect(notesOf(page, 'A2')).not.toHaveCount(0);
  const before = await notesOf(page, 'A2').count();
  const handle = strip(page, 'A2').getByTestId('handle-start');
  const from = (await handle.boundingBox())!;
  const to = (await notesOf(page, 'A2').nth(3).boundingBox())!;
  await page.mouse.move(from.x + from.width / 2, from.y + 40);
  await page.mouse.down();
  await page.mouse.move(to.x - 4, to.y + 40, { steps: 5 });
  await page.mouse.up();
  await expect(notesOf(page, 'A2')).toHaveCount(before - 3);

  // The last bead of A1 goes down to A2.
  const rail = page.getByRole('navigation', { name: 'Form of the tune' });
  const bead = (await rail.getByRole('listitem').nth(0).getByRole('button').last().boundingBox())!;
  const row = (await rail.getByRole('listitem').nth(1).boundingBox())!;
  await expect(notesOf(page, 'A1')).not.toHaveCount(0);
  const inA1 = await notesOf(page, 'A1').count();
  await page.mouse.move(bead.x + 8, bead.y + 8);
  await page.mouse.down();
  await page.mouse.move(row.x + 40, row.y + row.height / 2, { steps: 5 });
  await page.mouse.up();
  await expect.poll(() => notesOf(page, 'A1').count()).toBeLessThan(inA1);
  await page.keyboard.press('Control+z');
  await expect(notesOf(page, 'A1')).toHaveCount(inA1);
});

test('shows a difference in both places, and the weave of the tune', async ({ page }) => {
  await openTune(page, 'Who Left the Gate Open?');
  await goToPass(page, 'Parts');
  await expect(strip(page, 'A1')).toContainText('question');
  await expect(strip(page, 'A2')).toContainText('answer');
  await notesOf(page, 'A2').first().click();
  const panel = page.getByRole('complementary', { name: 'Parts and phrases' });
  await panel.getByText(/^bars 3–4: F♯ G instead of/).hover();
  await expect(marked(strip(page, 'A1'), 'pointed at')).toHaveCount(2);
  await expect(marked(strip(page, 'A2'), 'pointed at')).toHaveCount(2);
  const weave = page.getByRole('region', { name: 'How the tune is woven' });
  await expect(weave).toContainText('Learn 10 bars, play 32.');
  await weave.getByRole('button', { name: 'Bar 5 is bar 1' }).click();
  await expect(selectedNote(page)).toHaveAccessibleName(/^B4/);
  // Along its line to the other place of the bar, and to the bar after it.
  const bead = (name: string | RegExp) => weave.getByRole('button', { name });
  await bead('Bar 5 is bar 1').focus();
  await page.keyboard.press('ArrowUp');
  await expect(bead(/^Bar 1, new/)).toBeFocused();
  await expect(marked(strip(page, 'A1'), 'pointed at')).not.toHaveCount(0);
  await page.keyboard.press('ArrowDown');
  await expect(bead('Bar 5 is bar 1')).toBeFocused();
  await page.keyboard.press('ArrowRight');
  await expect(bead(/^Bar 6/)).toBeFocused();
});

test('the order of learning is made from the keyboard and by dragging, and kept', async ({ page }) => {
  await seedTune(page, REEL);
  await goToPass(page, 'Parts');
  await page.getByRole('tab', { name: 'Learn' }).click();
  const labels = () => steps(page).getByRole('strong').allTextContents();
  expect(await labels()).toEqual(['A1', 'A2', 'B1', 'B2']);
  await page.getByRole('button', { name: 'Most tune first' }).click();
  await expect.poll(labels).toEqual(['A1', 'B1', 'A2', 'B2']);
  await steps(page)
    .nth(3)
    .getByRole('button', { name: /new bars?/ })
    .focus();
  await page.keyboard.press('Alt+ArrowUp');
  await expect.poll(labels).toEqual(['A1', 'B1', 'B2', 'A2']);
  await steps(page).nth(2).dragTo(steps(page).nth(0));
  await expect.poll(labels).toEqual(['B2', 'A1', 'B1', 'A2']);
  await saved(page);
  await page.reload();
  await expectEngraved(page);
  await page.getByRole('tab', { name: 'Learn' }).click();
  await expect.poll(labels).toEqual(['B2', 'A1', 'B1', 'A2']);
  await expectAccessible(page);
});

test('plays part, phrase and chosen notes, counted in, with beat and drone', async ({ page }) => {
  await seedTune(page, REEL);
  const player = page.getByRole('region', { name: 'Player' });
  await player.getByRole('button', { name: 'Sound' }).click();
  await choose(page, 'Count-in', 'A bar of eighths');
  await choose(page, 'Drone', 'Home note and fifth');
  await page.getByLabel('Metronome').check();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  await expect(player.getByRole('button', { name: 'With count-in, beat, drone' })).toBeVisible();
  await player.getByRole('radio', { name: 'Play part A' }).click();
  await player.getByRole('button', { name: 'Play' }).click();
  await expect(marked(page, 'sounds now')).toHaveCount(1, { timeout: 20_000 });
  await player.getByRole('button', { name: 'Stop' }).click();

  // Several notes are chosen with Shift; then they are what is played.
  await notesOf(page, 'A1').nth(1).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(player.getByRole('radio', { name: 'Play the chosen notes' })).toHaveAttribute('aria-checked', 'true');
  await page.keyboard.press('Space');
  // Looked for at each frame: three eighths are soon over.
  await page.waitForFunction(() => document.querySelectorAll('.column.sounding').length === 1);
  await expect(player.getByRole('button', { name: 'Play' })).toBeVisible();
});

test('looks the tune over, and the library finds it by how it is made', async ({ page }) => {
  await openTune(page, 'Kettle on the Stove');
  const panel = page.getByRole('complementary', { name: 'What it is, and how it sounds' });
  await expect(panel).toContainText('AABA');
  await expect(panel).toContainText('F4: low 2 on the D string');
  await panel.getByRole('button', { name: /^E♭ in bars/ }).click();
  await expect(selectedNote(page)).toHaveAccessibleName(/^E♭5/);
  await findTune(page, 'Who Left the Gate Open?');
  await page.getByRole('textbox', { name: 'Find by title' }).fill('');
  await page.getByRole('button', { name: 'Build' }).click();
  await page.getByRole('checkbox', { name: /^octave echo/ }).check();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: 'Two Bells at the Quay' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Salt on the Sill' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Show all' }).click();
  await page.getByRole('textbox', { name: 'Find by title' }).fill('AABA 32 bars');
  await expect(page.getByRole('link', { name: 'Kettle on the Stove' })).toBeVisible();
});

import { expect, type Page } from '@playwright/test';
import { expectAccessible, expectEngraved, goToPass, notesOf, openTune, saved, seedTune, test } from './support.ts';

/** The tune as ABC, as the server has it. */
async function abcOf(page: Page): Promise<string> {
  await saved(page);
  const id = /tune\/([\w-]+)/.exec(page.url())![1]!;
  const response = await page.request.get(`/api/tunes/${id}`);
  const { arrangements } = (await response.json()) as { arrangements: { id: string }[] };
  const abc = await (await page.request.get(`/api/arrangements/${arrangements[0]!.id}/tune.abc`)).text();
  return abc.slice(abc.indexOf('K:')).replace(/![a-z0-9]+!/g, '');
}

const panel = (page: Page) => page.getByRole('complementary', { name: 'What it is, and how it sounds' });

test('types a tune in from nothing: pickup, bar lines, triplet, tie, repeat', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Bring a tune in' }).first().click();
  await page.getByRole('button', { name: 'Write a new tune' }).click();
  await expect(page.getByLabel('Writing')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Done' })).toBeVisible();
  // Eighths: a pickup, then two bars; bar lines fall by themselves.
  await page.keyboard.type('8ga|');
  await page.keyboard.type('4b8gd4g8gb');
  await page.keyboard.type('8d4d8c3bag4g');
  await page.keyboard.type(':');
  await expect(page.getByRole('group', { name: /^Notes of bars 0 to 2/ })).toBeVisible();
  const abc = await abcOf(page);
  expect(abc).toMatch(/GA \| B2 GD G2 GB \| dd2 c/);
  expect(abc).toContain('(3:2:3BAG');
  expect(abc).toContain(':|');
  await expectAccessible(page);
  await page.reload();
  await expectEngraved(page);
  expect(await notesOf(page, 'A1').count()).toBeGreaterThan(10);
});

test('mends a broken bar from the keyboard', async ({ page }) => {
  await seedTune(page, 'G2BG dGBG | ABcA BG2 | c2ec B2dB | G8 |');
  await expect(panel(page)).toContainText('Bar 2 is an eighth too short for 4/4.');
  await page.keyboard.press('e');
  await page.keyboard.press('m');
  await expect(panel(page).getByRole('group', { name: 'What is wrong here' })).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('r');
  await expect(panel(page)).toContainText('Every bar adds up.');
  expect(await abcOf(page)).toContain('AB cA BG3');
  await page.keyboard.press('Control+z');
  await expect(panel(page)).toContainText('Bar 2 is an eighth too short');
  await page.keyboard.press('Control+Shift+z');
  await expect(panel(page)).toContainText('Every bar adds up.');
});

test('undoes and does again across a reload, through tune and decisions alike', async ({ page }) => {
  await seedTune(page, 'G4 A4 | B8 |');
  await page.keyboard.press('e');
  await page.keyboard.press('Home');
  await page.keyboard.press('d');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('e');
  expect(await abcOf(page)).toContain('D4 E4 | B8');
  await page.reload();
  await expectEngraved(page);
  await page.getByRole('button', { name: 'Undo: change to E' }).click();
  await page.getByRole('button', { name: 'Undo: change to D' }).click();
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
  expect(await abcOf(page)).toContain('G4 A4 | B8');
  await page.getByRole('button', { name: 'Redo: change to D' }).click();
  expect(await abcOf(page)).toContain('D4 A4 | B8');
});

test('copies and pastes bars, writes words and chords', async ({ page }) => {
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await seedTune(page, 'G4 A4 | B4 c4 |');
  await page.keyboard.press('e');
  await page.keyboard.press('Home');
  await page.keyboard.press('w');
  await page.keyboard.type('har-bour light');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Home');
  await page.keyboard.press('h');
  await page.keyboard.type('Em');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Home');
  await page.keyboard.press('Control+c');
  await page.keyboard.press('End');
  await page.keyboard.press('Control+v');
  const abc = await abcOf(page);
  expect(abc.match(/"Em"G4 A4 \|/g)).toHaveLength(2);
  expect(abc).toContain('w:har-bour light');
  expect(abc).toContain('w:har-bour\n');
});

test('takes words that are typed at once, while the picture is still being made', async ({ page }) => {
  await seedTune(page, 'G4 A4 | B4 c4 |');
  await page.evaluate(() => {
    const post = Worker.prototype.postMessage;
    Worker.prototype.postMessage = function (message: unknown, options: never) {
      setTimeout(() => post.call(this, message, options), 1500);
    };
  });
  await page.keyboard.press('e');
  await page.keyboard.press('Home');
  await page.keyboard.press('w');
  await page.keyboard.type('har-bour');
  await page.keyboard.press('Enter');
  const abc = await abcOf(page);
  expect(abc).toContain('G4 A4 | B4 c4');
  expect(abc).toContain('w:har-bour');
});

test('edits the same tune as ABC, both ways, and marks errors in place', async ({ page }) => {
  await seedTune(page, 'G4 A4 | B8 |');
  await page.getByRole('tab', { name: 'ABC' }).click();
  const text = page.getByRole('textbox', { name: 'ABC text of the tune' });
  await expect(text).toContainText('G4 A4 | B8');
  await text.click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type('d4 e4 |]');
  await expect(notesOf(page, 'A1')).toHaveCount(5);
  await page.keyboard.type(' [gb');
  await expect(panel(page)).toContainText('Put ] after its last note.');
  await expect(page.locator('.cm-lintRange-error')).not.toHaveCount(0);
  await expectAccessible(page);
  await page.keyboard.type('] ');
  await expect(panel(page)).not.toContainText('Put ] after its last note.');
  expect(await abcOf(page)).toContain('d4 e4');
});

test('keeps a named version, says what is different, and goes back to it', async ({ page }) => {
  await seedTune(page, 'G4 A4 | B8 | c8 |');
  await page.getByRole('tab', { name: 'Versions' }).click();
  await page.getByRole('textbox', { name: 'Name for how it is now' }).fill('Plain');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(panel(page)).toContainText('Plain');
  await page.getByRole('tab', { name: 'Tune', exact: true }).click();
  await page.keyboard.press('e');
  await page.keyboard.press('Home');
  await page.keyboard.press('d');
  await page.getByRole('tab', { name: 'Versions' }).click();
  await page.getByRole('button', { name: 'Compare' }).click();
  await expect(panel(page)).toContainText('bar 1: changed');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Go back to it' }).click();
  expect(await abcOf(page)).toContain('G4 A4 | B8 | c8');
});

test('sets metre, key and pickup for the bars, and keeps the fingers decided for notes that stay', async ({ page }) => {
  await seedTune(page, 'D2 G4 A2 | B2 c4 d2 | e8 |');
  await goToPass(page, 'Hand');
  await notesOf(page, 'A1').nth(2).focus();
  await page.keyboard.press('4');
  await expect(notesOf(page, 'A1').nth(2)).toHaveAccessibleName(/^A4, 4 on the D string.*kept/);
  await goToPass(page, 'Tune');
  await page.keyboard.press('e');
  await page.getByRole('combobox', { name: 'Pickup' }).focus();
  await page.keyboard.press('ArrowDown');
  await page.getByRole('option', { name: 'Quarter' }).click();
  expect(await abcOf(page)).toMatch(/D2 \| G4 A2 B2 \| c4 d2 e2- \|/);
  await page.getByRole('button', { name: 'Done' }).click();
  await expectEngraved(page);
  await expect(notesOf(page, 'A1').nth(2)).toHaveAccessibleName(/^A4, 4 on the D string.*kept/);
});

test('opens from the demo and sings: words stand under the notes while writing', async ({ page }) => {
  await openTune(page, 'Keep the Lantern Low');
  await page.keyboard.press('e');
  await expect(page.getByRole('group', { name: /^Notes of bars 0 to/ })).toContainText('boats');
});

test('writes by thumb: lengths, notes as the key has them, rest, tie and bar line, each large enough', async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await seedTune(page, 'D8 |]');
  await page.keyboard.press('e');
  await expect(page.getByLabel('Writing')).toBeVisible();
  await panel(page).getByRole('button', { name: 'Keypad' }).click();
  const keypad = page.getByRole('group', { name: 'Keypad' });
  await expect(keypad).toBeInViewport();
  for (const box of await keypad
    .getByRole('button')
    .evaluateAll((all) => all.map((one) => one.getBoundingClientRect())))
    expect(Math.min(box.width, box.height)).toBeGreaterThanOrEqual(40);
  await expectAccessible(page);
  const tap = (name: string) => keypad.getByRole('button', { name, exact: true }).click();
  await tap('to the end');
  for (const name of ['quarter', 'write F♯', 'tie', 'write F♯', 'rest', 'half', 'bar line', 'write A']) await tap(name);
  await expect.poll(() => abcOf(page)).toContain('F2- F2 z2 | A4');
});

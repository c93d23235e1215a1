/** The stand: a lesson with the keyboard, with the two keys of a pedal, with taps. */
import { expect, test, type Page } from '@playwright/test';
import { expectAccessible, goToPass, saved, seedTune } from './support.ts';

const TUNE = '|: G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG F2D2 :|: g2dg Bgdg | e2ce Aece | d2Bd GBdB | A2FA G4 :|';
const HEAD = 'M:4/4\nL:1/8\nQ:1/4=100\nK:G';

async function toStand(page: Page): Promise<void> {
  await seedTune(page, TUNE, HEAD);
  await page.evaluate(() => localStorage.removeItem('nokta-stand'));
  await page.goto(page.url().replace(/\/tune\/([^/?]+)[^?]*/, '/stand/$1'));
  await expect(page.getByRole('main', { name: 'The stand' }).locator('svg.score').first()).toBeVisible();
}
const map = (page: Page) => page.getByRole('list', { name: 'The lesson' });
const now = (page: Page) => map(page).locator('[aria-current="step"]');
const tempo = (page: Page, text: string) => expect(page.getByText(text, { exact: true })).toBeVisible();

test('teaches with the keyboard alone: plays, goes faster when it is clean, back when it is not, and on', async ({
  page,
}) => {
  await toStand(page);
  await expect(now(page)).toHaveAccessibleName('A1');
  await tempo(page, 'quarter = 60');
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Play' })).toBeVisible();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await tempo(page, 'quarter = 65');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await tempo(page, 'quarter = 60');
  for (let time = 0; time < 14; time += 1) await page.keyboard.press('ArrowUp');
  await tempo(page, 'quarter = 100');
  await expect(now(page)).toHaveAccessibleName('A1, learned');
  await page.keyboard.press('ArrowRight');
  await expect(now(page)).not.toHaveAccessibleName(/^A1(,|$)/);
  // It is all there after a reload: where the lesson is, and how fast each step was.
  const at = await now(page).getAttribute('aria-label');
  await page.reload();
  await expect(now(page)).toHaveAccessibleName(at!);
  await page.keyboard.press('ArrowLeft');
  await tempo(page, 'quarter = 100');
  await page.keyboard.press('Escape');
  await expect(page).toHaveURL(/\/tune\/.*\/teach/);
  await page.getByRole('link', { name: 'To the stand' }).click();
  await expect(now(page)).toHaveAccessibleName('A1, learned');
  await page.getByRole('button', { name: 'From the beginning' }).click();
  await tempo(page, 'quarter = 60');
});

test('goes through every step with the two keys of a pedal, from the first phrase to the tune', async ({ page }) => {
  await toStand(page);
  const steps = await map(page).getByRole('button').count();
  expect(steps).toBeGreaterThan(3);
  for (let step = 1; step < steps; step += 1) await page.keyboard.press('PageDown');
  await expect(now(page)).toHaveAccessibleName('the tune');
  await page.keyboard.press('PageUp');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  // The note that sounds is shown, phrase after phrase.
  await expect(page.getByRole('main').locator('.column.sounding').first()).toBeAttached();
  await page.keyboard.press('PageUp');
});

test('is taught with taps: anywhere plays, and what is learned stays on the map', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 800 });
  await toStand(page);
  await page.getByRole('main').click({ position: { x: 40, y: 200 } });
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.getByRole('main').click({ position: { x: 40, y: 200 } });
  await page.getByRole('button', { name: 'Clean' }).click();
  await page.getByRole('button', { name: 'Clean' }).click();
  await tempo(page, 'quarter = 65');
  await page.getByRole('button', { name: 'Next step' }).click();
  await map(page).getByRole('button', { name: 'A1', exact: true }).click();
  await tempo(page, 'quarter = 65');
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
  expect(wide).toBeLessThanOrEqual(0);
});

test('shows staff, tab or both, and has nothing serious for axe', async ({ page }) => {
  await toStand(page);
  const score = page.getByRole('main').locator('svg.score').first();
  await page.getByRole('button', { name: 'Tab', exact: true }).click();
  await expect(score).toBeVisible();
  for (const theme of ['light', 'dark']) {
    await page.evaluate((name) => localStorage.setItem('nokta-theme', name), theme);
    await page.reload();
    await expect(score).toBeVisible();
    await expectAccessible(page);
  }
  await page.evaluate(() => localStorage.removeItem('nokta-theme'));
});

test('has the lesson as the teacher wants it: moved by key, left out, once more; undone, kept, printed', async ({
  page,
}) => {
  await seedTune(page, TUNE, HEAD);
  await goToPass(page, 'Teach');
  const list = page.getByRole('region', { name: 'The lesson' });
  const steps = list.getByRole('checkbox');
  const names = () => steps.evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')!.split(',')[0]));
  await expect(steps.first()).toBeVisible();
  const before = await names();
  expect(before[0]).toBe('A1');
  await steps.nth(1).focus();
  await page.keyboard.press('Alt+ArrowUp');
  await expect.poll(names).toEqual([before[1], before[0], ...before.slice(2)]);
  await page.getByRole('button', { name: /^Undo: the order of the lesson/ }).click();
  await expect.poll(names).toEqual(before);
  await steps.nth(2).press('Space');
  await expect(steps.nth(2)).not.toBeChecked();
  await list.getByRole('button', { name: 'A1 once more' }).click();
  await expect.poll(names).toEqual(['A1', ...before]);
  await list.getByRole('spinbutton', { name: 'Minutes' }).fill('5');
  await list.getByRole('spinbutton', { name: 'Minutes' }).press('Tab');
  await expect(list.getByText(/of 5: leave something out/)).toBeVisible();
  await saved(page);
  await page.reload();
  await expect.poll(names).toEqual(['A1', ...before]);
  await page.getByRole('link', { name: 'To the stand' }).click();
  await expect(map(page).getByRole('button')).toHaveCount(before.length);
  await page.keyboard.press('Escape');
  await goToPass(page, 'Sheet');
  const side = page.getByRole('complementary', { name: 'Print and files' });
  await side.getByRole('checkbox', { name: 'The lesson, step by step' }).press('Space');
  await side.getByRole('checkbox', { name: 'The tune' }).press('Space');
  const sheet = page.getByRole('img', { name: /^Page 1 of/ });
  await expect(sheet).toContainText(/about \d+ minutes of 5/);
  await expect(sheet).not.toContainText(before[2]!);
});

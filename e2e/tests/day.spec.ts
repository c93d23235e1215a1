/** What a day's work stumbled over: the way back, what keys reach, whose version opens. */
import { expect } from '@playwright/test';
import {
  choose,
  expectEngraved,
  findTune,
  goToPass,
  openTune,
  saved,
  seedTune,
  test,
  visitLibrary,
} from './support.ts';

test('the address keeps pass and arrangement: reload shows them, Back leads to what was before', async ({ page }) => {
  await seedTune(page, 'G2A2 B2c2 | d4 B4 | c2B2 A2G2 | G8 |');
  await goToPass(page, 'Key');
  await goToPass(page, 'Grades');
  await page.getByRole('button', { name: 'A version for another grade or instrument' }).click();
  await page.getByRole('button', { name: 'Grade 2 for the cello: make' }).click();
  const which = page.getByRole('button', { name: /^Arrangement:/ });
  await expect(which).toHaveText('Grade 2, cello');
  await expect(page).toHaveURL(/\/grades\?arrangement=/);
  await goToPass(page, 'Hand');
  await page.reload();
  await expectEngraved(page);
  await expect(which).toHaveText('Grade 2, cello');
  await expect(page.getByRole('button', { name: 'Hand', exact: true })).toHaveAttribute('aria-current', 'step');
  await page.goBack();
  await expect(page.getByRole('button', { name: 'Grades', exact: true })).toHaveAttribute('aria-current', 'step');
  await expect(which).toHaveText('Grade 2, cello');
  await page.goBack();
  await expect(which).toHaveText('The tune, violin');
  await page.goBack();
  await expect(page.getByRole('button', { name: 'Key', exact: true })).toHaveAttribute('aria-current', 'step');
});

test('the library comes back with its search and its place', async ({ page }) => {
  await findTune(page, 'Barnacle Steps');
  await openTune(page, 'Barnacle Steps');
  await page.goBack();
  const find = page.getByRole('textbox', { name: 'Find by title' });
  await expect(find).toHaveValue('Barnacle Steps');
  await page.reload();
  await expect(find).toHaveValue('Barnacle Steps');
  await find.fill('');
  const list = page.getByRole('list', { name: 'Tunes' });
  await expect(list.getByRole('link').nth(4)).toBeVisible();
  await list.evaluate((own) => (own.scrollTop = 400));
  await expect.poll(() => list.evaluate((own) => own.scrollTop)).toBe(400);
  // One that is seen: another would be scrolled to first.
  await list.evaluate((own) => {
    const top = own.getBoundingClientRect().top;
    [...own.querySelectorAll('a')].find((link) => link.getBoundingClientRect().top > top)!.click();
  });
  await expectEngraved(page);
  await page.goBack();
  await expect.poll(() => list.evaluate((own) => own.scrollTop)).toBe(400);
  await visitLibrary(page);
});

test('letters after a choice are music, and change nothing where they are typed elsewhere', async ({ page }) => {
  await seedTune(page, 'G2A2 B2c2 | d8 |');
  await page.keyboard.press('e');
  await expect(page.getByRole('group', { name: 'Writing', exact: true })).toBeVisible();
  await page.keyboard.press('End');
  await choose(page, 'Key', 'A major');
  await saved(page);
  await page.keyboard.press('e');
  const key = page.getByRole('combobox', { name: 'Key' });
  await expect(page.getByText(/next note/)).toBeVisible();
  await expect(page.locator('.v-select', { hasText: 'A major' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Undo: write E' })).toBeVisible();
  // In the list itself, closed, a letter is neither a note nor a key.
  await key.focus();
  await page.keyboard.press('d');
  await expect(page.getByRole('button', { name: 'Undo: write E' })).toBeVisible();
  await expect(page.locator('.v-select', { hasText: 'A major' })).toBeVisible();
});

for (const [width, height] of [
  [390, 844],
  [360, 640],
  [640, 400],
  [1024, 768],
] as const) {
  test(`works at ${width} by ${height}: nothing lies off the edge, music is seen, the panel can be put away`, async ({
    page,
  }) => {
    await page.setViewportSize({ width, height });
    const fits = () =>
      page.evaluate(() => {
        const off = [...document.querySelectorAll('button, a, input, [role="radio"], h1')].filter((one) => {
          const { left, right, width: own } = one.getBoundingClientRect();
          // What a list of its own scrolls is reached there.
          const scrolls = one.closest('.paper, .score, [role="tablist"]');
          return own > 0 && one.checkVisibility() && !scrolls && (right > window.innerWidth + 1 || left < -1);
        });
        return [
          document.documentElement.scrollWidth <= window.innerWidth,
          ...off.map(({ outerHTML }) => outerHTML.slice(0, 90)),
        ];
      });
    await visitLibrary(page);
    await expect(page.getByRole('list', { name: 'Tunes' }).getByRole('link').first()).toBeVisible();
    expect(await fits()).toEqual([true]);
    await openTune(page, 'Keep the Lantern Low');
    const title = page.getByRole('heading', { level: 1 });
    expect(await title.evaluate((own) => own.scrollWidth <= own.clientWidth + 1)).toBe(true);
    for (const pass of ['Key', 'Hand', 'Bow', 'Grades', 'Sheet', 'Teach'] as const) {
      const menu = page.getByRole('button', { name: /^Pass: / });
      if (await menu.isVisible()) {
        await menu.click();
        await page.getByRole('listitem').filter({ hasText: pass }).first().click();
      } else await goToPass(page, pass);
      await expect(page).toHaveURL(new RegExp(`/${pass.toLowerCase()}`));
      expect(await fits(), pass).toEqual([true]);
    }
    if (width >= 900) return;
    // With the panel away there is music, all of a strip's height.
    const panel = page.getByRole('complementary').getByRole('button', { expanded: true }).first();
    if (await panel.isVisible()) await panel.click();
    await page.keyboard.press('Escape');
    await openTune(page, 'Barnacle Steps');
    const strip = page.getByRole('group', { name: 'Notes of phrase A1' });
    const box = (await strip.boundingBox())!;
    expect(box.y + Math.min(box.height, 120)).toBeLessThan(height);
  });
}

test('a boundary moved, undone and done again, quickly, and a reload between, is never taken for another window’s', async ({
  page,
}) => {
  await seedTune(page, 'G2A2 B2c2 | d4 B4 | c2B2 A2G2 | F4 A4 | e2d2 c2B2 | g4 e4 | f2ed cBAF | G8 |');
  const refused: string[] = [];
  page.on('response', (answer) => answer.status() === 409 && refused.push(answer.url()));
  await goToPass(page, 'Parts');
  for (let round = 0; round < 3; round += 1) {
    await page
      .getByRole('group', { name: /^Notes of phrase/ })
      .nth(1)
      .getByRole('button')
      .first()
      .focus();
    await page.keyboard.press('.');
    for (const key of ['Control+z', 'Control+Shift+z', 'Control+z', 'Control+Shift+z', 'Control+z'])
      await page.keyboard.press(key);
    await saved(page);
    if (round === 1) {
      await page.reload();
      await expectEngraved(page);
    }
  }
  await page.keyboard.press('Control+Shift+z');
  await saved(page);
  expect(refused).toEqual([]);
});

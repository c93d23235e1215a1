/** The Hand pass on each instrument: wishes, decisions, other ways, two fingerings side by side. */
import { expect, type Page } from '@playwright/test';
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
} from './support.ts';

const panel = (page: Page) => page.getByRole('complementary', { name: 'Strings and fingers' });
const tab = (page: Page, name: string) => panel(page).getByRole('tab', { name, exact: true }).click();

interface Case {
  readonly instrument: 'Violin' | 'Viola' | 'Cello' | 'Bass';
  readonly music: string;
  readonly header: string;
  /** A note, counted from 0, that the preset fingers in another way. */
  readonly note: number;
  readonly plain: RegExp;
  readonly preset: string;
  readonly preferred: RegExp;
  /** The key that sets the finger back, which is then kept against the preset. */
  readonly key: string;
}

const CASES: readonly Case[] = [
  {
    instrument: 'Violin',
    music: 'F2 GAGF G2 | G8 |',
    header: 'M:4/4\nL:1/8\nQ:1/4=140\nK:G',
    note: 2,
    plain: /4 on the D string/,
    preset: 'Fiddle with ringing strings',
    preferred: /open A/,
    key: '4',
  },
  {
    instrument: 'Viola',
    music: 'B,2 CDCB, C2 | C8 |',
    header: 'M:4/4\nL:1/8\nQ:1/4=140\nK:C',
    note: 2,
    plain: /4 on the G string/,
    preset: 'Fiddle with ringing strings',
    preferred: /open D/,
    key: '4',
  },
  {
    instrument: 'Cello',
    music: 'E,2 F,2 G,2 A,2 | E,8 |',
    header: 'M:4/4\nL:1/8\nQ:1/4=70\nK:A clef=bass',
    note: 2,
    plain: /extended 4 on the D string/,
    preset: 'Small hands',
    preferred: /D string, (?!extended)/,
    key: '1',
  },
  {
    instrument: 'Bass',
    music: 'C,,2 D,,2 C,,2 B,,,2 | C,,8 |',
    header: 'M:4/4\nL:1/8\nQ:1/4=100\nK:C clef=bass',
    note: 1,
    plain: /open D/,
    preset: 'One-string tone',
    preferred: /on the A string/,
    key: '0',
  },
];

for (const { instrument, music, header, note, plain, preset, preferred, key } of CASES) {
  test(`${instrument}: another preset, a decision against it, compared, undone, and there after a reload`, async ({
    page,
  }) => {
    await seedTune(page, music, header);
    await goToPass(page, 'Key');
    await page.getByRole('button', { name: instrument, exact: true }).click();
    await goToPass(page, 'Hand');
    const wanted = notesOf(page, 'A1').nth(note);
    await expect(wanted).toHaveAccessibleName(plain);
    await tab(page, 'Wishes');
    await choose(page, 'What the hand prefers', preset);
    await expect(wanted).not.toHaveAccessibleName(plain);
    if (instrument !== 'Cello') await expect(wanted).toHaveAccessibleName(preferred);
    const changed = (await wanted.getAttribute('aria-label'))!;

    await tab(page, 'Tune');
    await choose(page, 'Lay beside it', 'All-round');
    await expect(panel(page).getByText(/By this arrangement’s/)).toBeVisible();
    await expect(marked(page, 'other finger below').first()).toBeVisible();
    await expectAccessible(page);
    await panel(page).getByRole('button', { name: 'Take these' }).first().click();
    if (instrument !== 'Cello') await expect(wanted).toHaveAccessibleName(new RegExp(`${plain.source}.*kept`));
    else await expect(wanted).toHaveAccessibleName(/kept/);
    await page.keyboard.press('Control+z');
    await expect(wanted).toHaveAccessibleName(changed);

    await wanted.focus();
    await page.keyboard.press(key);
    if (instrument !== 'Cello') await expect(wanted).toHaveAccessibleName(new RegExp(`${plain.source}.*kept`));
    else await expect(wanted).toHaveAccessibleName(/1 on the .*kept/);
    const kept = (await wanted.getAttribute('aria-label'))!;
    await saved(page);
    await page.reload();
    await expectEngraved(page);
    await expect(notesOf(page, 'A1').nth(note)).toHaveAccessibleName(kept);
    await tab(page, 'Wishes');
    await expect(panel(page).getByText(preset, { exact: true })).toBeVisible();
    await page.keyboard.press('Control+z');
    await expect(notesOf(page, 'A1').nth(note)).toHaveAccessibleName(changed);
    await page.keyboard.press('Control+z');
    await expect(notesOf(page, 'A1').nth(note)).toHaveAccessibleName(plain);
  });
}

test('moves string, place of the hand and shift from the keyboard, and says what cannot be', async ({ page }) => {
  await seedTune(page, 'G2AB c2BA | G2D2 G4 |', 'M:4/4\nL:1/8\nQ:1/4=100\nK:G');
  await goToPass(page, 'Hand');
  const note = notesOf(page, 'A1').nth(2);
  await expect(note).toHaveAccessibleName(/^B4, 1 on the A string/);
  await note.focus();
  await page.keyboard.press('-');
  await expect(note).toHaveAccessibleName(/on the D string.*kept/);
  await page.keyboard.press('+');
  await expect(note).toHaveAccessibleName(/on the A string.*kept/);
  await page.keyboard.press('-');
  await expect(note).toHaveAccessibleName(/on the D string.*kept/);
  const before = (await note.getAttribute('aria-label'))!;
  await page.keyboard.press('.');
  await expect(note).not.toHaveAccessibleName(before);
  await page.keyboard.press('l');
  await expect(note).toHaveAccessibleName(/^B4, 1 on the A string/);
  await page.keyboard.press('m');
  await expect(panel(page).getByText(/^Shift to/)).toBeVisible();
  await expect(panel(page).getByRole('listitem').filter({ hasText: 'shift here' })).toBeVisible();
  await page.keyboard.press('m');
  await expect(panel(page).getByRole('listitem').filter({ hasText: 'shift here' })).toHaveCount(0);
  await page.keyboard.press('3');
  await page.keyboard.press('0');
  await expect(page.getByRole('status').filter({ hasText: 'Finger 0 cannot play this note here.' })).toHaveCount(1);
});

test('sets several notes at once, tells what contradicts, and offers other ways with a phrase', async ({ page }) => {
  await seedTune(page, 'G2AB c2BA | G2D2 G4 |', 'M:4/4\nL:1/8\nQ:1/4=100\nK:G');
  await goToPass(page, 'Hand');
  await notesOf(page, 'A1').nth(2).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(panel(page).getByRole('heading', { name: '3 notes' })).toBeVisible();
  await choose(page, 'Stay on', 'D string');
  for (const at of [2, 3, 4]) await expect(notesOf(page, 'A1').nth(at)).toHaveAccessibleName(/on the D string.*kept/);
  await choose(page, 'Position from', 'I');
  await expect(panel(page).getByRole('alert')).toContainText('do not go together');
  await page.keyboard.press('Control+z');
  await expect(panel(page).getByRole('alert')).toHaveCount(0);
  await panel(page).getByRole('button', { name: 'Free these notes' }).click();
  await expect(notesOf(page, 'A1').nth(3)).toHaveAccessibleName(/on the A string/);
  await tab(page, 'Phrase');
  const way = panel(page).getByRole('listitem').getByRole('button').first();
  await way.focus();
  await expect(marked(page, 'pointed at').first()).toBeVisible();
  await way.click();
  await expect(page.getByRole('button', { name: /kept/ }).first()).toBeVisible();
  await expectAccessible(page);
});

test('keeps a learner’s hand under a name and uses it for another tune', async ({ page }) => {
  const name = `Small hand ${Date.now()}`;
  await seedTune(page, 'F2 GAGF G2 | G8 |', 'M:4/4\nL:1/8\nQ:1/4=140\nK:G');
  await goToPass(page, 'Hand');
  await tab(page, 'Wishes');
  await panel(page).getByLabel('No fourth finger').press('Space');
  await expect(notesOf(page, 'A1').nth(2)).toHaveAccessibleName(/open A/);
  await panel(page)
    .getByRole('textbox', { name: /^Save it as/ })
    .fill(name);
  await panel(page).getByRole('button', { name: 'Save this hand' }).click();
  await expect(panel(page).getByText(`${name} is saved; other tunes can use it.`)).toBeVisible();
  await panel(page)
    .getByRole('button', { name: /^What counts/ })
    .click();
  await panel(page).getByRole('combobox', { name: 'Let open strings ring' }).selectOption('much more');
  await expect(panel(page).getByRole('button', { name: 'What counts, 1 changed' })).toBeVisible();
  await expectAccessible(page);
  await seedTune(page, 'F2 GAGF G2 | G8 |', 'M:4/4\nL:1/8\nQ:1/4=140\nK:G');
  await goToPass(page, 'Hand');
  await expect(notesOf(page, 'A1').nth(2)).toHaveAccessibleName(/4 on the D string/);
  await tab(page, 'Wishes');
  await choose(page, 'What the hand prefers', name);
  await expect(notesOf(page, 'A1').nth(2)).toHaveAccessibleName(/open A/);
  const owners = panel(page).getByRole('list', { name: 'Who set what' });
  await expect(owners).toContainText(`no fourth finger: ${name}`);
  await panel(page)
    .getByRole('button', { name: `Remove ${name}` })
    .click();
  await expect(panel(page).getByText(/is removed; this arrangement keeps/)).toBeVisible();
});

test('says so where saved hands cannot be fetched, and offers the others', async ({ page }) => {
  await page.route('**/api/learners', (route) => route.abort());
  // Learners are fetched once for a window.
  await page.goto('/');
  await seedTune(page, 'AGAB AGAB | G8 |');
  await goToPass(page, 'Hand');
  await tab(page, 'Wishes');
  await expect(panel(page).getByText('Saved hands cannot be shown. Nokta does not answer.')).toBeVisible();
  await choose(page, 'What the hand prefers', 'Fiddle with ringing strings');
  await saved(page);
});

test('takes the fingers a tune came with, prefers by part, and tells the hard places', async ({ page }) => {
  await seedTune(page, '|: !4!A2GF G2AB | c2BA G4 :|: F2GA GFGA | F2GA G4 :|', 'M:4/4\nL:1/8\nQ:1/4=140\nK:G');
  await goToPass(page, 'Hand');
  await tab(page, 'Wishes');
  await panel(page).getByRole('button', { name: 'Use the fingers that came with the tune' }).click();
  await expect(panel(page).getByText('1 finger kept.')).toBeVisible();
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/4 on the D string.*kept/);
  const inB = notesOf(page, 'B1').nth(2);
  await expect(inB).toHaveAccessibleName(/4 on the D string/);
  await choose(page, 'Part B', 'First lessons');
  await expect(inB).toHaveAccessibleName(/open A/);
  await openTune(page, 'The Foghorn Keeper');
  await goToPass(page, 'Hand');
  await tab(page, 'Tune');
  await expect(panel(page).getByText(/^Effort \d/)).toBeVisible();
  await expect(panel(page).getByRole('listitem').first()).toContainText(/Bar \d+/);
  await expectAccessible(page);
});

test('says what small hands avoid in the tune, and takes the fourth finger or the open string as wished', async ({
  page,
}) => {
  await seedTune(page, 'g2a2 b8 | a2g2 f4 e4 | F2GA G2F2 | G8 |', 'M:4/4\nL:1/8\nQ:1/4=60\nK:G');
  await goToPass(page, 'Hand');
  await tab(page, 'Wishes');
  const effect = panel(page).getByRole('list', { name: 'What it does to this tune' });
  await expect(effect).toHaveCount(0);
  await choose(page, 'What the hand prefers', 'Small hands');
  await expect(effect).toContainText(/avoids .*long note on the fourth finger/);
  await page.keyboard.press('Control+z');
  await expect(effect).toHaveCount(0);
  const turn = notesOf(page, 'A1').nth(9);
  await choose(page, 'Open string or fourth finger', 'the fourth finger first');
  await expect(turn).toHaveAccessibleName(/^A4, 4 on the D string/);
  await choose(page, 'Open string or fourth finger', 'the open string first');
  await expect(turn).toHaveAccessibleName(/^A4, open A/);
  await saved(page);
  await page.reload();
  await expectEngraved(page);
  await expect(notesOf(page, 'A1').nth(9)).toHaveAccessibleName(/^A4, open A/);
});

test('shows the hand on the fingerboard while the tune plays, and turned for left-handed players', async ({ page }) => {
  await openTune(page, "The Lamplighter's Ladder");
  await goToPass(page, 'Hand');
  const board = panel(page).getByRole('img', { name: /^Fingerboard: / });
  const before = await board.getAttribute('aria-label');
  await page.getByRole('region', { name: 'Player' }).getByRole('button', { name: 'Play' }).click();
  await expect(board).not.toHaveAccessibleName(before!);
  await page.getByRole('region', { name: 'Player' }).getByRole('button', { name: 'Stop' }).click();
  await panel(page).getByRole('button', { name: 'Hear the phrase' }).click();
  await expect(marked(page, 'sounds now')).toHaveCount(1);
  await page.getByRole('region', { name: 'Player' }).getByRole('button', { name: 'Stop' }).click();
  const nut = () => board.getByTestId('nut').getAttribute('x1').then(Number);
  const right = await nut();
  await panel(page).getByRole('button', { name: 'Left-handed view' }).click();
  await expect.poll(nut).toBeGreaterThan(right + 100);
});

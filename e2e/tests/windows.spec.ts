/**
 * Two windows on one tune: what does not touch goes together; what does, the second is shown both sides of, and never
 * told that it is saved when it is not.
 */
import { expect, type BrowserContext, type Page, type Route } from '@playwright/test';
import type { TuneRecord } from '@nokta/api';
import { choose, deafWindow, expectEngraved, goToPass, notesOf, saved, seedTune, test } from './support.ts';

const MUSIC = 'G2 G2 A4 | B2 B2 c4 | e8 |';

/** What is edited, at the tune's beginning or at its end: both leave the same label, so that only content tells them apart. */
interface Kind {
  readonly name: string;
  /** The two places have nothing in common: both edits stay. */
  readonly goesTogether: boolean;
  edit(page: Page, at: 'Home' | 'End'): Promise<void>;
}

/** @param far notes from the first to the other place; the first of two that are alike, for a tie */
const key = (name: string, pressed: string, far: number): Kind => ({
  name,
  // The third note is in the first bar still.
  goesTogether: far > 2,
  async edit(page, at) {
    await page.keyboard.press('Home');
    for (let step = 0; step < far && at === 'End'; step += 1) await page.keyboard.press('ArrowRight');
    await page.keyboard.press(pressed);
  },
});

const KINDS: readonly Kind[] = [
  key('notes', 'd', 6),
  key('tie', 't', 3),
  key('dot', '.', 2),
  key('delete a note', 'Backspace', 5),
  {
    name: 'words',
    goesTogether: true,
    async edit(page, at) {
      await page.keyboard.press(at);
      await page.keyboard.press('w');
      await page.keyboard.type('har');
      await page.keyboard.press('Enter');
    },
  },
  {
    name: 'rename',
    goesTogether: false,
    async edit(page, at) {
      await page.getByLabel('Title').fill(`${at} of the line`);
      await page.keyboard.press('Enter');
    },
  },
  {
    name: 'ABC',
    goesTogether: false,
    async edit(page, at) {
      await page.getByRole('tab', { name: 'ABC' }).click();
      await page.getByRole('textbox', { name: 'ABC text of the tune' }).click();
      await page.keyboard.press('Control+End');
      await page.keyboard.type(at === 'Home' ? 'd8 |' : 'g8 |');
    },
  },
];

const panel = (page: Page) => page.getByRole('complementary', { name: 'Strings and fingers' });
const idOf = (page: Page) => /tune\/([\w-]+)/.exec(page.url())![1]!;
const stored = async (page: Page) => (await (await page.request.get(`/api/tunes/${idOf(page)}`)).json()) as TuneRecord;

async function writing(page: Page, kind: Kind): Promise<void> {
  if (kind.name === 'rename') return;
  await page.keyboard.press('e');
  await expect(page.getByRole('button', { name: 'Done' })).toBeVisible();
}

async function secondWindow(page: Page, context: BrowserContext, hears = false): Promise<Page> {
  const other = hears ? await context.newPage() : await deafWindow(context);
  await other.goto(page.url());
  await expectEngraved(other);
  return other;
}

const sides = (page: Page) => page.getByRole('alert', { name: 'Changed here, and in another window' });

for (const kind of KINDS) {
  test(`${kind.name}: an edit in a second window is saved or shown beside the other, never lost`, async ({
    context,
  }) => {
    const page = await deafWindow(context);
    await seedTune(page, MUSIC);
    const other = await secondWindow(page, context);
    await writing(page, kind);
    await writing(other, kind);
    await kind.edit(page, 'Home');
    await expect.poll(async () => (await stored(page)).revision).toBeGreaterThan(1);
    await saved(page);
    const first = await stored(page);
    await kind.edit(other, 'End');
    if (kind.goesTogether) {
      await expect.poll(async () => (await stored(page)).revision).toBe(first.revision + 1);
      await saved(other);
      await expect(sides(other)).toHaveCount(0);
      // Both are there: the first bar as the one has it, and one more that is not as it was.
      const together = (await stored(page)).tune;
      expect(together.bars[0]).toEqual(first.tune.bars[0]);
      expect(together.bars.slice(1)).not.toEqual(first.tune.bars.slice(1));
      await other.reload();
      await expectEngraved(other);
      return;
    }
    await expect(sides(other)).toBeVisible();
    await expect(other.getByText('Saved', { exact: true })).toHaveCount(0);
    // What was there is there still; what is kept goes on top of it and stays.
    expect((await stored(page)).tune).toEqual(first.tune);
    await sides(other).getByRole('button', { name: 'Keep what is here' }).click();
    await saved(other);
    const kept = await stored(page);
    expect(kept.tune).not.toEqual(first.tune);
    await other.reload();
    await expectEngraved(other);
    expect(await stored(other)).toEqual(kept);
  });
}

test('the same edit in both windows is no matter for a choice, and the next one builds on it', async ({ context }) => {
  const page = await deafWindow(context);
  await seedTune(page, MUSIC);
  const other = await secondWindow(page, context);
  for (const kind of KINDS.filter(({ name }) => name !== 'ABC' && name !== 'rename')) {
    for (const window of [page, other]) {
      await window.bringToFront();
      if (!(await window.getByRole('button', { name: 'Done' }).isVisible())) await writing(window, kind);
      await kind.edit(window, 'Home');
      await saved(window);
      await expect(sides(window)).toHaveCount(0);
    }
  }
});

test('an answer that is lost or late leaves one edit and no question', async ({ context }) => {
  const page = await deafWindow(context);
  await seedTune(page, MUSIC);
  const other = await secondWindow(page, context);
  const address = `**/api/tunes/${idOf(page)}`;
  const sent: unknown[] = [];
  let goOn: () => void = () => undefined;
  const otherIsDone = new Promise<void>((resolve) => (goOn = resolve));
  /** The change arrives; its answer does not. Sent again, it comes after the other window's. */
  const lose = async (route: Route) => {
    if (route.request().method() !== 'PATCH') return route.fallback();
    sent.push((route.request().postDataJSON() as { entry: unknown }).entry);
    if (sent.length === 1) {
      await route.fetch();
      return route.abort('connectionreset');
    }
    await otherIsDone;
    return route.continue();
  };
  await page.route(address, lose);
  await page.getByLabel('Title').fill('Net and Needle');
  await page.keyboard.press('Enter');
  await expect.poll(() => sent.length).toBe(1);
  await expect.poll(async () => (await stored(page)).revision).toBe(2);
  // Meanwhile the other window, which has seen it, goes on.
  await other.reload();
  await expectEngraved(other);
  await other.getByLabel('Title').fill('Net and Needle, Mended');
  await other.keyboard.press('Enter');
  await saved(other);
  goOn();
  // Sent again it is known: nothing is written over, nothing asked, and what is there now is shown.
  await saved(page);
  expect(new Set(sent).size).toBe(1);
  await expect(sides(page)).toHaveCount(0);
  await expect(page.getByRole('heading', { name: 'Net and Needle, Mended', level: 1 })).toBeVisible();
  expect(await stored(page)).toMatchObject({ revision: 3, title: 'Net and Needle, Mended' });
  await page.unroute(address);
});

test('fingers of the second window wait beside those of the first when an answer is late', async ({ context }) => {
  const page = await deafWindow(context);
  await seedTune(page, MUSIC);
  const other = await secondWindow(page, context);
  await page.route('**/api/arrangements/*', async (route) => {
    const answer = await route.fetch();
    await new Promise((resolve) => setTimeout(resolve, 1_500));
    await route.fulfill({ response: answer });
  });
  await notesOf(page, 'A1').first().focus();
  await page.keyboard.press('l');
  await notesOf(other, 'A1').first().focus();
  await other.keyboard.press('l');
  // The same finger of the same note: there is nothing to choose.
  await saved(page);
  await saved(other);
  await notesOf(other, 'A1').nth(2).focus();
  await other.keyboard.press('l');
  await saved(other);
  const locks = Object.keys((await stored(page)).arrangements[0]!.decisions.hand.locks);
  expect(locks).toHaveLength(2);
});

test('two desks on one arrangement see what the other decides within a second, and all of it stays', async ({
  page,
  context,
}) => {
  await seedTune(page, MUSIC);
  const other = await secondWindow(page, context, true);
  await goToPass(page, 'Bow');
  await notesOf(page, 'A1').nth(1).focus();
  await page.keyboard.press('v');
  await expect(notesOf(other, 'A1').nth(1)).toHaveAccessibleName(/down bow/);
  await notesOf(other, 'A1').first().focus();
  await other.keyboard.press('l');
  await expect(notesOf(page, 'A1').first()).toHaveAccessibleName(/kept/);
  // At the same time, in each another note.
  await notesOf(page, 'A1').nth(2).focus();
  await notesOf(other, 'A1').nth(4).focus();
  await Promise.all([page.keyboard.press('l'), other.keyboard.press('l')]);
  await goToPass(other, 'Key');
  await saved(page);
  await saved(other);
  for (const window of [page, other]) {
    for (const note of [0, 2, 4]) await expect(notesOf(window, 'A1').nth(note)).toHaveAccessibleName(/kept/);
    await expect(notesOf(window, 'A1').nth(1)).toHaveAccessibleName(/down bow/);
    await expect(sides(window)).toHaveCount(0);
  }
  const [{ decisions }] = (await stored(page)).arrangements as [TuneRecord['arrangements'][number]];
  expect(Object.keys(decisions.hand.locks)).toHaveLength(3);
  expect(Object.keys(decisions.bow.turns)).toEqual(['n2']);
});

test('a tune renamed in one window is renamed in the other, and a line that was down is made up for', async ({
  page,
  context,
}) => {
  await seedTune(page, MUSIC);
  const other = await secondWindow(page, context, true);
  await page.getByLabel('Title').fill('Oakum and Oar');
  await page.keyboard.press('Enter');
  await expect(other.getByRole('heading', { name: 'Oakum and Oar', level: 1 })).toBeVisible({ timeout: 1_000 });
  await other.keyboard.press('Control+z');
  await expect(page.getByRole('heading', { name: 'Oakum and Oar', level: 1 })).toHaveCount(0);
});

test('a learner renamed in one window is called so in the other, in every arrangement', async ({ page, context }) => {
  const name = `Small hand ${Date.now()}`;
  await seedTune(page, MUSIC);
  const other = await secondWindow(page, context, true);
  for (const window of [page, other]) {
    await goToPass(window, 'Hand');
    await window.getByRole('tab', { name: 'Wishes' }).click();
  }
  await panel(page).getByLabel('No fourth finger').press('Space');
  await panel(page)
    .getByRole('textbox', { name: /^Save it as/ })
    .fill(name);
  await panel(page).getByRole('button', { name: 'Save this hand' }).click();
  await saved(page);
  const owners = panel(other).getByRole('list', { name: 'Who set what' });
  await expect(owners).toContainText(`no fourth finger: ${name}`);
  await panel(page)
    .getByRole('textbox', { name: /^Save it as/ })
    .fill(`${name}, grown`);
  await panel(page)
    .getByRole('button', { name: `Rename ${name}` })
    .click();
  await expect(owners).toContainText(`no fourth finger: ${name}, grown`);
  // What the learner can do by now is offered where they were taken over before.
  await panel(page).getByLabel('No stretches').press('Space');
  await panel(page).getByRole('button', { name: 'Save this hand' }).click();
  await saved(page);
  await seedTune(other, MUSIC);
  await goToPass(other, 'Hand');
  await other.getByRole('tab', { name: 'Wishes' }).click();
  await choose(other, 'What the hand prefers', `${name}, grown`);
  await expect(owners).toContainText('no stretches');
  await panel(page).getByLabel('No stretches').press('Space');
  await panel(page).getByRole('button', { name: 'Save this hand' }).click();
  await expect(panel(other).getByText(`The hand of ${name}, grown is another by now than here.`)).toBeVisible();
  await panel(other).getByRole('button', { name: 'Take it over' }).click();
  await expect(owners).not.toContainText('no stretches');
});

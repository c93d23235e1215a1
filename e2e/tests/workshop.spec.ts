/** The workshop: tuner, tapes, scales. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, expect, type Page } from '@playwright/test';
import { choose, expectAccessible, test, visit, visitLibrary } from './support.ts';

const RATE = 48_000;

/** A string as a microphone hears it: partials that grow fainter, the lowest weak, as on a small loudspeaker. */
function wavOf(frequency: number, seconds: number): Buffer {
  const count = RATE * seconds;
  const wav = Buffer.alloc(44 + 2 * count);
  wav.write('RIFF', 0);
  wav.writeUInt32LE(36 + 2 * count, 4);
  wav.write('WAVEfmt ', 8);
  wav.writeUInt32LE(16, 16);
  wav.writeUInt16LE(1, 20);
  wav.writeUInt16LE(1, 22);
  wav.writeUInt32LE(RATE, 24);
  wav.writeUInt32LE(2 * RATE, 28);
  wav.writeUInt16LE(2, 32);
  wav.writeUInt16LE(16, 34);
  wav.write('data', 36);
  wav.writeUInt32LE(2 * count, 40);
  for (let at = 0; at < count; at += 1) {
    let sum = 0;
    for (let partial = 1; partial <= 8; partial += 1)
      sum += ((partial === 1 ? 0.4 : 1) / partial) * Math.sin((2 * Math.PI * partial * frequency * at) / RATE);
    wav.writeInt16LE(Math.round(9000 * sum), 44 + 2 * at);
  }
  return wav;
}

/** A browser whose microphone plays a string. */
async function withMicrophone(frequency: number, baseURL: string, work: (page: Page) => Promise<void>): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'nokta-ear-'));
  const wav = join(folder, 'string.wav');
  writeFileSync(wav, wavOf(frequency, 6));
  const browser = await chromium.launch({
    executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-background-networking',
      '--disable-quic',
      '--autoplay-policy=no-user-gesture-required',
      '--use-fake-ui-for-media-stream',
      '--use-fake-device-for-media-stream',
      `--use-file-for-fake-audio-capture=${wav}`,
    ],
  });
  try {
    const page = await browser.newPage({ baseURL, viewport: { width: 1280, height: 800 } });
    await work(page);
  } finally {
    await browser.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

for (const [instrument, string, hertz, cents, says] of [
  ['Violin', 'A', 440, -12, /1[123] cents too low: tighten a touch/],
  ['Bass', 'E', 41.203, 15, /1[456] cents too high: slacken a touch/],
] as const) {
  test(`hears the ${instrument} through the microphone`, async ({ baseURL }) => {
    await withMicrophone(hertz * 2 ** (cents / 1200), baseURL!, async (page) => {
      await page.goto('/workshop');
      await choose(page, 'Instrument', instrument);
      await page.getByRole('button', { name: 'Listen', exact: true }).click();
      await expect(page.getByRole('status')).toHaveText(says);
      await expect(page.locator('.letter')).toHaveText(string);
      await page.getByRole('button', { name: 'Stop', exact: true }).click();
      await expect(page.getByRole('button', { name: 'Listen', exact: true })).toBeVisible();
    });
  });
}

test('says what to do where there is no microphone', async ({ page }) => {
  await page.goto('/workshop');
  await page.getByRole('button', { name: 'Listen', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('simulated strings');
});

test('tunes a simulated string by its peg, and two by their beats', async ({ page }) => {
  await visit(page, '/workshop');
  await choose(page, 'Listen to', 'Simulated strings');
  await page.getByRole('button', { name: /^G G3/ }).click();
  await page.getByRole('button', { name: 'Listen', exact: true }).click();
  await expect(page.getByRole('status')).toHaveText(/cents too low/);
  await page.getByRole('slider', { name: 'Peg of the G string' }).fill('0');
  await expect(page.getByRole('status')).toHaveText('In tune');
  await expect(page.getByRole('button', { name: /^G G3 ✓/ })).toBeVisible();
  await page.getByRole('slider', { name: 'Fine tuner of the G string' }).fill('1');
  await expect(page.getByRole('status')).toHaveText(/3[234] cents too high/);
  await expectAccessible(page);

  await page.getByRole('slider', { name: 'Fine tuner of the G string' }).fill('0');
  await page.getByRole('button', { name: 'D A, fifth' }).click();
  await page.getByRole('slider', { name: 'Peg of the D string' }).fill('0');
  // About ten cents from the fifth: a beat of some five a second.
  await page.getByRole('slider', { name: 'Peg of the A string' }).fill('-0.05');
  await expect(page.getByRole('status')).toHaveText(/The fifth beats [3-7]\.\d times a second/);
  // Two cents wider than tempered is pure.
  await page.getByRole('slider', { name: 'Peg of the A string' }).fill('0.01');
  await expect(page.getByRole('status')).toHaveText('A pure fifth: it stands still');
});

test('says where tapes go, and prints them at true scale', async ({ page }) => {
  await visit(page, '/workshop/tapes');
  await expect(page.getByText('35.8 mm').first()).toBeVisible();
  await choose(page, 'Instrument', 'Cello');
  await page.getByRole('textbox', { name: 'String length on yours' }).fill('0');
  await page.getByRole('textbox', { name: 'String length on yours' }).press('Enter');
  await expect(page.getByText('A string is 100 to 1300 mm long')).toBeVisible();
  await page.getByRole('textbox', { name: 'String length on yours' }).fill('690');
  await page.getByRole('textbox', { name: 'String length on yours' }).press('Enter');
  await page.getByRole('checkbox', { name: 'Tape for the 1st finger in VII' }).check();
  await page.getByRole('textbox', { name: 'What is written on the tape for the 1st finger', exact: true }).fill('one');
  await page
    .getByRole('textbox', { name: 'What is written on the tape for the 1st finger', exact: true })
    .press('Enter');
  await expect(page.getByText('345.0 mm').first()).toBeVisible();
  await expectAccessible(page);
  await page.reload();
  await expect(page.getByRole('checkbox', { name: 'Tape for the 1st finger in VII' })).toBeChecked();

  const link = await page.getByRole('link', { name: 'PDF at true scale' }).getAttribute('href');
  const answer = await page.request.get(link!);
  const folder = mkdtempSync(join(tmpdir(), 'nokta-tapes-'));
  writeFileSync(join(folder, 'tapes.pdf'), await answer.body());
  // Ten dots a millimetre.
  execFileSync('pdftoppm', ['-r', '254', '-gray', '-f', '1', '-l', '1', 'tapes.pdf', 'page'], { cwd: folder });
  const image = readFileSync(join(folder, 'page-1.pgm'));
  rmSync(folder, { recursive: true, force: true });
  const [, width, height] = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(image.subarray(0, 40).toString('latin1'))!.map(Number);
  const first = image.length - width! * height!;
  const dark = (x: number, y: number) => image[first + y * width! + x]! < 128;
  const longest = (y: number) => {
    let [run, best] = [0, 0];
    for (let x = 0; x < width!; x += 1) best = Math.max(best, (run = dark(x, y) ? run + 1 : 0));
    return best / 10;
  };
  const check = Math.max(...Array.from({ length: 40 }, (_, index) => longest(420 + index)));
  expect(Math.abs(check - 100)).toBeLessThanOrEqual(0.3);
  // The first tape of a cello lies 75.3 mm from the nut.
  const lines = Array.from({ length: 1200 }, (_, index) => 540 + index).filter((y) => dark(240, y));
  const nut = lines[0]!;
  expect(lines.some((y) => Math.abs((y - nut) / 10 - 75.3) < 0.8)).toBe(true);
});

test('fingers a scale for the instrument as it is tuned, prints it, and takes it to the desk', async ({ page }) => {
  await visit(page, '/workshop/scales');
  await choose(page, 'Home note', 'A');
  await choose(page, 'Octaves', 'two');
  await choose(page, 'Tuning', 'A E A E · low pair up a tone');
  const scale = page.getByRole('region', { name: 'Phrase Scale' });
  await expect(scale.locator('.engraved').first()).toBeVisible();
  await expect(page.getByText('Drone A E A E')).toBeVisible();
  await expectAccessible(page);
  await choose(page, 'Octaves', 'three');
  await choose(page, 'Home note', 'G♭');
  await expect(page.getByRole('alert')).toContainText('There is room for 2 octaves');
  await choose(page, 'Octaves', 'two');
  await choose(page, 'Home note', 'A');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'PDF', exact: true }).click();
  expect((await download).suggestedFilename()).toBe('A major, two octaves.pdf');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: 'To the desk' }).click();
  await expect(page.getByRole('group', { name: 'Notes of phrase Scale' })).toBeVisible();
  await expect(
    page.getByRole('group', { name: 'Notes of phrase Scale' }).getByRole('button').first(),
  ).toHaveAccessibleName(/^A3, open/);
});

test('goes from the library to the workshop and back', async ({ page }) => {
  await visitLibrary(page);
  await page.getByRole('link', { name: 'Workshop' }).click();
  await expect(page.getByRole('heading', { name: 'Workshop' })).toBeVisible();
  await page.getByRole('link', { name: 'Library' }).click();
  await expect(page.getByRole('heading', { name: 'Library' })).toBeVisible();
});

/** The square of an address, printed and read again by a reader of its own. */
import jsQR from 'jsqr';
import { PNG } from 'pngjs';
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange, decided } from '@nokta/core/arrange';
import { USUAL_STYLE } from '@nokta/core/sheet';
import { tuneOf } from '../../core/src/test/testing.ts';
import { sheetPng } from './png.ts';
import { engraveSheet } from './sheet.ts';

describe('the square of an address', () => {
  it.each([
    ['short', 'https://a.example/b'],
    ['with a question', 'https://strings.example/home?tune=salt-on-the-sill&learner=7'],
    ['as long as may be', `https://a.example/${'x'.repeat(182)}`],
  ])('is read from the printed page: %s', async (_, link) => {
    const arrangement = arrange(tuneOf('GABc dBAG | G8 |]'), decided(FIRST_DECISIONS, { sheet: { link } }));
    const [page] = await engraveSheet(arrangement, USUAL_STYLE);
    const { data, width, height } = PNG.sync.read(Buffer.from(await sheetPng(page!)));
    expect(jsQR(new Uint8ClampedArray(data), width, height)?.data).toBe(link);
  });
});

/** Sheet pages as pictures, for messages and slides. Node only. */
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { Resvg, initWasm } from '@resvg/resvg-wasm';
import { TEXT_FONT } from '@nokta/core/sheet';
import { FONT_FILES } from './fonts.ts';

const require = createRequire(import.meta.url);
/** Pixels to an inch: sharp on a screen, and printed small. */
const RESOLUTION = 200;
const POINTS_PER_INCH = 72;

let ready: Promise<readonly Uint8Array[]> | null = null;
/** The program starts once; its fonts stay at hand. */
function started(): Promise<readonly Uint8Array[]> {
  ready ??= (async () => {
    await initWasm(await readFile(require.resolve('@resvg/resvg-wasm/index_bg.wasm')));
    return Promise.all(FONT_FILES.map((file) => readFile(file)));
  })();
  return ready;
}

/** @param page an SVG document */
export async function sheetPng(page: string): Promise<Uint8Array> {
  const fontBuffers = [...(await started())];
  const picture = new Resvg(page, {
    fitTo: { mode: 'zoom', value: RESOLUTION / POINTS_PER_INCH },
    font: { fontBuffers, defaultFontFamily: TEXT_FONT },
  });
  try {
    return picture.render().asPng();
  } finally {
    picture.free();
  }
}

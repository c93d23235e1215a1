/** `sheet`: the printed page, as SVG, PDF or PNG; for a group a zip with everybody's. */
import { writeFile } from 'node:fs/promises';
import { arrange, type Arrangement } from '@nokta/core/arrange';
import { freeName, saveArrangement } from '@nokta/core/files';
import { packZip } from '@nokta/core/formats';
import type { Tune } from '@nokta/core/music';
import { PAPER_SIZE, type SheetStyle } from '@nokta/core/sheet';
import { versionName } from '@nokta/core/words';
import type { Command } from './commands.ts';
import { askedFor, decisionsFor } from './asked.ts';
import { readTune } from './input.ts';
import { UsageError, requireOut, type CliOptions } from './options.ts';

export const sheet: Command = async (options) => {
  const out = requireOut(options, ['svg', 'pdf', 'png', 'zip']);
  if (out.endsWith('.zip') !== options.players.length > 0)
    throw new UsageError('For a group say who plays with --for, such as violin,cello:2, and write a .zip.');
  if (out.endsWith('.zip')) return folder(options, (await readTune(options)).tune, out);
  const { tune, arrangement } = await askedFor(options);
  const pages = await pagesOf(arrangement, options.sheet);
  if (out.endsWith('.pdf')) {
    await writeFile(out, await pdfOf(pages, options.sheet, tune));
    return report(options, out, pages.length);
  }
  const ending = out.slice(out.lastIndexOf('.'));
  const files = pages.map((_, index) => (pages.length === 1 ? out : `${out.slice(0, -4)}-${index + 1}${ending}`));
  for (const [index, page] of pages.entries()) {
    const content = ending === '.png' ? await (await import('@nokta/engrave/png')).sheetPng(page) : page;
    await writeFile(files[index]!, content);
  }
  return report(options, files.join(', '), pages.length);
};

async function pagesOf(arrangement: Arrangement, style: SheetStyle): Promise<readonly string[]> {
  const { engraveSheet } = await import('@nokta/engrave/sheet');
  return engraveSheet(arrangement, style);
}

async function pdfOf(pages: readonly string[], style: SheetStyle, tune: Tune): Promise<Uint8Array> {
  const { sheetPdf } = await import('@nokta/engrave/pdf');
  return sheetPdf(pages, style, tune.title);
}

/** Every player's sheet and score. */
async function folder(options: CliOptions, tune: Tune, out: string): Promise<string> {
  const files: Record<string, Uint8Array | string> = {};
  for (const player of options.players) {
    const decisions = decisionsFor(options, player, tune);
    const arrangement = arrange(tune, decisions);
    const name = freeName(
      `${tune.title} - ${versionName(decisions.version, player.instrument)}`,
      (one) => `${one}.pdf` in files,
    );
    files[`${name}.pdf`] = await pdfOf(await pagesOf(arrangement, options.sheet), options.sheet, tune);
    const contents = { tune, arrangements: [decisions], tags: [], versions: [] };
    files[`${name}.musicxml`] = saveArrangement(arrangement, 'musicxml', contents, { tab: options.tab });
  }
  await writeFile(out, packZip(asBytes(files)));
  const count = options.players.length;
  return options.json
    ? JSON.stringify({ out, players: count, files: Object.keys(files) }, null, 2)
    : `Sheets and scores for ${count} ${count === 1 ? 'player' : 'players'} written to ${out}.`;
}

const asBytes = (files: Readonly<Record<string, Uint8Array | string>>): Record<string, Uint8Array> =>
  Object.fromEntries(
    Object.entries(files).map(([name, content]) => [
      name,
      typeof content === 'string' ? new TextEncoder().encode(content) : content,
    ]),
  );

function report(options: CliOptions, out: string, pages: number): string {
  const { paper, layout, pages: kinds } = options.sheet;
  return options.json
    ? JSON.stringify({ out, pages, paper, layout, kinds }, null, 2)
    : `${pages} ${PAPER_SIZE[paper].name} ${pages === 1 ? 'page' : 'pages'} written to ${out}.`;
}

/** `book`: several tunes in one PDF with cover, contents and index; for a group a zip with everybody's edition. */
import { writeFile } from 'node:fs/promises';
import { arrange, type Arrangement } from '@nokta/core/arrange';
import { freeName } from '@nokta/core/files';
import { packZip } from '@nokta/core/formats';
import { INSTRUMENT } from '@nokta/core/instrument';
import { bookPages, type Book, type Chapter } from '@nokta/core/sheet';
import { versionName } from '@nokta/core/words';
import { askedFor, decisionsFor } from './asked.ts';
import type { Command } from './commands.ts';
import { readTune, tunesIn } from './input.ts';
import { UsageError, requireOut, type CliOptions, type Player } from './options.ts';

export const book: Command = async (options) => {
  const { players } = options;
  if (options.files.length === 0) throw new UsageError('Name the files that go into the book.');
  const out = requireOut(options, ['pdf', 'zip']);
  if (out.endsWith('.zip') !== players.length > 1)
    throw new UsageError(
      'A book for one is a .pdf; for several (--for violin,cello:2) write a .zip, with one for each.',
    );
  if (players.length <= 1) {
    const [player] = players;
    const made = await bookFor(options, player ?? null);
    await writeFile(out, await pdfOf(options, made));
    return report(options, out, [made]);
  }
  const files: Record<string, Uint8Array> = {};
  const all: Book[] = [];
  for (const player of players) {
    const made = await bookFor(options, player);
    const name = freeName(`${titleOf(options)} - ${editionOf(player)}`, (taken) => `${taken}.pdf` in files);
    files[`${name}.pdf`] = await pdfOf(options, made);
    all.push(made);
  }
  await writeFile(out, packZip(files));
  return report(options, out, all);
};

const titleOf = ({ title }: CliOptions): string => title ?? 'Tunes';
const editionOf = ({ instrument, grade }: Player): string =>
  grade === null ? INSTRUMENT[instrument].name : versionName({ grade, name: null }, instrument);

/** Every tune of every file, set for a player; for nobody in particular as the options say. */
async function bookFor(options: CliOptions, player: Player | null): Promise<Book> {
  const { engraveChapter } = await import('@nokta/engrave/sheet');
  const chapters: Chapter[] = [];
  for (const file of options.files) {
    const count = await tunesIn(options, file);
    for (let tune = 1; tune <= count; tune += 1) {
      const arrangement = await arranged({ ...options, file, tune }, player);
      chapters.push(await engraveChapter(arrangement, options.sheet, { warmUps: options.warmUps }));
    }
  }
  const { instrument } = options.decisions.key;
  const edition = editionOf(player ?? { instrument, grade: options.grade });
  return bookPages({ title: titleOf(options), edition, line: '', chapters }, options.sheet);
}

async function arranged(options: CliOptions, player: Player | null): Promise<Arrangement> {
  if (!player) return (await askedFor(options)).arrangement;
  const { tune } = await readTune(options);
  return arrange(tune, decisionsFor(options, player, tune));
}

async function pdfOf(options: CliOptions, { pages }: Book): Promise<Uint8Array> {
  const { bookPdf } = await import('@nokta/engrave/pdf');
  return bookPdf(pages, options.sheet, options.binding, titleOf(options));
}

function report(options: CliOptions, out: string, books: readonly Book[]): string {
  const [first] = books;
  const pages = first?.pages.length ?? 0;
  const contents = (first?.contents ?? []).map(({ title, page }) => ({ title, page }));
  if (options.json) return JSON.stringify({ out, pages, contents, books: books.length }, null, 2);
  const what = books.length > 1 ? `${books.length} books` : `A book of ${pages} pages`;
  return [
    `${what} written to ${out}.`,
    ...contents.map(({ title, page }) => `${String(page).padStart(4)}  ${title}`),
  ].join('\n');
}

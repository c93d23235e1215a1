/** Books of tunes: each tune set for whoever plays, drawn tune by tune, so that one can see how far it is and call it off. */
import { inArray } from 'drizzle-orm';
import type { BookProgress, BookRequest } from '@nokta/api';
import { FIRST_DECISIONS, decided, openingOctave, type Decisions } from '@nokta/core/arrange';
import { freeName, type Player } from '@nokta/core/files';
import { packZip } from '@nokta/core/formats';
import { INSTRUMENT } from '@nokta/core/instrument';
import type { Tune } from '@nokta/core/music';
import type { Chapter } from '@nokta/core/sheet';
import { versionName } from '@nokta/core/words';
import { tunes as tuneTable } from '../db/schema.ts';
import { notFound } from '../problems.ts';
import { decisionsOf } from './arrangements.ts';
import { storedTune } from './stored.ts';
import type { Library } from './tunes.ts';

export interface MadeBook {
  readonly ending: 'pdf' | 'zip';
  readonly content: Uint8Array;
}

interface Watching {
  readonly signal: AbortSignal;
  readonly progress: (progress: BookProgress) => void;
}

/** So many tunes are drawn at once. */
const LANES = 2;

/**
 * @throws Refusal where a tune is not there any more
 * @throws the signal's reason where it was called off
 */
export async function makeBook(library: Library, asked: BookRequest, watching: Watching): Promise<MadeBook> {
  const { title, line, players, style, binding } = asked;
  const sources = await sourcesOf(library, asked.tunes);
  const editions = players.length > 0 ? players : [null];
  const total = sources.length * editions.length;
  let done = 0;
  const step = (): void => watching.progress({ done: (done += 1), total });
  watching.progress({ done, total });
  const files: Record<string, Uint8Array> = {};
  for (const player of editions) {
    const chapters = await chaptersFor(library, sources, player, asked, { signal: watching.signal, step });
    const edition = player ? editionName(player) : '';
    const name = freeName([title, edition].filter(Boolean).join(' - '), (taken) => `${taken}.pdf` in files);
    watching.signal.throwIfAborted();
    files[`${name}.pdf`] = await library.drawing.ask(
      (service) => service.book({ title, edition, line, chapters }, style, binding),
      asked.run,
    );
  }
  const made = Object.values(files);
  return made.length === 1 ? { ending: 'pdf', content: made[0]! } : { ending: 'zip', content: packZip(files) };
}

interface Source {
  readonly id: string;
  readonly tune: Tune;
  readonly arrangements: readonly Decisions[];
}

async function sourcesOf({ db }: Library, ids: readonly string[]): Promise<readonly Source[]> {
  const rows = await db
    .select()
    .from(tuneTable)
    .where(inArray(tuneTable.id, [...ids]));
  const byId = new Map(rows.filter(({ deletedAt }) => deletedAt === null).map((row) => [row.id, row]));
  const arrangements = await decisionsOf(db, ids);
  return ids.map((id) => {
    const row = byId.get(id);
    if (!row) throw notFound('tune');
    return { id, tune: storedTune(row.tune), arrangements: arrangements.get(id)!.readable.map((one) => one.decisions) };
  });
}

async function chaptersFor(
  { drawing }: Library,
  sources: readonly Source[],
  player: Player | null,
  { style, warmUps, run }: BookRequest,
  { signal, step }: { readonly signal: AbortSignal; readonly step: () => void },
): Promise<readonly Chapter[]> {
  const chapters: Chapter[] = [];
  const waiting = [...sources.entries()];
  const lane = async (): Promise<void> => {
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      signal.throwIfAborted();
      const [index, { id, tune, arrangements }] = next;
      const decisions = player ? setFor(tune, arrangements, player) : (arrangements[0] ?? FIRST_DECISIONS);
      chapters[index] = await drawing.ask(
        (service) => service.chapter({ tune, decisions }, style, { warmUps }),
        `${run} ${id}`,
      );
      step();
    }
  };
  await Promise.all(Array.from({ length: LANES }, lane));
  return chapters;
}

/** As the tune is set for this learner already; else for their instrument, hand and grade. */
function setFor(tune: Tune, arrangements: readonly Decisions[], { instrument, make, grade, hand }: Player): Decisions {
  const id = hand?.id;
  const known = id === undefined ? undefined : arrangements.find((own) => own.hand.learner?.id === id);
  if (known) return known;
  const own = decided(FIRST_DECISIONS, {
    key: { instrument, make },
    version: { grade: grade ?? 'tune' },
    hand: { ...FIRST_DECISIONS.hand, ...(hand && { wishes: hand.wishes, learner: hand }) },
  });
  return decided(own, { key: { transpose: openingOctave(tune, own) } });
}

function editionName({ name, instrument, make, grade }: Player): string {
  const called = make?.name ?? INSTRUMENT[instrument].name;
  const set = grade === null ? called : versionName({ grade, name: null }, called.toLowerCase());
  return name ? `${name}, ${set.replace(/^./, (letter) => letter.toLowerCase())}` : set;
}

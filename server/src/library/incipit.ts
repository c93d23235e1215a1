/** The first bars of a tune, or the bars of a place in it, engraved. Remembered while the tune stays as it is. */
import { and, eq, isNull } from 'drizzle-orm';
import type { Incipit } from '@nokta/api';
import { fewBars, instrumentXml } from '@nokta/core/arrange';
import { writeMusicXml } from '@nokta/core/formats';
import { INSTRUMENT } from '@nokta/core/instrument';
import { barNumbers, soundingNotes, type Tune } from '@nokta/core/music';
import { tunes } from '../db/schema.ts';
import { notFound } from '../problems.ts';
import { storedTune } from './stored.ts';
import type { Library } from './tunes.ts';

const REMEMBERED = 2000;
const known = new Map<string, Incipit>();

/** @param from number of the sound that the place begins with; the beginning of the tune if left out */
export async function incipitOf(
  { db, drawing }: Pick<Library, 'db' | 'drawing'>,
  id: string,
  from?: number,
  length = 0,
): Promise<Incipit> {
  const [row] = await db
    .select({ tune: tunes.tune, revision: tunes.revision })
    .from(tunes)
    .where(and(eq(tunes.id, id), isNull(tunes.deletedAt)));
  if (!row) throw notFound('tune');
  const name = [id, row.revision, from ?? '', length].join(' ');
  const remembered = known.get(name);
  if (remembered) return remembered;
  const made = await engraved(drawing, storedTune(row.tune), from, length);
  if (known.size >= REMEMBERED) known.delete(known.keys().next().value!);
  known.set(name, made);
  return made;
}

async function engraved(
  drawing: Library['drawing'],
  tune: Tune,
  from: number | undefined,
  length: number,
): Promise<Incipit> {
  const sounds = soundingNotes(tune);
  const start = from === undefined ? 0 : (sounds[from]?.barIndex ?? 0);
  const part = fewBars(tune, start);
  const ids = new Set(part.bars.flatMap(({ events }) => events.map((event) => event.id)));
  const xml = writeMusicXml(part, { ...instrumentXml(INSTRUMENT.violin), partName: '' });
  const line = await drawing.ask((service) => service.line(xml));
  const found =
    from === undefined ? [] : sounds.slice(from, from + length).flatMap(({ chain }) => chain.map((note) => note.id));
  const { markup, viewBox, width, height } = line;
  return {
    markup,
    viewBox,
    width,
    height,
    bar: barNumbers(tune.bars)[start] ?? 1,
    noteId: found[0] ?? null,
    marked: found.filter((noteId) => ids.has(noteId)),
  };
}

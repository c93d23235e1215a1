/** Incipits that were asked for, kept while the page lives; asked for one after the other, the newest first. */
import type { Incipit, MelodyPlace } from '@nokta/api';
import { api } from '../api/client.ts';

const known = new Map<string, Promise<Incipit>>();
const MOST = 3000;

export function incipitFor(id: string, revision: number, place?: MelodyPlace): Promise<Incipit> {
  const name = [id, revision, place?.from ?? '', place?.length ?? ''].join(' ');
  const remembered = known.get(name);
  if (remembered) return remembered;
  if (known.size >= MOST) known.delete(known.keys().next().value!);
  const asked = api.incipit(id, place && { from: place.from, length: place.length });
  known.set(name, asked);
  asked.catch(() => known.delete(name));
  return asked;
}

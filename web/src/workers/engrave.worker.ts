/** Engraves phrases, off the main thread, and remembers what it has engraved. */
import { expose } from 'comlink';
import { lineXml } from '@nokta/core/arrange';
import { writeMusicXml, type MusicXmlOptions } from '@nokta/core/formats';
import type { Instrument } from '@nokta/core/instrument';
import type { Tune } from '@nokta/core/music';
import { engraveLine, warmUp, type EngravedLine } from '@nokta/engrave';

/** Phrases kept: a long tune in a handful of keys. */
const REMEMBERED = 400;
const lines = new Map<string, EngravedLine>();

async function remembered(xml: string): Promise<EngravedLine> {
  const known = lines.get(xml);
  if (known) return known;
  const line = await engraveLine(xml, 'desk');
  if (lines.size >= REMEMBERED) lines.delete(lines.keys().next().value!);
  lines.set(xml, line);
  return line;
}

const service = {
  /** A phrase by itself, as a strip shows it; see `phraseLine`. */
  engrave: (line: Tune, instrument: Instrument, continued: boolean): Promise<EngravedLine> =>
    remembered(lineXml(line, instrument, continued)),
  /** Bars as they are written, with everything that is in them. @param continued the metre is not printed again */
  engraveBars: (tune: Tune, clef: MusicXmlOptions['clef'], continued: boolean): Promise<EngravedLine> =>
    remembered(writeMusicXml(tune, { ...(clef && { clef }), partName: '', continued })),
};

export type EngraveService = typeof service;
// Shared, it is reached through a port of each window; otherwise it is its window's own.
if ('onconnect' in globalThis) {
  globalThis.addEventListener('connect', (event) => expose(service, (event as MessageEvent).ports[0]));
} else expose(service);
// The engine starts while the tune is still being fetched and worked out; if it cannot, the first line says so.
warmUp().catch(() => undefined);

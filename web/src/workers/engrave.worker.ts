/** Engraves phrases, off the main thread, and remembers what it has engraved. */
import { expose } from 'comlink';
import type { Arrangement } from '@nokta/core/arrange';
import type { Phrase } from '@nokta/core/form';
import { engraveLine, type EngravedLine } from '@nokta/engrave';
import { phraseXml } from '@nokta/engrave/sheet';

/** Phrases kept: a long tune in a handful of keys. */
const REMEMBERED = 400;
const lines = new Map<string, EngravedLine>();

const service = {
  async engrave(arrangement: Pick<Arrangement, 'tune' | 'decisions'>, phrase: Phrase): Promise<EngravedLine> {
    const xml = phraseXml(arrangement, phrase);
    const known = lines.get(xml);
    if (known) return known;
    const line = await engraveLine(xml, 'desk');
    if (lines.size >= REMEMBERED) lines.delete(lines.keys().next().value!);
    lines.set(xml, line);
    return line;
  },
};

export type EngraveService = typeof service;
expose(service);

/** A file or text on its way in: read in a worker, looked at, not yet kept. */
import { computed, onScopeDispose, ref, shallowRef } from 'vue';
import type { AlikeTune } from '@nokta/api';
import { FIRST_DECISIONS, openingOctave, decided, phraseLine } from '@nokta/core/arrange';
import type { Incoming, ReadChoice } from '@nokta/core/files';
import { phrasesOf } from '@nokta/core/form';
import type { Problem } from '@nokta/core/formats';
import type { Tune } from '@nokta/core/music';
import { melodyOf, packMelody } from '@nokta/core/search';
import type { EngravedLine } from '@nokta/engrave';
import { api } from '../api/client.ts';
import type { DeskClient } from '../workers/deskClient.ts';
import { engraver, startDesk } from '../workers/index.ts';
import { STALE } from '../workers/protocol.ts';
import { expectFile, openInWorker, resultInTime, type ReadingFile } from '../workers/files.ts';
import type { FileContents } from '../workers/files.worker.ts';

/** Voices beyond these are chosen by name alone. */
const MOST_PICTURES = 8;

export function useIncoming() {
  const contents = shallowRef<FileContents | null>(null);
  /** Not deep: it is sent to the worker as it is. */
  const choice = shallowRef<ReadChoice>({ tune: 1, voice: 1 });
  const incoming = shallowRef<Incoming | null>(null);
  const notices = shallowRef<readonly Problem[]>([]);
  const problems = shallowRef<readonly Problem[] | null>(null);
  const pictures = shallowRef<ReadonlyMap<number, EngravedLine>>(new Map());
  const alike = shallowRef<readonly AlikeTune[]>([]);
  /** Reading takes long enough to say so. */
  const busy = ref(false);
  let file: ReadingFile | null = null;
  let opening: AbortController | null = null;
  let turn = 0;

  const voices = computed(() => incoming.value?.voices ?? []);

  function clear(): void {
    turn += 1;
    opening?.abort();
    file?.close();
    file = null;
    contents.value = null;
    incoming.value = null;
    problems.value = null;
    notices.value = [];
    pictures.value = new Map();
    alike.value = [];
    busy.value = false;
  }
  onScopeDispose(clear);

  async function open(source: File | string): Promise<void> {
    clear();
    const own = turn;
    busy.value = true;
    opening = new AbortController();
    const opened = await openInWorker(source, opening.signal);
    if (own !== turn) {
      if (opened.ok) opened.file.close();
      return;
    }
    if (!opened.ok) {
      problems.value = opened.problems;
      busy.value = false;
      return;
    }
    file = opened.file;
    contents.value = opened.contents;
    choice.value = { tune: 1, voice: 1 };
    await read();
  }

  /** Reads what is chosen; a newer choice makes an older reading void. */
  async function read(): Promise<void> {
    if (!file) return;
    const own = (turn += 1);
    busy.value = true;
    const result = await resultInTime(file, (service) => service.read({ ...choice.value }));
    if (own !== turn) return;
    busy.value = false;
    pictures.value = new Map();
    alike.value = [];
    if (!result.ok) {
      incoming.value = null;
      problems.value = result.problems;
      return;
    }
    incoming.value = result.value;
    notices.value = result.notices;
    problems.value = null;
    // The next thing that is pasted or typed does not wait for a worker.
    expectFile();
    await Promise.all([drawVoices(own), findAlike(result.value.tune, own)]);
  }

  async function findAlike(tune: Tune, own: number): Promise<void> {
    const [found = []] = await api.alike([packMelody(melodyOf(tune))]).catch(() => []);
    if (own === turn) alike.value = found;
  }

  /** The first phrase of each voice, so that the ear's memory can say "yes, that one". */
  async function drawVoices(own: number): Promise<void> {
    const chosen = choice.value.voice ?? 1;
    const numbers = voices.value.map((_, index) => index + 1).slice(0, MOST_PICTURES);
    for (const voice of [chosen, ...numbers.filter((number) => number !== chosen)]) {
      const result =
        voice === chosen && incoming.value
          ? { ok: true as const, value: incoming.value }
          : file && (await resultInTime(file, (service) => service.read({ ...choice.value, voice })));
      if (own !== turn || !result?.ok) continue;
      const line = await firstPhrase(result.value);
      if (own !== turn) return;
      if (line) pictures.value = new Map([...pictures.value, [voice, line]]);
    }
  }

  return { contents, choice, incoming, voices, notices, problems, pictures, alike, busy, open, read, clear };
}

/** Works pictures of what comes in out, beside the desk's own; started when a file is first looked at. */
let preview: DeskClient | null = null;

async function firstPhrase({ tune, instrument }: Incoming): Promise<EngravedLine | null> {
  preview ??= startDesk(() => (preview = null));
  const own = decided(FIRST_DECISIONS, { key: instrument ? { instrument } : {} });
  const decisions = decided(own, { key: { transpose: openingOctave(tune, own) } });
  const facts = await preview.work({ tune, decisions });
  if (facts === STALE) return null;
  const [phrase] = phrasesOf(facts.form);
  return phrase ? engraver.engrave(phraseLine(facts.tune, phrase), facts.instrument, false) : null;
}

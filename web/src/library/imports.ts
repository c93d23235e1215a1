/** Many tunes being kept: goes on while the rest of Nokta is used, can be stopped, and reports. */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { BATCH, type AlikeTune, type NewTune } from '@nokta/api';
import { heldTune, type Incoming } from '@nokta/core/files';
import { api, messageOf } from '../api/client.ts';
import type { SeenTune, Told } from './several.ts';

export interface CameIn {
  readonly id: string;
  readonly title: string;
  /** Tunes that were here before, sound the same, and were not seen while it was looked at. */
  readonly alike: readonly AlikeTune[];
}

/** A tune that was looked at and is to be kept. */
export interface Chosen extends Pick<SeenTune, 'held' | 'file' | 'alike'> {
  /** Only its name is kept, with this tune. */
  readonly nameOf: AlikeTune | null;
}

export interface ImportReport {
  readonly state: 'running' | 'stopping' | 'done' | 'stopped' | 'failed';
  readonly total: number;
  /** Tunes sent so far. */
  readonly sent: number;
  readonly cameIn: readonly CameIn[];
  /** So many became another name of a tune that was here. */
  readonly named: number;
  readonly skipped: readonly Told[];
  /** What could not be carried over, tune by tune. */
  readonly notices: readonly Told[];
  readonly problem: string | null;
}

export const newTuneOf = ({ tune, instrument, arrangements, tags, versions }: Incoming, source: string): NewTune => ({
  tune,
  source,
  instrument,
  arrangements: [...arrangements],
  tags: [...tags],
  versions: versions.map((version) => ({ ...version })),
});

export const useImports = defineStore('imports', () => {
  const report = shallowRef<ImportReport | null>(null);
  /** Whether the whole report is shown, not only the bar at the foot. */
  const open = ref(false);
  let stopped: AbortController | null = null;

  const running = computed(() => report.value?.state === 'running' || report.value?.state === 'stopping');

  function put(change: Partial<ImportReport>): void {
    if (report.value) report.value = { ...report.value, ...change };
  }

  /**
   * Keeps what was chosen, a batch at a time.
   * @param told what was left out and could not be carried over while it was read: the report tells it again
   */
  async function run(
    chosen: readonly Chosen[],
    { skipped = [], notices = [] }: Partial<Pick<ImportReport, 'skipped' | 'notices'>> = {},
  ): Promise<void> {
    if (running.value) return;
    const control = new AbortController();
    const { signal } = control;
    stopped = control;
    report.value = {
      state: 'running',
      total: chosen.length,
      sent: 0,
      cameIn: [],
      named: 0,
      skipped,
      notices,
      problem: null,
    };
    open.value = true;
    try {
      for (let from = 0; from < chosen.length && !signal.aborted; from += BATCH)
        await keep(chosen.slice(from, from + BATCH), signal);
      put({ state: signal.aborted ? 'stopped' : 'done' });
    } catch (error) {
      put(signal.aborted ? { state: 'stopped' } : { state: 'failed', problem: messageOf(error) });
    }
  }

  async function keep(batch: readonly Chosen[], signal: AbortSignal): Promise<void> {
    const tunes = batch.map(({ held, file }) => newTuneOf(heldTune(held), file));
    const { added, refused } = await api.addBatch(tunes, signal);
    const out = new Set(refused.map(({ index }) => index));
    const kept = batch.filter((_, index) => !out.has(index));
    const cameIn: CameIn[] = [];
    for (const [index, one] of added.entries()) {
      const { nameOf, alike } = kept[index]!;
      const seen = new Set(alike.map(({ id }) => id));
      if (nameOf) await api.join(nameOf.id, one.id);
      else cameIn.push({ ...one, alike: one.alike.filter(({ id }) => !seen.has(id)) });
    }
    const skipped = refused.map(({ index, title, error, remedy }): Told => ({
      title,
      file: batch[index]?.file ?? '',
      reason: [error, remedy].filter(Boolean).join(' '),
    }));
    const now = report.value!;
    put({
      sent: now.sent + batch.length,
      named: now.named + added.length - cameIn.length,
      cameIn: [...now.cameIn, ...cameIn],
      ...(skipped.length > 0 && { skipped: [...now.skipped, ...skipped] }),
    });
  }

  /** Ends it after the batch that is on its way; what came in stays. */
  function stop(): void {
    put({ state: 'stopping' });
    stopped?.abort();
  }

  function dismiss(): void {
    if (running.value) return;
    report.value = null;
    open.value = false;
  }

  /** A tune that came in becomes another name of one that was here. */
  async function join(kept: AlikeTune, joined: CameIn): Promise<void> {
    try {
      await api.join(kept.id, joined.id);
      const now = report.value!;
      put({ cameIn: now.cameIn.filter(({ id }) => id !== joined.id), named: now.named + 1 });
    } catch (error) {
      put({ problem: messageOf(error) });
    }
  }

  return { report, open, running, run, stop, dismiss, join };
});

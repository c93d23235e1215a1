/** Bringing in a whole book: goes on while the rest of Nokta is used, can be stopped, and reports. */
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { BATCH, type AlikeTune, type NewTune } from '@nokta/api';
import type { Incoming } from '@nokta/core/files';
import type { Problem, ReadResult } from '@nokta/core/formats';
import { api, messageOf } from '../api/client.ts';
import { TOO_LONG, inTime, openInWorker } from '../workers/files.ts';

export interface CameIn {
  readonly id: string;
  readonly title: string;
  /** Tunes that were here before and sound the same. */
  readonly alike: readonly AlikeTune[];
}

export interface Skipped {
  readonly title: string;
  readonly file: string;
  readonly reason: string;
}

export interface ImportReport {
  readonly state: 'running' | 'stopping' | 'done' | 'stopped' | 'failed';
  readonly total: number;
  /** Tunes looked at so far. */
  readonly seen: number;
  readonly cameIn: readonly CameIn[];
  readonly skipped: readonly Skipped[];
  /** What could not be carried over, tune by tune. */
  readonly notices: readonly Skipped[];
  readonly problem: string | null;
}

const START: ImportReport = {
  state: 'running',
  total: 0,
  seen: 0,
  cameIn: [],
  skipped: [],
  notices: [],
  problem: null,
};

export const newTuneOf = ({ tune, instrument, arrangements, tags, versions }: Incoming, source: string): NewTune => ({
  tune,
  source,
  instrument,
  arrangements: [...arrangements],
  tags: [...tags],
  versions: versions.map((version) => ({ ...version })),
});

const textOf = ({ message, line, column }: Problem) =>
  line === undefined ? message : `Line ${line}, column ${column ?? 1}: ${message}`;

export const useImports = defineStore('imports', () => {
  const report = shallowRef<ImportReport | null>(null);
  /** Whether the whole report is shown, not only the bar at the foot. */
  const open = ref(false);
  let stopped: AbortController | null = null;

  const running = computed(() => report.value?.state === 'running' || report.value?.state === 'stopping');

  function put(change: Partial<ImportReport>): void {
    if (report.value) report.value = { ...report.value, ...change };
  }

  /** Reads every tune of the files, and keeps them a batch at a time. */
  async function run(files: readonly (File | string)[]): Promise<void> {
    if (running.value) return;
    const control = new AbortController();
    stopped = control;
    report.value = START;
    open.value = true;
    try {
      for (const source of files) {
        await readAll(source, control.signal);
        if (control.signal.aborted) break;
      }
      put({ state: control.signal.aborted ? 'stopped' : 'done' });
    } catch (error) {
      put(control.signal.aborted ? { state: 'stopped' } : { state: 'failed', problem: messageOf(error) });
    }
  }

  async function readAll(source: File | string, signal: AbortSignal): Promise<void> {
    const name = typeof source === 'string' ? 'Pasted text' : source.name;
    const opened = await openInWorker(source, signal);
    if (signal.aborted) return opened.ok ? opened.file.close() : undefined;
    if (!opened.ok) {
      const reason = opened.problems.map(textOf).join(' ');
      put({
        total: report.value!.total + 1,
        seen: report.value!.seen + 1,
        skipped: [...report.value!.skipped, { title: name, file: name, reason }],
      });
      return;
    }
    const { file, contents } = opened;
    put({ total: report.value!.total + contents.tunes.length });
    try {
      let waiting: NewTune[] = [];
      for (const { number, title } of contents.tunes) {
        if (signal.aborted) return;
        const read = await inTime(file, async (service): Promise<ReadResult<Incoming>> =>
          service.read({ tune: number }),
        );
        if (read === TOO_LONG) {
          // Its worker is gone, and with it the rest of this file.
          const reason = 'Reading it took too long and was ended. The tunes after it in this file were not read.';
          put({ seen: report.value!.seen + 1, skipped: [...report.value!.skipped, { title, file: name, reason }] });
          break;
        }
        if (read.ok) {
          waiting.push(newTuneOf(read.value, name));
          const said = read.notices.map((notice) => ({ title, file: name, reason: textOf(notice) }));
          put({
            seen: report.value!.seen + 1,
            ...(said.length > 0 && { notices: [...report.value!.notices, ...said] }),
          });
        } else {
          const reason = read.problems.map(textOf).join(' ');
          put({ seen: report.value!.seen + 1, skipped: [...report.value!.skipped, { title, file: name, reason }] });
        }
        if (waiting.length === BATCH) {
          await keep(waiting, signal);
          waiting = [];
        }
      }
      if (waiting.length > 0) await keep(waiting, signal);
    } finally {
      file.close();
    }
  }

  async function keep(tunes: readonly NewTune[], signal: AbortSignal): Promise<void> {
    const { added, refused } = await api.addBatch(tunes, signal);
    const skipped = refused.map(({ index, title, error, remedy }): Skipped => ({
      title,
      file: tunes[index]?.source ?? '',
      reason: [error, remedy].filter(Boolean).join(' '),
    }));
    put({
      cameIn: [...report.value!.cameIn, ...added],
      ...(skipped.length > 0 && { skipped: [...report.value!.skipped, ...skipped] }),
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
      put({ cameIn: report.value!.cameIn.filter(({ id }) => id !== joined.id) });
    } catch (error) {
      put({ problem: messageOf(error) });
    }
  }

  return { report, open, running, run, stop, dismiss, join };
});

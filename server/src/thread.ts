/**
 * A thread for heavy work: started when something is asked of it for the first time, let go when nothing has been
 * for a while, so that a server that only keeps tunes stays small, and answers while something large is worked out.
 */
import { Worker } from 'node:worker_threads';
import { releaseProxy, wrap, type Remote } from 'comlink';
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import { BUILT } from './db/template.ts';
import type { AnalysingService } from './analysing.worker.ts';
import type { DrawingService } from './drawing.worker.ts';

/** A thread's program is always the one made at build: from source it would load the engraver's text form. */
const programOf = (name: string) => new URL(BUILT ? `./${name}.js` : `../dist/${name}.js`, import.meta.url);
/** Long enough to look through a library, or to try papers. */
const IDLE_MS = 60_000;

export class Thread<Service> {
  private thread: { readonly worker: Worker; readonly service: Remote<Service> } | null = null;
  private failed: Promise<never> | null = null;
  private busy = 0;
  private idle: NodeJS.Timeout | undefined;

  /**
   * @param name of its program
   * @param idleMs how long the thread waits for more before it is let go
   */
  constructor(
    private readonly name: string,
    private readonly idleMs = IDLE_MS,
  ) {}

  /** Whether the thread is there. */
  get awake(): boolean {
    return this.thread !== null;
  }

  /** @throws what went wrong in the thread; the next question begins with a new one if it ended */
  async ask<Result>(work: (service: Remote<Service>) => Promise<Result>): Promise<Result> {
    clearTimeout(this.idle);
    this.busy += 1;
    try {
      const { service } = this.thread ?? this.start();
      return await Promise.race([work(service), this.failed!]);
    } finally {
      this.busy -= 1;
      if (this.busy === 0) this.idle = setTimeout(() => void this.stop(), this.idleMs).unref();
    }
  }

  async stop(): Promise<void> {
    clearTimeout(this.idle);
    const { thread } = this;
    this.thread = null;
    if (!thread) return;
    thread.service[releaseProxy]();
    await thread.worker.terminate();
  }

  private start() {
    const worker = new Worker(programOf(this.name));
    worker.unref();
    const thread = { worker, service: wrap<Service>(nodeEndpoint(worker)) };
    this.thread = thread;
    // A thread that ends leaves its questions without an answer.
    this.failed = new Promise<never>((_, reject) => {
      worker.once('error', reject);
      worker.once('exit', (code) => reject(new Error(`The ${this.name} thread ended (${code}).`)));
    });
    this.failed.catch(() => {
      if (this.thread === thread) this.thread = null;
    });
    return thread;
  }
}

/** Engraves, and makes PDF files. */
export const drawingThread = (idleMs?: number): Thread<DrawingService> => new Thread('drawing', idleMs);
/** Works the form of tunes out. */
export const analysingThread = (): Thread<AnalysingService> => new Thread('analysing');
export type Drawing = ReturnType<typeof drawingThread>;
export type Analysing = ReturnType<typeof analysingThread>;

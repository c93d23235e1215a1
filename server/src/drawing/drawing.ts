/**
 * The thread that draws: started when something is to be drawn for the first time, let go when nothing has
 * been for a while, so that a server that only keeps tunes stays small.
 */
import { Worker } from 'node:worker_threads';
import { releaseProxy, wrap, type Remote } from 'comlink';
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import { BUILT } from '../db/template.ts';
import type { DrawingService } from './worker.ts';

/** The thread's program is always the one made at build: from source it would load the engraver's text form. */
const PROGRAM = new URL(BUILT ? './drawing.js' : '../../dist/drawing.js', import.meta.url);
/** Long enough to look through a library, or to try papers. */
const IDLE_MS = 60_000;

export class Drawing {
  private thread: { readonly worker: Worker; readonly service: Remote<DrawingService> } | null = null;
  private failed: Promise<never> | null = null;
  private busy = 0;
  private idle: NodeJS.Timeout | undefined;

  /** @param idleMs how long the thread waits for more before it is let go */
  constructor(private readonly idleMs = IDLE_MS) {}

  /** Whether the thread is there. */
  get awake(): boolean {
    return this.thread !== null;
  }

  /** @throws what went wrong in the thread; the next drawing begins with a new one if it ended */
  async draw<Result>(work: (service: Remote<DrawingService>) => Promise<Result>): Promise<Result> {
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
    const worker = new Worker(PROGRAM);
    worker.unref();
    const thread = { worker, service: wrap<DrawingService>(nodeEndpoint(worker)) };
    this.thread = thread;
    // A thread that ends leaves its questions without an answer.
    this.failed = new Promise<never>((_, reject) => {
      worker.once('error', reject);
      worker.once('exit', (code) => reject(new Error(`The drawing thread ended (${code}).`)));
    });
    this.failed.catch(() => {
      if (this.thread === thread) this.thread = null;
    });
    return thread;
  }
}

/**
 * A thread for heavy work: started when something is asked of it for the first time, let go when nothing has been
 * for a while, so that a server that only keeps tunes stays small, and answers while something large is worked out.
 */
import { availableParallelism } from 'node:os';
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

  /** How many questions it has in hand. */
  get waiting(): number {
    return this.busy;
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

/**
 * Threads of one program: one as a rule, and another beside it while two things are wanted at once, where the machine has
 * processors for both.
 */
export class Threads<Service> {
  readonly #all: readonly Thread<Service>[];
  /** Who was asked last about what: it remembers what it worked out for it. */
  readonly #lately = new Map<string, Thread<Service>>();

  constructor(name: string, idleMs?: number, most = Math.min(2, availableParallelism())) {
    this.#all = Array.from({ length: most }, () => new Thread<Service>(name, idleMs));
  }

  /** How many of them are there. */
  get awake(): number {
    return this.#all.filter(({ awake }) => awake).length;
  }

  /** @param about what is asked about; small questions leave it out, and start no second thread */
  ask<Result>(work: (service: Remote<Service>) => Promise<Result>, about?: string): Promise<Result> {
    const thread = about === undefined ? this.#all[0]! : this.#threadFor(about);
    return thread.ask(work);
  }

  #threadFor(about: string): Thread<Service> {
    const lately = this.#lately.get(about);
    const free = this.#all.filter(({ waiting }) => waiting === 0);
    const found =
      lately && (lately.waiting === 0 || free.length === 0)
        ? lately
        : (free.find(({ awake }) => awake) ?? free[0] ?? this.#all[0]!);
    this.#lately.delete(about);
    this.#lately.set(about, found);
    if (this.#lately.size > REMEMBERED) this.#lately.delete(this.#lately.keys().next().value!);
    return found;
  }

  async stop(): Promise<void> {
    await Promise.all(this.#all.map((thread) => thread.stop()));
  }
}

/** As much as two threads keep of what they worked out. */
const REMEMBERED = 16;

/** Engraves, and makes PDF files. */
export const drawingThreads = (idleMs?: number): Threads<DrawingService> => new Threads('drawing', idleMs);
/** Works the form of tunes out. */
export const analysingThread = (): Thread<AnalysingService> => new Thread('analysing');
export type Drawing = ReturnType<typeof drawingThreads>;
export type Analysing = ReturnType<typeof analysingThread>;

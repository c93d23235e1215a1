/** The two workers: one thinks, one engraves, so that neither waits for the other. */
import { proxy, wrap, type Remote } from 'comlink';
import { deskClient, type DeskClient } from './deskClient.ts';
import type { DeskChange } from './deskService.ts';
import type { EngraveService } from './engrave.worker.ts';
import type { DeskService } from './protocol.ts';

/** A desk's own worker. @param onFailure is told what goes wrong in it */
export function startDesk(onFailure: (error: unknown) => void): DeskClient {
  const worker = new Worker(new URL('./desk.worker.ts', import.meta.url), { type: 'module' });
  // What cannot be told by an answer: the program did not load, or broke down.
  worker.addEventListener('error', ({ message }) => onFailure(new Error(message || 'The worker did not start.')));
  return deskClient(wrap<DeskService<DeskChange>>(worker), onFailure, (progress) => proxy(progress));
}

/**
 * One engraver for all windows of the browser: it is the largest program of all, and knows already what another window
 * has shown. Where windows cannot share, each has its own.
 */
export const engraver: Remote<EngraveService> = wrap(
  'SharedWorker' in globalThis
    ? new SharedWorker(new URL('./engrave.worker.ts', import.meta.url), { type: 'module', name: 'engraver' }).port
    : new Worker(new URL('./engrave.worker.ts', import.meta.url), { type: 'module' }),
);

/** The two workers: one thinks, one engraves, so that neither waits for the other. */
import { wrap, type Remote } from 'comlink';
import type { ArrangeService } from './arrange.worker.ts';
import type { EngraveService } from './engrave.worker.ts';

export const arranger: Remote<ArrangeService> = wrap(
  new Worker(new URL('./arrange.worker.ts', import.meta.url), { type: 'module' }),
);
export const engraver: Remote<EngraveService> = wrap(
  new Worker(new URL('./engrave.worker.ts', import.meta.url), { type: 'module' }),
);

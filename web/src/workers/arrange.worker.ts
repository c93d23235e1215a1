/** Works arrangements out, off the main thread. */
import { expose } from 'comlink';
import { arrange, type Arrangement, type Decisions } from '@nokta/core/arrange';
import type { Tune } from '@nokta/core/music';

const service = {
  arrange: (tune: Tune, decisions: Decisions): Arrangement => arrange(tune, decisions),
};

export type ArrangeService = typeof service;
expose(service);

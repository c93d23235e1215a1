/** Works the form of tunes out, in a thread of its own: a long tune keeps nobody waiting. */
import { parentPort } from 'node:worker_threads';
import { expose } from 'comlink';
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import { formFactsOf } from './library/facts.ts';

const service = { formFacts: formFactsOf };

export type AnalysingService = typeof service;
expose(service, nodeEndpoint(parentPort!));

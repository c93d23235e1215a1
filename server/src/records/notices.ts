/**
 * Notices: a record changed. Sent by the store itself when the change is in it, so that whoever listens finds it there,
 * whichever process made it.
 */
import { sql } from 'drizzle-orm';
import type { Notice } from '@nokta/api';
import type { Listening } from '../db/ports.ts';
import type { Access } from './keeping.ts';

const CHANNEL = 'nokta_records';

/** Tells all who listen, when the transaction is through; nobody where it fails. */
export async function notify(tx: Access, notice: Notice): Promise<void> {
  await tx.execute(sql`select pg_notify(${CHANNEL}, ${JSON.stringify(notice)})`);
}

type Listener = (notice: Notice) => void;

/** All who want to be told, by one ear on the store. */
export class Notices {
  readonly #listeners = new Set<Listener>();
  #stop: () => Promise<void> = () => Promise.resolve();

  async begin(store: Listening): Promise<this> {
    this.#stop = await store.listen(CHANNEL, (payload) => this.tell(JSON.parse(payload) as Notice));
    return this;
  }

  tell(notice: Notice): void {
    for (const listener of this.#listeners) listener(notice);
  }

  /** @returns what ends it */
  on(listener: Listener): () => void {
    this.#listeners.add(listener);
    return () => void this.#listeners.delete(listener);
  }

  close(): Promise<void> {
    this.#listeners.clear();
    return this.#stop();
  }
}

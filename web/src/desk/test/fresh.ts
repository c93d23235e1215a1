/** Help for tests: stores of its own for each test. */
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, vi } from 'vitest';
import { useOutbox } from '../../outbox/outbox.ts';

/** To be called once in a file. What one test has not sent yet never reaches the server of the next one. */
export function freshStores(): void {
  beforeEach(() => {
    setActivePinia(createPinia());
    vi.restoreAllMocks();
  });
  afterEach(() => {
    const outbox = useOutbox();
    for (const key of outbox.queues.keys()) outbox.drop(key);
  });
}

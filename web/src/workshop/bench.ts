/** One worker for the workshop, however often one comes by. */
import type { DeskClient } from '../workers/deskClient.ts';
import { startDesk } from '../workers/index.ts';

let client: DeskClient | null = null;
let onFailure: (error: unknown) => void = () => undefined;

/** @param failed is told what goes wrong, as long as nobody else asks to be */
export function benchDesk(failed: (error: unknown) => void): DeskClient {
  onFailure = failed;
  client ??= startDesk((error) => {
    // The next one who comes gets a new worker.
    client = null;
    onFailure(error);
  });
  return client;
}

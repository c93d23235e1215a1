/** Spoiled files for all readers, one after the other. */
import { readerFault, spoiledFiles } from '../../../core/src/test/fuzz.ts';

export interface Spoiled {
  readonly read: number;
  readonly faults: readonly string[];
  readonly slowest: { readonly number: number; readonly ms: number };
  /** The most that was resident, in bytes. */
  readonly memory: number;
}

const MOST_MS = 2_000;
/** Files between two looks at memory and clock. */
const LOOK = 500;

export function spoilFiles({
  from,
  most = Infinity,
  untilMs = Infinity,
}: {
  readonly from: number;
  readonly most?: number;
  readonly untilMs?: number;
}): Spoiled {
  const files = spoiledFiles();
  const faults: string[] = [];
  const begin = performance.now();
  let slowest = { number: -1, ms: 0 };
  let memory = 0;
  let read = 0;
  for (; read < most; read += 1) {
    const number = from + read;
    if (read % LOOK === 0) {
      memory = Math.max(memory, process.memoryUsage().rss);
      if (performance.now() - begin > untilMs) break;
    }
    const file = files.file(number);
    // Time at work, not time in the queue of a busy machine.
    const asked = process.cpuUsage();
    const fault = readerFault(file);
    const { user, system } = process.cpuUsage(asked);
    const ms = (user + system) / 1000;
    if (ms > slowest.ms) slowest = { number, ms };
    if (ms > MOST_MS) faults.push(`${number} (${file.name}): ${Math.round(ms)} ms`);
    if (fault) faults.push(`${number} (${file.name}): ${fault}`);
  }
  return { read, faults, slowest, memory };
}

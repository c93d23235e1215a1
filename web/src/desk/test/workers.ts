/** Help for tests: the desk's worker in the same thread, and an engraver that draws nothing. */
import { vi } from 'vitest';
import { deskClient } from '../../workers/deskClient.ts';
import { makeDeskService } from '../../workers/deskService.ts';

const LINE = {
  markup: '',
  viewBox: '',
  width: 1,
  height: 1,
  heads: {},
  barlines: [],
  staffTop: 0,
  staffBottom: 4,
};

/** One for all test files: they share their modules. */
const engraver = {
  engrave: vi.fn(() => Promise.resolve(LINE)),
  engraveBars: vi.fn(() => Promise.resolve(LINE)),
};

let failure: string | null = null;
/** The next thing that is worked out fails. */
export const failNext = (message: string) => (failure = message);

export function fakeWorkers() {
  return {
    startDesk: (onFailure: (error: unknown) => void) => {
      const service = makeDeskService();
      return deskClient(
        {
          ...service,
          async derive(revision, change) {
            const message = failure;
            failure = null;
            if (message) throw new Error(message);
            // What crosses over is a copy, as between threads.
            return structuredClone(await service.derive(revision, structuredClone(change)));
          },
        },
        onFailure,
      );
    },
    engraver,
  };
}

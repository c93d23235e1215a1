import { setFlagsFromString } from 'node:v8';
import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';
import { writeIntoMemory } from './scripts/steps.mjs';
import { samples } from './web/samples.ts';

writeIntoMemory();

// Tests do a little of much: most of what the engine would compile for speed is used too seldom to pay, and took a
// quarter of all their time. Code is compiled simply and at once, and for speed only where it goes on for long.
for (const flag of [
  '--always-sparkplug',
  '--interrupt-budget=400000',
  '--max-inlined-bytecode-size-cumulative=300',
  '--max-semi-space-size=32',
]) {
  setFlagsFromString(flag);
}

// A busy machine is slow, not wrong; what has to be quick is measured elsewhere.
const patient = { testTimeout: 60_000, hookTimeout: 60_000 };

/** Files that take longest, the longest first: one that begins last keeps a core alone at the end. */
const LONG = ['fuzz', 'kill', 'versions', 'store', 'api', 'laws', 'talk', 'library', 'cli'];

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const place = ({ moduleId }: TestSpecification) => {
      const at = LONG.findIndex((name) => moduleId.endsWith(`/${name}.test.ts`));
      return at < 0 ? LONG.length : at;
    };
    return [...files].sort((a, b) => place(a) - place(b));
  }
}

export default defineConfig({
  test: {
    sequence: { sequencer: LongestFirst },
    // All cores: nothing else is at work while they run.
    maxWorkers: '100%',
    projects: [
      {
        // Nothing in it outlives a test, so files share their thread and what it has loaded.
        plugins: [samples()],
        test: {
          name: 'computing',
          include: ['core/src/**/*.test.ts', 'web/{*,src/**/*}.test.ts', 'cli/src/**/*.test.ts'],
          pool: 'threads',
          isolate: false,
          ...patient,
        },
      },
      {
        test: {
          name: 'serving',
          pool: 'threads',
          isolate: false,
          include: ['server/src/**/*.test.ts', 'engrave/src/**/*.test.ts'],
          globalSetup: ['server/src/test/setup.ts'],
          ...patient,
        },
      },
    ],
  },
});

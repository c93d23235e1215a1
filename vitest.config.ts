import { defineConfig } from 'vitest/config';
import { samples } from './web/samples.ts';

// A busy machine is slow, not wrong; what has to be quick is measured elsewhere.
const patient = { testTimeout: 60_000, hookTimeout: 60_000 };

export default defineConfig({
  test: {
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

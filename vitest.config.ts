import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: [
      'core/src/**/*.test.ts',
      'server/src/**/*.test.ts',
      'cli/src/**/*.test.ts',
      'engrave/src/**/*.test.ts',
      'web/src/**/*.test.ts',
    ],
    // A busy machine is slow, not wrong; what has to be quick is measured elsewhere.
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
});

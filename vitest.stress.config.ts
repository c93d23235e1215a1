/** Stress tests: many spoiled files, and programs that are killed. Unit tests are quick because these are not among them. */
import { defineConfig } from 'vitest/config';
import units from './vitest.config.ts';

export default defineConfig({
  ...units,
  test: { ...units.test, include: ['{core,server}/src/**/*.stress.ts', 'e2e/torture/*.stress.ts'] },
});

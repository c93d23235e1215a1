import { defineConfig } from '@playwright/test';
import { writeIntoMemory } from '../scripts/steps.mjs';

writeIntoMemory();

const PORT = 4187;

export default defineConfig({
  testDir: './tests',
  outputDir: '../test-results/e2e',
  // One server with one library: tests make tunes of their own and do not share them. What measures time
  // comes after the rest, alone.
  workers: 2,
  fullyParallel: true,
  projects: [
    { name: 'desk', testIgnore: /timing/ },
    { name: 'timing', testMatch: /timing/, dependencies: ['desk'], fullyParallel: false },
  ],
  timeout: 120_000,
  // A busy machine is slow, not wrong; what has to be quick is measured by tests of its own.
  expect: { timeout: 30_000 },
  // On a machine that others share, one in some hundreds fails for once. It is run again, and told at the end with
  // what it failed of: nothing is hidden, and what fails twice fails.
  retries: 1,
  reporter: [['list'], ['json', { outputFile: '../test-results/e2e.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    // To look into a failure: `--trace retain-on-failure`. Recording each test takes a fifth of the time.
    trace: 'off',
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-quic',
        '--autoplay-policy=no-user-gesture-required',
        // All windows of a test in one process; support.ts says what for.
        '--process-per-site',
        '--renderer-process-limit=1',
      ],
    },
  },
  webServer: {
    command: 'node server/dist/main.js --demo',
    cwd: '..',
    url: `http://127.0.0.1:${PORT}/api/health`,
    env: { PORT: String(PORT) },
    timeout: 120_000,
  },
});

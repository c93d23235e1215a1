import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';
import { compileLightly, writeIntoMemory } from './scripts/steps.mjs';
import { samples } from './web/samples.ts';

writeIntoMemory();
compileLightly();

/** Files that take longest, the longest first: one that begins last keeps a core alone at the end. */
const LONG = ['versions', 'store', 'api', 'laws', 'talk', 'library', 'cli'];

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
  plugins: [samples(), vue()],
  test: {
    include: [
      'core/src/**/*.test.ts',
      'engrave/src/**/*.test.ts',
      'server/src/**/*.test.ts',
      'cli/src/**/*.test.ts',
      'web/{*,src/**/*}.test.ts',
    ],
    // Components bring their style along, which only the bundler reads.
    server: { deps: { inline: ['vuetify'] } },
    globalSetup: ['server/src/test/setup.ts'],
    sequence: { sequencer: LongestFirst },
    // All cores: nothing else is at work while they run.
    maxWorkers: '100%',
    // Nothing in a file outlives its tests, so files share their thread and what it has loaded.
    pool: 'threads',
    isolate: false,
    // A busy machine is slow, not wrong; what has to be quick is measured elsewhere.
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
});

/** Programs for Node, bundled so that they start without reading and translating their sources. */
import { build } from 'vite';
import { engineBinary } from './engine.ts';

export interface ProgramOptions {
  readonly root: string;
  readonly out: string;
  /** Entries by their names. */
  readonly input: Readonly<Record<string, string>>;
  /** Packages that stay where they are installed, beside those of the sheet, which read files of their own. */
  readonly external?: readonly (string | RegExp)[];
}

export async function buildProgram({ root, out, input, external = [] }: ProgramOptions): Promise<void> {
  await build({
    configFile: false,
    root,
    logLevel: 'warn',
    plugins: [engineBinary('server')],
    ssr: { noExternal: true },
    build: {
      ssr: true,
      ssrEmitAssets: true,
      target: 'node20',
      outDir: out,
      emptyOutDir: true,
      rollupOptions: {
        input,
        external: ['pdfmake', '@resvg/resvg-wasm', ...external],
        output: { entryFileNames: '[name].js', chunkFileNames: '[name]-[hash].js', assetFileNames: '[name][extname]' },
      },
    },
  });
}

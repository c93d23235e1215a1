/** Builds the command line into a folder of its own: one program that starts without reading and translating its sources. */
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'vite';
import { engineBinary } from '../engrave/build/engine.ts';

const HERE = fileURLToPath(new URL('.', import.meta.url));

await build({
  configFile: false,
  root: HERE,
  logLevel: 'error',
  plugins: [engineBinary('server')],
  ssr: { noExternal: true },
  build: {
    ssr: true,
    ssrEmitAssets: true,
    target: 'node20',
    outDir: process.argv[2] ?? join(HERE, 'dist'),
    emptyOutDir: true,
    rollupOptions: {
      input: join(HERE, 'src/main.ts'),
      // Packages that read files of their own stay where they are installed.
      external: ['pdfmake', '@resvg/resvg-wasm'],
      output: { entryFileNames: '[name].js', chunkFileNames: '[name]-[hash].js', assetFileNames: '[name][extname]' },
    },
  },
});

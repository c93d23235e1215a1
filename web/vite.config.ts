import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';
import vuetify from 'vite-plugin-vuetify';
import { engineBinary } from '../engrave/build/engine.ts';
import { samples } from './samples.ts';

const SERVER = `http://127.0.0.1:${process.env['PORT'] ?? 4180}`;

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true }), samples()],
  worker: { format: 'es', plugins: () => [engineBinary('browser')] },
  build: { target: 'es2022', chunkSizeWarningLimit: 1000, assetsInlineLimit: 0 },
  server: { proxy: { '/api': SERVER } },
});

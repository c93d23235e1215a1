import { mkdirSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { join } from 'node:path';
import type { Plugin } from 'vite';

const MODULE = /verovio-module\.mjs$/;
const EMBEDDED = /findWasmBinary\(\)\{return binaryDecode\(('(?:[^'\\]|\\.)*')\)\}/s;
const INSTANTIATE = 'WebAssembly.instantiate(binary,imports)';
const CACHE = fileURLToPath(new URL('../node_modules/.cache/nokta', import.meta.url));

/**
 * The engraver carries its program as seven megabytes of text in its script, which a browser would read,
 * decode and compile one after the other at every start. Here it becomes a file of its own, compiled
 * while it arrives and kept compiled by the browser.
 */
export function engineBinary(): Plugin {
  return {
    name: 'nokta:engine-binary',
    enforce: 'pre',
    transform(code, id) {
      if (!MODULE.test(id)) return null;
      const literal = EMBEDDED.exec(code)?.[1];
      if (!literal || !code.includes(INSTANTIATE)) {
        throw new Error(`${id} is not built as expected: its program was not found. Look at web/engineBinary.ts.`);
      }
      const file = join(CACHE, 'verovio.wasm');
      mkdirSync(CACHE, { recursive: true });
      writeFileSync(file, bytesOf(literal));
      return {
        // Functions, since the text has dollar signs of its own.
        code: `import engineUrl from ${JSON.stringify(`${file}?url`)};\n${code
          .replace(EMBEDDED, () => 'findWasmBinary(){return fetch(engineUrl)}')
          .replace(INSTANTIATE, () => 'WebAssembly.instantiateStreaming(binary,imports)')}`,
        map: null,
      };
    },
  };
}

/** One letter a byte; whatever is no byte stands for zero, which text cannot hold everywhere. */
function bytesOf(literal: string): Uint8Array {
  const text = new Function(`return ${literal}`)() as string;
  return Uint8Array.from(text, (sign) => (sign.charCodeAt(0) > 255 ? 0 : sign.charCodeAt(0)));
}

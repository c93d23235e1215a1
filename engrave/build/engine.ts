/**
 * The engraver carries its program as seven megabytes of text in its script, to be read, decoded and
 * compiled one after the other at every start. At build it becomes a file of its own: a browser compiles it
 * while it arrives and keeps it compiled, the server reads it as it is. Fonts that are not used are not laid out.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { join } from 'node:path';
import type { Plugin } from 'vite';

const MODULE = /verovio-module\.mjs$/;
const EMBEDDED = /findWasmBinary\(\)\{return binaryDecode\(('(?:[^'\\]|\\.)*')\)\}/s;
const INSTANTIATE = 'WebAssembly.instantiate(binary,imports)';
const PROGRAM = 'verovio.wasm';
/** Where the script lays out the package's data, a file for each sign of each music font, at every start. */
const LAY_OUT = 'FS.createPath("/",PATH.dirname(name),true,true);FS.createDataFile(name,';
/** Music fonts that nothing here is drawn with. */
const UNUSED = /\/(?:Gootville|Leland|Petaluma)[./]/;
const CACHE = fileURLToPath(new URL('../../node_modules/.cache/nokta', import.meta.url));

export interface TakenApart {
  /** The engraver's program, WebAssembly. */
  readonly program: Uint8Array;
  /** The script without it. @param source the expression that gives the program. @param instantiate what compiles it */
  script(source: string, instantiate?: string): string;
}

/** @throws where the script is not built as expected: another release of the package needs another look */
export function takeApart(code: string, name: string): TakenApart {
  const literal = EMBEDDED.exec(code)?.[1];
  if (!literal || !code.includes(INSTANTIATE) || !code.includes(LAY_OUT)) {
    throw new Error(`${name} is not built as expected: its program was not found. Look at engrave/build/engine.ts.`);
  }
  return {
    program: bytesOf(literal),
    // Functions, since the text has dollar signs of its own.
    script: (source, instantiate = INSTANTIATE) =>
      code
        .replace(EMBEDDED, () => `findWasmBinary(){return ${source}}`)
        .replace(INSTANTIATE, () => instantiate)
        .replace(LAY_OUT, (all) => `if(${UNUSED}.test(name))continue;${all}`),
  };
}

/** @param place where the script will run */
export function engineBinary(place: 'browser' | 'server'): Plugin {
  return {
    name: 'nokta:engine-binary',
    enforce: 'pre',
    transform(code, id) {
      if (!MODULE.test(id)) return null;
      const { program, script } = takeApart(code, id);
      if (place === 'server') {
        this.emitFile({ type: 'asset', fileName: PROGRAM, source: program });
        return {
          code: `import { readFileSync } from 'node:fs';\n${script(`readFileSync(new URL('./${PROGRAM}', import.meta.url))`)}`,
          map: null,
        };
      }
      mkdirSync(CACHE, { recursive: true });
      const path = join(CACHE, PROGRAM);
      writeFileSync(path, program);
      return {
        code: `import engineUrl from ${JSON.stringify(`${path}?url`)};\n${script(
          'fetch(engineUrl)',
          'WebAssembly.instantiateStreaming(binary,imports)',
        )}`,
        map: null,
      };
    },
  };
}

/** One letter a byte; whatever is no byte stands for zero, which text cannot hold everywhere. */
function bytesOf(literal: string): Uint8Array {
  // oxlint-disable-next-line typescript/no-implied-eval -- a literal of the pinned package, at build
  const text = new Function(`return ${literal}`)() as string;
  return Uint8Array.from(text, (sign) => (sign.charCodeAt(0) > 255 ? 0 : sign.charCodeAt(0)));
}

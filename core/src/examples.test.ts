/** Every example in a doc comment of the core is run, and every public function has one. */
/// <reference types="vite/types/importMeta.d.ts" />
import { describe, expect, it } from 'vitest';
import { EXAMPLE_WORLD } from './test/examples.ts';

type Module = Readonly<Record<string, unknown>>;
const SOURCES = import.meta.glob<string>(['./*/**/*.ts', '!./**/*.test.ts', '!./test/**'], {
  eager: true,
  query: '?raw',
  import: 'default',
});
const INDEXES = import.meta.glob<Module>('./*/index.ts', { eager: true });
const MODULES = import.meta.glob<Module>(['./*/**/*.ts', '!./**/*.test.ts', '!./test/**'], { eager: true });

const PUBLIC: Module = Object.assign({}, ...Object.values(INDEXES));

interface Example {
  readonly of: string;
  readonly file: string;
  readonly code: string;
  readonly result: string;
}

/** Doc comments right before an export, with the name that they are about. */
const DOCUMENTED = /\/\*\*((?:(?!\*\/)[^])*)\*\/\s*export (?:async )?(?:function\*?|const|class) (\w+)/g;
/** "@example expression // what it gives", on one line. */
const EXAMPLE = /@example (.*?) \/\/ (.*?)\s*(?:\n|$)/g;

const examples = Object.entries(SOURCES).flatMap(([file, source]) =>
  [...source.matchAll(DOCUMENTED)].flatMap(([, comment, of]) =>
    [...comment!.matchAll(EXAMPLE)].map(([, code, result]): Example => ({
      of: of!,
      file,
      code: code!,
      result: result!,
    })),
  ),
);

/** Runs JavaScript with the core's functions, those of the example's own file first, and the example world. */
function run(code: string, file: string): unknown {
  const worlds: readonly Module[] = [EXAMPLE_WORLD, MODULES[file] ?? {}, PUBLIC];
  const known = new Map(
    [...new Set(code.match(/[A-Za-z_]\w*/g))].flatMap((name): readonly (readonly [string, unknown])[] => {
      const world = worlds.find((one) => name !== 'default' && Object.hasOwn(one, name));
      return world ? [[name, world[name]]] : [];
    }),
  );
  // oxlint-disable-next-line typescript/no-implied-eval -- the examples are ours
  return new Function(...known.keys(), `return (${code});`)(...known.values());
}

describe('examples', () => {
  it.each(examples.map((example) => [example.of, example] as const))('%s', (_, { code, result, file }) => {
    expect(run(code, file)).toEqual(run(result, file));
  });

  it('are there for every public function', () => {
    const told = new Set(examples.map(({ of }) => of));
    const functions = Object.entries(PUBLIC).flatMap(([name, value]) => (typeof value === 'function' ? [name] : []));
    expect(functions.filter((name) => !told.has(name))).toEqual([]);
    expect(functions.length).toBeGreaterThan(200);
  });
});

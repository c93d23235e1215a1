/** Style is the formatter's, templates are ESLint's; this checks meaning, and that arrows between folders go one way. */
import { defineConfig } from 'oxlint';

/** The core's folders in their order: each may import only those before it. */
const CORE = [
  'stage',
  'record',
  'music',
  'formats',
  'search',
  'edit',
  'form',
  'harmony',
  'instrument',
  'bow',
  'hand',
  'grade',
  'paper',
  'learner',
  'version',
  'arrange',
  'compare',
  'look',
  'practice',
  'words',
  'warmup',
  'talk',
  'sheet',
  'files',
];

/** The desk's passes, each by itself. */
const PASSES = ['tune', 'parts', 'key', 'hand', 'bow', 'grades', 'sheet', 'teach'].map((pass) => `desk/${pass}`);

/** The web's folders in their order, likewise. */
const WEB = [
  'turns',
  'api',
  'notices',
  'outbox',
  'kept',
  'learners',
  'settings',
  'theme',
  'sound',
  'workers',
  'desk/rooms',
  'desk/shared',
  ...PASSES,
  'desk',
  'library',
  'workshop',
];

const forbid = (patterns) => ({ 'no-restricted-imports': ['error', { patterns }] });
const packages = (names) =>
  names.map((name) => ({
    group: [`@nokta/${name}`, `@nokta/${name}/*`, `**/../${name}/src/**`],
    message: 'Arrows go one way; see docs/adr/0001.',
  }));

const webPatterns = [
  ...packages(['cli', 'server']),
  { group: ['@nokta/engrave/pdf', '@nokta/engrave/png', 'node:*'], message: 'Node only.' },
];

const coreFolders = CORE.map((folder, index) => ({
  files: [`core/src/${folder}/**/*.ts`],
  excludeFiles: ['**/*.test.ts'],
  rules: forbid([
    ...packages(['api', 'engrave', 'cli', 'server', 'web']),
    ...CORE.slice(index + 1).map((later) => ({
      group: [`../${later}/*`, `../../${later}/*`],
      message: `${folder} stands before ${later}.`,
    })),
    {
      group: ['node:*', 'vue', 'express', '../test/*', '../../test/*'],
      message: 'The core is pure computation.',
    },
  ]),
}));

const isPass = (folder) => PASSES.includes(folder);

/** A pass knows no other pass; the desk itself, which has them all, nobody knows but the address book. */
const webFolders = WEB.filter((folder) => folder !== 'desk').map((folder) => ({
  files: [`web/src/${folder}/**/*.{ts,vue}`],
  excludeFiles: ['**/*.test.ts', '**/test/*.ts'],
  rules: forbid([
    ...webPatterns,
    ...WEB.filter((other, index) => index > WEB.indexOf(folder) || (isPass(other) && isPass(folder)))
      .filter((other) => other !== folder)
      .map((other) => ({
        group: [`../${other}/*`, `../../${other}/*`, `../${other.replace('desk/', '')}/*`],
        message: isPass(folder) && isPass(other) ? 'A pass knows no other.' : `${folder} stands before ${other}.`,
      })),
  ]),
}));

export default defineConfig({
  options: { typeAware: true, denyWarnings: true, reportUnusedDisableDirectives: 'error' },
  plugins: ['eslint', 'typescript', 'unicorn', 'oxc', 'import'],
  categories: { correctness: 'error' },
  rules: {
    // Files that need each other are one file, or have a third in them; types too.
    'import/no-cycle': ['error', { ignoreTypes: false }],
    'no-var': 'error',
    'prefer-const': 'error',
    'prefer-rest-params': 'error',
    'prefer-spread': 'error',
    'no-unused-expressions': 'error',
    'no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    'no-useless-constructor': 'error',
    'no-array-constructor': 'error',
    'typescript/ban-ts-comment': 'error',
    'typescript/consistent-type-imports': 'error',
    'typescript/no-dynamic-delete': 'error',
    'typescript/no-empty-object-type': 'error',
    'typescript/no-explicit-any': 'error',
    'typescript/no-extraneous-class': 'error',
    'typescript/no-invalid-void-type': 'error',
    'typescript/no-namespace': 'error',
    'typescript/no-non-null-asserted-nullish-coalescing': 'error',
    'typescript/no-require-imports': 'error',
    'typescript/no-unnecessary-type-constraint': 'error',
    'typescript/no-unsafe-function-type': 'error',
    'typescript/prefer-literal-enum-member': 'error',
    'typescript/unified-signatures': 'error',
    'unicorn/no-new-array': 'off',
    // What is taken out of an object here is a closure, which needs no `this`.
    'typescript/unbound-method': 'off',
    // Text is walked sign by sign on purpose, and what comes out of files is made text where it is read.
    'typescript/no-misused-spread': 'off',
    'typescript/no-base-to-string': 'off',
    // What needs types finds real faults: a promise that nobody waits for, a case that nobody thought of.
    'typescript/no-floating-promises': 'error',
    'typescript/no-misused-promises': 'error',
    'typescript/switch-exhaustiveness-check': [
      'error',
      { considerDefaultExhaustiveForUnions: true, requireDefaultForNonUnion: false },
    ],
  },
  overrides: [
    ...coreFolders,
    { files: ['api/src/**/*.ts'], rules: forbid(packages(['engrave', 'cli', 'server', 'web'])) },
    { files: ['engrave/src/**/*.ts'], rules: forbid(packages(['api', 'cli', 'server', 'web'])) },
    { files: ['cli/src/**/*.ts'], rules: forbid(packages(['api', 'server', 'web'])) },
    { files: ['server/src/**/*.ts'], rules: forbid(packages(['cli', 'web'])) },
    { files: ['web/src/**/*.{ts,vue}'], rules: forbid(webPatterns) },
    ...webFolders,
  ],
  ignorePatterns: ['**/dist/**', '**/node_modules/**', 'server/src/db/migrations/**', 'test-results/**'],
});

/** Style is Prettier's; this checks meaning, and that arrows between folders go one way. */
import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import globals from 'globals';
import ts from 'typescript-eslint';

/** The core's folders in their order: each may import only those before it. */
const CORE = [
  'stage',
  'music',
  'formats',
  'search',
  'edit',
  'form',
  'instrument',
  'bow',
  'hand',
  'grade',
  'paper',
  'arrange',
  'look',
  'practice',
  'words',
  'warmup',
  'talk',
  'sheet',
  'files',
];

const forbid = (patterns) => ({ 'no-restricted-imports': ['error', { patterns }] });
const packages = (names) =>
  names.map((name) => ({
    group: [`@nokta/${name}`, `@nokta/${name}/*`, `**/../${name}/src/**`],
    message: 'Arrows go one way; see docs/adr/0001.',
  }));

const coreFolders = CORE.map((folder, index) => ({
  files: [`core/src/${folder}/**/*.ts`],
  ignores: ['**/*.test.ts'],
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

export default ts.config(
  {
    ignores: [
      '**/dist/**',
      '**/node_modules/**',
      'server/src/db/migrations/**',
      'test-results/**',
      'playwright-report/**',
    ],
  },
  ...ts.configs.strict,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.{ts,vue}'],
    languageOptions: {
      parserOptions: { parser: ts.parser, extraFileExtensions: ['.vue'] },
      globals: { ...globals.node, ...globals.browser },
    },
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      // A place in an array that was just found or counted is known to be there.
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      'no-undef': 'off',
      // Only SVG made here goes in; every text in it is escaped where it is made.
      'vue/no-v-html': 'off',
      'vue/multi-word-component-names': 'error',
    },
  },
  {
    // What needs types finds real faults: a promise that nobody waits for, a case that nobody thought of.
    files: ['**/*.ts'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true, requireDefaultForNonUnion: false },
      ],
    },
  },
  { files: ['**/*.{js,mjs}'], languageOptions: { globals: globals.node } },
  ...coreFolders,
  { files: ['api/src/**/*.ts'], rules: forbid(packages(['engrave', 'cli', 'server', 'web'])) },
  { files: ['engrave/src/**/*.ts'], rules: forbid(packages(['api', 'cli', 'server', 'web'])) },
  { files: ['cli/src/**/*.ts'], rules: forbid(packages(['api', 'server', 'web'])) },
  { files: ['server/src/**/*.ts'], rules: forbid(packages(['cli', 'web'])) },
  {
    files: ['web/src/**/*.{ts,vue}'],
    rules: forbid([
      ...packages(['cli', 'server']),
      { group: ['@nokta/engrave/pdf', '@nokta/engrave/png', 'node:*'], message: 'Node only.' },
    ]),
  },
  prettier,
);

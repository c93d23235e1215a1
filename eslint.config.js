/** Templates, which only this reads; everything else is checked in oxlint.config.mjs. Style is the formatter's. */
import noStyle from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import parser from '@typescript-eslint/parser';

export default [
  { ignores: ['**/dist/**', '**/node_modules/**'] },
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser } },
    rules: {
      // Only SVG made here goes in; every text in it is escaped where it is made.
      'vue/no-v-html': 'off',
      'vue/multi-word-component-names': 'error',
    },
  },
  noStyle,
];

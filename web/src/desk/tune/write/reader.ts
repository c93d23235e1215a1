/** The reader of ABC apart from what is always loaded. */
export { readAbc } from '@nokta/core/formats';

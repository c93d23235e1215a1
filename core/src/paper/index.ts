/** How things are called and how a sheet looks: values that decisions keep, and lanes and words are drawn by. */
export * from './names.ts';
export * from './style.ts';
export * from './slice.ts';

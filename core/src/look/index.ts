/** What to know of a tune before it is taught. */
export * from './look.ts';

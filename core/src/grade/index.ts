/** Versions of a tune: what is left out, and what cannot be met. */
export * from './bare.ts';
export * from './version.ts';
export * from './check.ts';
export * from './contract.ts';
export * from './breaches.ts';
export * from './simplify.ts';
export * from './changes.ts';

/** From tune and decisions to an arrangement. */
export * from './decisions.ts';
export * from './arrange.ts';

/** Versions of a tune at other grades. */
export * from './bare.ts';

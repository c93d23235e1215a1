/** Parts, phrases, sameness and the learning plan. */
export * from './form.ts';
export { RELATIONS, type RelationKind } from './compare.ts';

/** The passes along the top of the desk, in the order of the work; only those that exist. */
export const PASSES = [
  { id: 'tune', label: 'Tune', hint: 'What it is, and how it sounds' },
  { id: 'parts', label: 'Parts', hint: 'Parts and phrases' },
  { id: 'key', label: 'Key', hint: 'Instrument, key and tuning' },
  { id: 'hand', label: 'Hand', hint: 'Strings and fingers' },
  { id: 'grades', label: 'Grades', hint: 'Easier versions' },
  { id: 'sheet', label: 'Sheet', hint: 'Print and files' },
] as const;

export type PassId = (typeof PASSES)[number]['id'];
export const DEFAULT_PASS: PassId = 'tune';

export const isPass = (value: unknown): value is PassId => PASSES.some(({ id }) => id === value);

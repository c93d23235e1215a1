/** Values that are nearly right: one member, however deep, is another thing. */
import fc from 'fast-check';

/** What stands in the place of something right. */
const JUNK: readonly unknown[] = [
  null,
  undefined,
  true,
  0,
  -0,
  -1,
  0.5,
  1e300,
  Number.NaN,
  Number.MAX_SAFE_INTEGER,
  '',
  ' ',
  'H9',
  'Q4',
  'G',
  'G99',
  'n1',
  'standard',
  '\0',
  '\ud800',
  '__proto__',
  'constructor',
  '0000-00-00T00:00:00Z',
  '9999-99-99T99:99:99Z',
  'x'.repeat(5_000),
  '{',
  '1e999',
  [],
  [[]],
  {},
  { constructor: 1 },
];

/** Puts something else in the place of one member, takes it away, or doubles it. */
function put(value: unknown, path: readonly number[], change: (old: unknown) => unknown): unknown {
  if (typeof value !== 'object' || value === null || path.length === 0) return change(value);
  const keys = Object.keys(value);
  if (keys.length === 0) return change(value);
  const key = keys[path[0]! % keys.length]!;
  const inner = put((value as Record<string, unknown>)[key], path.slice(1), change);
  if (Array.isArray(value)) return value.map((one: unknown, index) => (String(index) === key ? inner : one));
  return { ...value, [key]: inner };
}

const turned = (old: unknown): unknown => {
  if (typeof old === 'string') return `${old.slice(1)}${old.slice(0, 1)}`;
  if (typeof old === 'number') return -old - 1;
  if (Array.isArray(old)) return [...(old as readonly unknown[]), ...(old as readonly unknown[])];
  if (typeof old === 'object' && old !== null) return Object.fromEntries(Object.entries(old).slice(1));
  return !old;
};

/** Spoils a value in one place. */
export const spoiled = (): fc.Arbitrary<(value: unknown) => unknown> =>
  fc
    .tuple(
      fc.array(fc.nat(30), { maxLength: 8 }),
      fc.oneof(
        fc.constantFrom(...JUNK).map((junk) => () => junk),
        fc.constant(turned),
        fc.anything({ maxDepth: 1 }).map((junk) => () => junk),
      ),
    )
    .map(
      ([path, change]) =>
        (value: unknown) =>
          put(value, path, change),
    );

export const randomOf = <T>(list: readonly T[]): T => list[Math.floor(Math.random() * list.length)]!;

/** The same without a generator of its own, for runs that go on for long. */
export function spoil(value: unknown): unknown {
  const path = Array.from({ length: Math.floor(Math.random() * 8) }, () => Math.floor(Math.random() * 31));
  const junk = randomOf(JUNK);
  return put(value, path, Math.random() < 0.4 ? turned : () => junk);
}

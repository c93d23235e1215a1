/** Text that the store cannot keep as it is: a zero sign, or half of a pair of signs. Refused in words, wherever it stands. */
import type { RequestHandler } from 'express';
import { Refusal } from './problems.ts';

const isPlain = (text: string) => !text.includes('\0') && text.isWellFormed();

/** Nothing that is sent is nested deeper; what looks into it needs a stack as deep. */
const MOST_DEPTH = 60;

/**
 * @returns where the first such text stands; null where all can be kept
 * @throws Refusal 400 for what is nested deeper than anything here is
 */
export function unkeepable(value: unknown, path = '', depth = 0): string | null {
  if (typeof value === 'string') return isPlain(value) ? null : path || 'the text';
  if (typeof value !== 'object' || value === null) return null;
  if (depth > MOST_DEPTH) throw new Refusal(400, { error: 'This request is nested deeper than anything Nokta keeps.' });
  for (const [name, inner] of Object.entries(value)) {
    const at = Array.isArray(value) ? `${path}[${name}]` : [path, name].filter(Boolean).join('.');
    if (!isPlain(name)) return at;
    const found = unkeepable(inner, at, depth + 1);
    if (found) return found;
  }
  return null;
}

/** For bodies, queries and addresses. */
export const plainText: RequestHandler = (request, _, next) => {
  let address: string;
  try {
    address = decodeURIComponent(request.path);
  } catch {
    throw new Refusal(400, { error: 'This address was not understood.' });
  }
  const found = unkeepable(request.body) ?? unkeepable(request.query) ?? unkeepable(address, 'the address');
  if (found) {
    throw new Refusal(400, {
      error: 'There is a sign in this text that cannot be kept.',
      remedy: `Type ${found} again without it.`,
    });
  }
  next();
};

/** Names under which the server answers. A foreign page can point a name of its own at this computer; it is turned away. */
import type { RequestHandler } from 'express';
import { Refusal } from './problems.ts';

const OWN = ['127.0.0.1', 'localhost', '[::1]'];
const EVERYWHERE = new Set(['0.0.0.0', '::']);

/**
 * @param host what the server listens on
 * @param more further names, with commas between them: what the user's network calls this computer
 */
export function hostsFor(host: string, more = process.env['NOKTA_HOSTS'] ?? ''): ReadonlySet<string> {
  const given = [host, ...more.split(',')].map((name) => name.trim().toLowerCase());
  const names = given.filter((name) => name !== '' && !EVERYWHERE.has(name));
  return new Set([...OWN, ...names.map((name) => (name.includes(':') && !name.startsWith('[') ? `[${name}]` : name))]);
}

/** For reads too: a page under another name could carry the whole library away. */
export const knownHost =
  (hosts: ReadonlySet<string>): RequestHandler =>
  (request, response, next) => {
    const name = nameIn(request.headers.host);
    if (name === null || !hosts.has(name)) {
      // Whoever is turned away keeps no place that others need.
      response.set('connection', 'close');
      throw new Refusal(403, {
        error: 'Nokta does not answer under this name.',
        remedy: 'Open it at its own address, or add the name: NOKTA_HOSTS=name npm start',
      });
    }
    next();
  };

/** "localhost:4180" → "localhost". */
function nameIn(host: string | undefined): string | null {
  if (!host || !URL.canParse(`http://${host}`)) return null;
  const url = new URL(`http://${host}`);
  return url.username || url.pathname !== '/' ? null : url.hostname.replace(/\.$/, '');
}

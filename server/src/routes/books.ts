/** `/api/books`: a book made, how far it is, and called off by whoever asked for it. */
import { Router } from 'express';
import { bookRequest, type BookProgress } from '@nokta/api';
import { makeBook } from '../library/books.ts';
import type { Library } from '../library/tunes.ts';
import { notFound } from '../problems.ts';
import { sendFile } from './send.ts';

const MEDIA = { pdf: 'application/pdf', zip: 'application/zip' } as const;

export function bookRoutes(library: Library): Router {
  const router = Router();
  const underWay = new Map<string, BookProgress>();
  router.post('/', async (request, response) => {
    const asked = bookRequest.parse(request.body);
    const { run, title } = asked;
    const over = new AbortController();
    // Nobody waits for it any more.
    response.on('close', () => over.abort());
    try {
      const { ending, content } = await makeBook(library, asked, {
        signal: over.signal,
        progress: (progress) => underWay.set(run, progress),
      });
      sendFile(response, title, ending, MEDIA[ending], content);
    } catch (error) {
      if (!over.signal.aborted) throw error;
    } finally {
      underWay.delete(run);
    }
  });
  router.get('/:run', (request, response) => {
    const progress = underWay.get(request.params.run);
    if (!progress) throw notFound('book');
    response.json(progress);
  });
  return router;
}

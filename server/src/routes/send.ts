/** Files as downloads. */
import type { Response } from 'express';
import { fileName } from '@nokta/core/files';

/** Named after what is in it. */
export function sendFile(response: Response, title: string, ending: string, type: string, content: Uint8Array): void {
  const name = fileName(title) || 'tune';
  response.attachment(`${name}.${ending}`).type(type).send(Buffer.from(content));
}

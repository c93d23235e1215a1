/** A folder for a group: each player's sheet and score, in one zip. */
import { freeName } from '@nokta/core/files';
import { packZip } from '@nokta/core/formats';
import type { SheetStyle } from '@nokta/core/sheet';
import { fileUrl } from '../../api/client.ts';

export interface FolderInput {
  readonly title: string;
  /** What goes in: whose sheets, and what they are called. */
  readonly arrangements: readonly { readonly id: string; readonly name: string }[];
  readonly style: SheetStyle;
}

interface Asking {
  readonly signal: AbortSignal;
  readonly progress: (share: number) => void;
}

export interface FolderFile {
  /** Of its arrangement. */
  readonly id: string;
  readonly name: string;
  readonly url: string;
}

/** So many arrangements are made at once. */
const LANES = 2;

/** What stands in the folder, and where it comes from. */
export function folderFiles({ title, arrangements, style }: FolderInput): readonly FolderFile[] {
  const used = new Set<string>();
  return arrangements.flatMap(({ id, name: own }) => {
    // What differs by signs that no file may have is the same for a file.
    const name = freeName(`${title} - ${own}`, (taken) => used.has(taken));
    used.add(name);
    return [
      { id, name: `${name}.pdf`, url: fileUrl.pdf(id, { ...style, phrase: null }) },
      { id, name: `${name}.musicxml`, url: fileUrl.tune(id, 'musicxml') },
    ];
  });
}

/**
 * Fetches all of it and packs it.
 * @throws where a file cannot be had; an AbortError where it was called off
 */
export async function packFolder(input: FolderInput, { signal, progress }: Asking): Promise<Uint8Array<ArrayBuffer>> {
  const files = folderFiles(input);
  const contents = new Map<string, Uint8Array>();
  // What is called off, or cannot be made, ends the other lane too.
  const over = new AbortController();
  const both = AbortSignal.any([signal, over.signal]);
  const fetched = async ({ name, url }: FolderFile): Promise<void> => {
    const answer = await fetch(url, { signal: both });
    if (!answer.ok) throw new Error(`${name} could not be made.`);
    contents.set(name, new Uint8Array(await answer.arrayBuffer()));
    progress(contents.size / files.length);
  };
  // The files of one arrangement after each other: what was worked out for the first serves the second.
  const waiting = input.arrangements.map((one) => files.filter(({ id }) => id === one.id));
  const lane = async (): Promise<void> => {
    for (let own = waiting.shift(); own; own = waiting.shift()) for (const file of own) await fetched(file);
  };
  try {
    await Promise.all(Array.from({ length: LANES }, lane));
  } catch (error) {
    over.abort();
    throw error;
  }
  return packZip(Object.fromEntries(files.map(({ name }) => [name, contents.get(name)!])));
}

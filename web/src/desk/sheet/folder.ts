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

/** What stands in the folder, and where it comes from. */
export function folderFiles({
  title,
  arrangements,
  style,
}: FolderInput): readonly { readonly name: string; readonly url: string }[] {
  const used = new Set<string>();
  return arrangements.flatMap(({ id, name: own }) => {
    // What differs by signs that no file may have is the same for a file.
    const name = freeName(`${title} - ${own}`, (taken) => used.has(taken));
    used.add(name);
    return [
      { name: `${name}.pdf`, url: fileUrl.pdf(id, { ...style, phrase: null }) },
      { name: `${name}.musicxml`, url: fileUrl.tune(id, 'musicxml') },
    ];
  });
}

/**
 * Fetches all of it and packs it.
 * @throws where a file cannot be had; an AbortError where it was called off
 */
export async function packFolder(input: FolderInput, { signal, progress }: Asking): Promise<Uint8Array<ArrayBuffer>> {
  const files = folderFiles(input);
  const contents: Record<string, Uint8Array> = {};
  for (const [index, { name, url }] of files.entries()) {
    const answer = await fetch(url, { signal });
    if (!answer.ok) throw new Error(`${name} could not be made.`);
    contents[name] = new Uint8Array(await answer.arrayBuffer());
    progress((index + 1) / files.length);
  }
  return packZip(contents);
}

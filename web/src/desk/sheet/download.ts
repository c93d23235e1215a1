/** Hands a file that was made here to the browser's downloads. */
export function download(content: BlobPart, type: string, file: string): void {
  const address = URL.createObjectURL(new Blob([content], { type }));
  Object.assign(document.createElement('a'), { href: address, download: file }).click();
  URL.revokeObjectURL(address);
}

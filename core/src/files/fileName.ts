/** Names of files, as every file system takes them. */

/**
 * Characters that file systems refuse become spaces.
 * @example fileName('Tar: and Twine') // 'Tar and Twine'
 */
export const fileName = (text: string): string =>
  text
    .replace(/[\\/:*?"<>|\p{Cc}]+/gu, ' ')
    .replace(/ +/g, ' ')
    .trim();

/**
 * The same, told from names that are taken already.
 * @example freeName('Reel', (name) => name === 'Reel') // 'Reel (2)'
 */
export function freeName(text: string, taken: (name: string) => boolean): string {
  const name = fileName(text);
  let free = name;
  for (let times = 2; taken(free); times += 1) free = `${name} (${times})`;
  return free;
}

/** Strips out of sight have only about their height: as they are passed they get their own, and what stands below moves. */

/** So many frames is it followed; then everything above has its height. */
const FRAMES = 12;

/** Scrolls to something, and follows it until it stands still. @param frames for how many frames */
export function keepInView(what: Element | null, frames = FRAMES): void {
  if (!what?.isConnected) return;
  what.scrollIntoView({ block: 'nearest' });
  if (frames > 0) requestAnimationFrame(() => keepInView(what, frames - 1));
}

/** Pictures of rows: they come a moment after their row, and what only flies past while scrolling asks for none. */
import { shallowRef, watchEffect, type ShallowRef } from 'vue';

const PAUSE_MS = 90;

/**
 * @param load reads what it depends on at once, and gives the picture when it is asked for
 * @returns the picture; what was shown stays until the next one is there, or cannot be made
 */
export function useLatePicture<Picture>(load: () => () => Promise<Picture>): Readonly<ShallowRef<Picture | null>> {
  const picture: ShallowRef<Picture | null> = shallowRef(null);
  watchEffect((stop) => {
    let stale = false;
    const ask = load();
    const show = async () => {
      const made = await ask().catch(() => null);
      if (!stale) picture.value = made;
    };
    const late = setTimeout(() => void show(), PAUSE_MS);
    stop(() => {
      stale = true;
      clearTimeout(late);
    });
  });
  return picture;
}

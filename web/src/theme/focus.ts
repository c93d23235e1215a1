/** Where the focus goes when something that took it is put away. */
import { nextTick, watch, type Ref } from 'vue';

/** Whoever opened a dialog has the focus again when it closes, unless something else has taken it by then. */
export function returnsFocus(shown: Readonly<Ref<boolean>>): void {
  let opener: Element | null = null;
  watch(shown, async (now) => {
    if (now) {
      opener = document.activeElement;
      return;
    }
    // The dialog goes first, then what comes of it.
    await nextTick();
    setTimeout(() => {
      const own = document.activeElement;
      const isFree = own === null || own === document.body || own.closest('[role="dialog"], .v-overlay') !== null;
      if (isFree && opener?.isConnected) (opener as HTMLElement | SVGElement).focus();
      opener = null;
    });
  });
}

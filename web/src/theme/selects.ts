/**
 * A list that is closed takes no letters: what is typed on the way back to the music would choose in it, and be saved.
 * Space, Enter and arrows open it; in the open list letters find.
 */
export function keepLettersFromSelects(page: Window = window): void {
  page.addEventListener(
    'keydown',
    (event) => {
      const list = event.target instanceof Element ? event.target.closest('.v-select') : null;
      const isLetter = event.key.length === 1 && event.key !== ' ' && !event.ctrlKey && !event.metaKey;
      if (!list || !isLetter || list.querySelector('[aria-expanded="true"]')) return;
      event.preventDefault();
      event.stopImmediatePropagation();
    },
    true,
  );
}

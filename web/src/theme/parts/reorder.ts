/** A list whose rows are put into another order by dragging, or with Alt and the arrows from the row that has the focus. */
import { ref } from 'vue';

/** @param move puts a row elsewhere; both places count from 0 */
export function useReorder(move: (from: number, to: number) => void) {
  const dragged = ref<number | null>(null);
  const over = ref<number | null>(null);
  const letGo = (): void => void (dragged.value = over.value = null);

  return {
    /** What a row is marked with. */
    classOf: (index: number) => ({ over: over.value === index, dragged: dragged.value === index }),
    /** What a row listens to. */
    rowOf: (index: number) => ({
      dragstart: () => void (dragged.value = index),
      dragend: letGo,
      dragover(event: DragEvent) {
        event.preventDefault();
        over.value = index;
      },
      drop(event: DragEvent) {
        event.preventDefault();
        if (dragged.value !== null) move(dragged.value, index);
        letGo();
      },
      keydown(event: KeyboardEvent) {
        if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
        event.preventDefault();
        event.stopPropagation();
        move(index, index + (event.key === 'ArrowUp' ? -1 : 1));
      },
    }),
  };
}

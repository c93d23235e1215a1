/** The edge of a strip, dragged to the note that it shall stand before. */
import { shallowRef, type Ref } from 'vue';
import type { DrawnNote } from '@nokta/core/sheet';

export type Edge = 'start' | 'end';

/** From the note's column back to where a line before it stands, in pixels of the strip. */
const BEFORE = 13;

/**
 * @param places columns of the strip, in pixels of it
 * @param move told where the edge was let go
 */
export function useBoundaryDrag(
  picture: Readonly<Ref<SVGSVGElement | null>>,
  places: Readonly<Ref<readonly { readonly note: DrawnNote; readonly x: number }[]>>,
  move: (edge: Edge, noteId: string) => void,
) {
  /** The edge being dragged, and the note that it would stand before. */
  const dragging = shallowRef<{ readonly edge: Edge; readonly note: string; readonly x: number } | null>(null);

  function drag(edge: Edge, event: PointerEvent): void {
    event.preventDefault();
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    follow(edge, event);
  }

  /** The nearest note that the edge can stand before: never the first, which would leave nothing. */
  function follow(edge: Edge, event: PointerEvent): void {
    const matrix = picture.value?.getScreenCTM();
    const candidates = places.value.filter(({ note }) => !note.grace).slice(1);
    if (!matrix || candidates.length === 0) return;
    const x = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse()).x;
    const away = ({ x: place }: (typeof candidates)[number]) => Math.abs(place - BEFORE - x);
    const nearest = candidates.reduce((best, other) => (away(other) < away(best) ? other : best));
    dragging.value = { edge, note: nearest.note.id, x: nearest.x - BEFORE };
  }

  const letBe = (): void => void (dragging.value = null);

  function letGo(): void {
    const moved = dragging.value;
    letBe();
    if (moved) move(moved.edge, moved.note);
  }

  return { dragging, drag, follow, letGo, letBe };
}

/** How long something is tried. */
export interface Span {
  /** So many times at most. */
  readonly most?: number;
  /** Milliseconds after which it is not begun again. */
  readonly untilMs?: number;
}

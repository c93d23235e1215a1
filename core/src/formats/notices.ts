/** Collects what a reader could not carry over: the same thing is said once, with its first place and count. */
import type { Place } from '../music/index.ts';
import type { Problem } from './problem.ts';

export class Notices {
  private readonly found = new Map<string, { place: Partial<Place>; remedy: string | undefined; count: number }>();

  /** @param message what was left out or looks odd, the same words for the same kind of thing */
  add(message: string, place: Partial<Place> = {}, remedy?: string): void {
    const known = this.found.get(message);
    if (known) known.count += 1;
    else this.found.set(message, { place, remedy, count: 1 });
  }

  all(): readonly Problem[] {
    return [...this.found].map(([message, { place, remedy, count }]) => ({
      severity: 'notice',
      message: count === 1 ? message : `${message} (${count} times)`,
      ...(remedy && { remedy }),
      ...place,
    }));
  }
}

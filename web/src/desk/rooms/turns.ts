/** Keys are quicker than what they set going: one that comes meanwhile waits, so that it sees what came of those before. */
export type TakeTurn = (run: () => unknown) => Promise<void>;

/** Makes a line to stand in. What runs alone runs at once; what fails holds up nobody. */
export function takingTurns(): TakeTurn {
  let last: Promise<void> | null = null;
  return (run) => {
    const own: Promise<void> = doing(last, run).finally(() => {
      if (last === own) last = null;
    });
    return (last = own);
  };
}

async function doing(before: Promise<void> | null, run: () => unknown): Promise<void> {
  if (before) await before.catch(() => undefined);
  await run();
}

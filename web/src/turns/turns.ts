/** A line to stand in, for what must not run side by side: keys are quicker than what they set going, and answers come late. */
export interface TakeTurn {
  /** Runs what is alone at once; what comes meanwhile waits, so that it sees what came of those before. */
  <Result>(run: () => Result | Promise<Result>): Promise<Result>;
  /** Whether nobody stands in line. */
  isFree(): boolean;
}

/** Makes a line to stand in. What fails holds up nobody. */
export function takingTurns(): TakeTurn {
  let last: Promise<unknown> | null = null;
  const inTurn = <Result>(run: () => Result | Promise<Result>): Promise<Result> => {
    const own: Promise<Result> = doing(last, run).finally(() => {
      if (last === own) last = null;
    });
    last = own;
    return own;
  };
  return Object.assign(inTurn, { isFree: () => last === null });
}

async function doing<Result>(before: Promise<unknown> | null, run: () => Result | Promise<Result>): Promise<Result> {
  if (before) await before.catch(() => undefined);
  return run();
}

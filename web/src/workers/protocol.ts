/**
 * How the desk and its worker speak: `derive` says what changed and gets what changed by it; `ask` puts a
 * question about the state of a revision. Answers about an older revision are dropped here, on the desk's
 * side; what goes wrong in the worker is told once, with a way on.
 */
import type { FactsPatch } from './facts.ts';

/** Goes up with each change that the desk sends. */
export type Revision = number;

/** How far a long answer is, 0 to 1. */
export type Progress = (share: number) => void;

/** A question gives its answer at once, when it has what it needs, or in steps: each yields how far it is. */
export type Answering<Answer> = Answer | Promise<Answer> | Generator<number, Answer>;
export type Question<State> = (state: State, ...args: never[]) => Answering<unknown>;
export type QuestionSet<State> = Readonly<Record<string, Question<State>>>;

type Args<Asked> = Asked extends (state: never, ...args: infer Rest) => unknown ? Rest : never;
type Answer<Asked> = Asked extends (...args: never[]) => infer Given
  ? Given extends Generator<number, infer Last>
    ? Last
    : Awaited<Given>
  : never;

/** What the worker's side offers. */
export interface DeskService<Change> {
  derive(revision: Revision, change: Change, progress?: Progress): Promise<FactsPatch>;
  ask(revision: Revision, id: number, name: string, args: readonly unknown[], progress?: Progress): Promise<unknown>;
  cancel(id: number): void;
}

/** The same as the desk's side sees it: everything takes a while. */
export interface DeskPort<Change> {
  derive(revision: Revision, change: Change, progress?: Progress): FactsPatch | Promise<FactsPatch>;
  ask(revision: Revision, id: number, name: string, args: readonly unknown[], progress?: Progress): Promise<unknown>;
  cancel(id: number): unknown;
}

/** The answer is about a revision that is no longer the present one, or was called off. */
export const STALE = Symbol('stale');
export type Stale = typeof STALE;

/** The worker says so where a question is about a revision that it has left. */
export const OUTDATED = 'nokta:outdated';

export interface Asking {
  readonly signal?: AbortSignal;
  readonly progress?: Progress;
}

export interface Desk<Change, Asked> {
  /** @returns what changed, and whether a later change was sent meanwhile; null where the worker failed */
  derive(change: Change, progress?: Progress): Promise<{ readonly patch: FactsPatch; readonly late: boolean } | null>;
  ask<Name extends keyof Asked & string>(name: Name, ...args: Args<Asked[Name]>): Promise<Answer<Asked[Name]> | Stale>;
  /** The same for what takes long: with progress, and it can be called off. */
  askLong<Name extends keyof Asked & string>(
    asking: Asking,
    name: Name,
    ...args: Args<Asked[Name]>
  ): Promise<Answer<Asked[Name]> | Stale>;
}

/** The part of comlink that marks functions to be called from the other side. */
type Mark = (progress: Progress) => Progress;

/**
 * The desk's side.
 * @param onFailure is told what went wrong in the worker; the call itself comes back as STALE
 */
export function deskOf<Change, Asked>(
  service: DeskPort<Change>,
  onFailure: (error: unknown) => void,
  mark: Mark = (progress) => progress,
): Desk<Change, Asked> {
  let revision: Revision = 0;
  let asked = 0;

  async function derive(change: Change, progress?: Progress) {
    const own = (revision += 1);
    try {
      const told = progress && mark((share) => own !== revision || progress(share));
      const patch = await service.derive(own, change, told);
      return { patch, late: own !== revision };
    } catch (error) {
      onFailure(error);
      return null;
    }
  }

  async function askLong({ signal, progress }: Asking, name: string, ...args: readonly unknown[]): Promise<unknown> {
    const own = revision;
    const id = (asked += 1);
    const gone = () => own !== revision || Boolean(signal?.aborted);
    if (gone()) return STALE;
    const call = () => void service.cancel(id);
    signal?.addEventListener('abort', call, { once: true });
    try {
      const answer = await service.ask(own, id, name, args, progress && mark((share) => gone() || progress(share)));
      return gone() || answer === OUTDATED ? STALE : answer;
    } catch (error) {
      if (!gone()) onFailure(error);
      return STALE;
    } finally {
      signal?.removeEventListener('abort', call);
    }
  }

  return {
    derive,
    askLong: askLong as Desk<Change, Asked>['askLong'],
    ask: ((name: string, ...args: readonly unknown[]) => askLong({}, name, ...args)) as Desk<Change, Asked>['ask'],
  };
}

/** Between the steps of a long answer others get their turn. */
const breath = () => new Promise<void>((resolve) => setTimeout(resolve));

/** Nothing changed yet: a later change came before this one was worked out. */
const NOTHING: FactsPatch = { facts: {} };

/**
 * The worker's side.
 * @param derive works out what a change changes, and keeps the state that questions are about; in steps, where it takes long: a
 * later change takes over what was not worked out yet
 */
export function serviceOf<Change, State>(
  derive: (change: Change) => Generator<number, FactsPatch>,
  state: () => State | null,
  questions: QuestionSet<State>,
): DeskService<Change> {
  let now: Revision = 0;
  let underway: Promise<FactsPatch> | null = null;
  const cancelled = new Set<number>();

  async function work(revision: Revision, change: Change, progress?: Progress): Promise<FactsPatch> {
    const steps = derive(change);
    for (;;) {
      const step = steps.next();
      if (step.done) return step.value;
      progress?.(step.value);
      await breath();
      if (revision !== now) return NOTHING;
    }
  }

  return {
    derive(revision, change, progress) {
      now = revision;
      const own = work(revision, change, progress);
      underway = own;
      return own;
    },
    async ask(revision, id, name, args, progress) {
      // A question is about what is just being worked out, not about what was before it.
      await underway?.catch(() => undefined);
      const of = state();
      const question = questions[name];
      if (!question) throw new Error(`Nobody knows the question ${name}.`);
      if (revision !== now || of === null) return OUTDATED;
      const answer = question(of, ...(args as never[]));
      if (!isStepped(answer)) return answer;
      for (;;) {
        const step = answer.next();
        if (step.done) return step.value;
        progress?.(step.value);
        await breath();
        if (cancelled.delete(id) || revision !== now) return OUTDATED;
      }
    },
    cancel: (id) => void cancelled.add(id),
  };
}

function isStepped(answer: unknown): answer is Generator<number, unknown> {
  return typeof answer === 'object' && answer !== null && 'next' in answer && typeof answer.next === 'function';
}

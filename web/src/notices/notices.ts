/**
 * What happens at other desks, as it happens. The windows of a browser share one line to the server, since a browser
 * opens only a few: one of them holds it and passes on what it hears.
 */
import type { Notice } from '@nokta/api';
import { sentHere } from '../api/client.ts';

type Listener = (notice: Notice) => void;

const listeners = new Set<Listener>();
/** Told when the line was down: what was said meanwhile was said to nobody here. */
const missed = new Set<() => void>();
let listening = false;

/** What crosses between windows. */
type Passed = { readonly notice: Notice } | { readonly again: true };

function hear(passed: Passed): void {
  if ('again' in passed) return missed.forEach((listener) => listener());
  // What was done here is known here, from its answer.
  if (passed.notice.entry !== null && sentHere.has(passed.notice.entry)) return;
  for (const listener of listeners) listener(passed.notice);
}

/** Holds the line until the window is closed. */
function hold(pass: (passed: Passed) => void): void {
  const line = new EventSource('/api/notices');
  // Until now nobody listened, the first time too: what was loaded before may be another by now.
  line.onopen = () => pass({ again: true });
  line.onmessage = ({ data }: MessageEvent<string>) => pass({ notice: JSON.parse(data) as Notice });
}

function begin(): void {
  if (listening || typeof EventSource === 'undefined') return;
  listening = true;
  if (!('locks' in navigator) || typeof BroadcastChannel === 'undefined') return hold(hear);
  const others = new BroadcastChannel('nokta-notices');
  others.onmessage = ({ data }: MessageEvent<Passed>) => hear(data);
  void navigator.locks
    .request('nokta-notices', { ifAvailable: true }, (lock) => {
      if (!lock) return false;
      holdFor(others);
      return new Promise<boolean>(() => undefined);
    })
    .then((held) => {
      if (held) return;
      // Another window has it: when that is closed it is ours.
      void navigator.locks.request('nokta-notices', () => {
        holdFor(others);
        return new Promise(() => undefined);
      });
    });
}

function holdFor(others: BroadcastChannel): void {
  hold((passed) => {
    others.postMessage(passed);
    hear(passed);
  });
}

/** @returns what ends it */
export function onNotice(listener: Listener, onMissed: () => void = () => undefined): () => void {
  listeners.add(listener);
  missed.add(onMissed);
  begin();
  return () => {
    listeners.delete(listener);
    missed.delete(onMissed);
  };
}

/** For tests: as if another desk had said it. */
export const tellNotice = (notice: Notice): void => hear({ notice });

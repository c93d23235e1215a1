/**
 * Two windows on one tune, edited at random, while answers are lost or late: whatever a window takes for saved is in
 * the tune's history, once, and nothing of the other window is written over without being asked.
 */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createPinia, setActivePinia } from 'pinia';
import type { AnyRecord, ArrangementRecord, TuneRecord } from '@nokta/api';
import { arrangementRecord, decided, type Decisions } from '@nokta/core/arrange';
import { changeBetween } from '@nokta/core/edit';
import type { Tune } from '@nokta/core/music';
import { tuneFrom } from '../../server/src/test/harness.ts';
import { freePort, kill, killAll, send, start } from '../../server/src/test/program.ts';
import { useOutbox } from '../../web/src/outbox/outbox.ts';
import { kindOf, type RecordRef } from '../../web/src/outbox/kinds.ts';
import { keyOf, laidOver } from '../../web/src/outbox/queue.ts';
import type { Span } from '../../server/src/torture/span.ts';

export interface Windows {
  readonly edits: number;
  readonly conflicts: number;
  readonly lost: readonly string[];
}

const TUNE = tuneFrom('X:1\nT:Oar and Ladle\nM:4/4\nL:1/8\nK:D\nd4 A4 | F4 D4 |\n');
/** Shares of calls: whose answer is lost, that are lost themselves, that take their time. */
const [LOST, NEVER, LATE] = [0.12, 0.06, 0.3];
/** Milliseconds that a late answer takes at most. */
const LATE_MS = 12;
/** Edits of both windows to one tune, before its history is looked through. */
const ROUND = 60;

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Every so often what is on its way does not arrive, or its answer does not. */
function unreliable(port: number): typeof fetch {
  const real = globalThis.fetch;
  return async (input, init) => {
    const pick = Math.random();
    const changes = init?.method !== undefined && init.method !== 'GET';
    if (changes && pick < NEVER) throw new TypeError('lost on its way');
    const response = await real(`http://127.0.0.1:${port}${String(input)}`, init);
    if (changes && pick < NEVER + LOST) throw new TypeError('its answer was lost');
    if (pick > 1 - LATE) await pause(Math.random() * LATE_MS);
    return response;
  };
}

class Window {
  readonly outbox;
  /** Labels of edits that this window takes for saved, and those that it was asked about and gave up. */
  readonly saved = new Set<string>();
  readonly given = new Set<string>();
  conflicts = 0;
  private tune: Tune;
  private decisions: Decisions;
  private readonly revisions: Record<RecordRef['kind'], number>;
  private readonly under = new Map<string, string[]>();

  constructor(
    readonly name: string,
    readonly record: TuneRecord,
  ) {
    setActivePinia(createPinia());
    this.outbox = useOutbox();
    const [arrangement] = record.arrangements as [ArrangementRecord];
    this.tune = record.tune;
    this.decisions = arrangement.decisions;
    this.revisions = { tune: record.revision, arrangement: arrangement.revision, learner: 0 };
    this.outbox.onArrived((ref, now, _, others) => this.arrived(ref, now, others));
  }

  edit(label: string): void {
    const isTune = Math.random() < 0.5;
    const ref = this.ref(isTune ? 'tune' : 'arrangement');
    const of = { tuneId: this.record.id, title: '', revision: this.revisions[ref.kind] };
    this.wait(ref, label);
    if (isTune) {
      const field = (['title', 'composer', 'origin'] as const)[Math.floor(Math.random() * 3)]!;
      const next = { ...this.tune, [field]: label };
      this.outbox.add(ref, of, { label, change: changeBetween(this.tune, next)!, value: next });
      this.tune = next;
    } else {
      const before = this.decisions;
      // Each says something of its own: what says the same as is there already makes no step.
      const note = `n${Math.floor(Math.random() * 7)}`;
      this.decisions = decided(before, {
        talk: { texts: { ...before.talk.texts, [note]: { text: label, digest: '' } } },
      });
      const pieces = arrangementRecord.between(before, this.decisions);
      this.outbox.add(ref, of, { label, change: pieces, value: this.decisions });
    }
  }

  /** Sends again, and answers what it is asked. @returns whether anything is left to do */
  look(): boolean {
    for (const queue of this.outbox.ofTune(this.record.id)) {
      if (queue.held?.why === 'refused') throw new Error(queue.held.message);
      if (queue.held) this.choose(queue.record, queue.held.theirs);
    }
    this.outbox.retry();
    return this.outbox.ofTune(this.record.id).length > 0;
  }

  private choose(ref: RecordRef, theirs: AnyRecord): void {
    this.conflicts += 1;
    const waiting = this.under.get(keyOf(ref)) ?? [];
    if (Math.random() < 0.5) {
      for (const label of waiting) this.given.add(label);
      this.under.set(keyOf(ref), []);
      this.outbox.drop(keyOf(ref));
      return this.take(ref, theirs);
    }
    // All that waits becomes one change, under all their names.
    const label = waiting.join('+').slice(-190);
    const { record, valueOf } = kindOf(ref.kind);
    const value = ref.kind === 'tune' ? this.tune : this.decisions;
    const change = record.between(valueOf(theirs), value);
    if (change) this.outbox.rebase(keyOf(ref), theirs.revision, { label, change, value });
  }

  private arrived(ref: RecordRef, now: AnyRecord, others: boolean): void {
    this.revisions[ref.kind] = now.revision;
    const waiting = this.under.get(keyOf(ref)) ?? [];
    const held = this.outbox.queueOf(ref)?.entries.length ?? 0;
    for (const label of waiting.splice(0, waiting.length - held)) this.saved.add(label);
    if (!others) return;
    const entries = this.outbox.queueOf(ref)?.entries ?? [];
    this.show(ref, laidOver(ref.kind, kindOf(ref.kind).valueOf(now), entries));
  }

  private take(ref: RecordRef, theirs: AnyRecord): void {
    this.revisions[ref.kind] = theirs.revision;
    this.show(ref, kindOf(ref.kind).valueOf(theirs));
  }

  private show(ref: RecordRef, value: unknown): void {
    if (ref.kind === 'tune') this.tune = value as Tune;
    else this.decisions = value as Decisions;
  }

  private ref(kind: RecordRef['kind']): RecordRef {
    return { kind, id: kind === 'tune' ? this.record.id : this.record.arrangements[0]!.id };
  }

  private wait(ref: RecordRef, label: string): void {
    const own = this.under.get(keyOf(ref));
    if (own) own.push(label);
    else this.under.set(keyOf(ref), [label]);
  }
}

/** Labels of all steps of a record, walked back one by one. */
async function historyOf(port: number, path: string): Promise<readonly string[]> {
  const labels: string[] = [];
  let now = await send<ArrangementRecord>(port, 'GET', path);
  while (now.undo !== null) {
    labels.push(...now.undo.split('+'));
    now = await send<ArrangementRecord>(port, 'POST', `${path}/undo`, { revision: now.revision });
  }
  return labels;
}

async function round(port: number, name: string): Promise<Windows> {
  const record = await send<TuneRecord>(port, 'POST', '/tunes', { tune: TUNE });
  const windows = ['a', 'b'].map((one) => new Window(one, record));
  let edits = 0;
  for (; edits < ROUND; edits += 1) {
    const window = windows[Math.floor(Math.random() * 2)]!;
    window.edit(`${name}${window.name}${edits}`);
    if (Math.random() < 0.5) await pause(Math.random() * 6);
    if (Math.random() < 0.3) for (const one of windows) one.look();
  }
  while (windows.map((one) => one.look()).some(Boolean)) await pause(3);
  const arrangement = record.arrangements[0]!.id;
  const steps = [
    ...(await historyOf(port, `/arrangements/${arrangement}`)),
    ...(await historyOf(port, `/tunes/${record.id}`)),
  ];
  const lost = windows.flatMap(({ saved, given }) => [
    ...[...saved].filter((label) => !steps.includes(label)).map((label) => `${label} was taken for saved`),
    ...[...given].filter((label) => steps.includes(label)).map((label) => `${label} was given up and is there`),
  ]);
  const twice = steps
    .filter((label, index) => steps.indexOf(label) !== index)
    .map((label) => `${label} is there twice`);
  return {
    edits,
    conflicts: windows.reduce((sum, { conflicts }) => sum + conflicts, 0),
    lost: [...lost, ...twice],
  };
}

/** In rounds of sixty edits. */
export async function twoWindows({ most = Infinity, untilMs = Infinity }: Span): Promise<Windows> {
  const directory = await mkdtemp(join(tmpdir(), 'nokta-windows-'));
  const real = globalThis.fetch;
  const begin = performance.now();
  let all: Windows = { edits: 0, conflicts: 0, lost: [] };
  try {
    const port = await freePort();
    const server = await start(directory, port);
    for (let number = 0; number < most && performance.now() - begin < untilMs; number += 1) {
      const flaky = unreliable(port);
      // What the test itself asks goes by whole addresses, and is never lost.
      globalThis.fetch = (input, init) => (String(input).startsWith('http') ? real(input, init) : flaky(input, init));
      const one = await round(port, `r${number}`);
      globalThis.fetch = real;
      all = {
        edits: all.edits + one.edits,
        conflicts: all.conflicts + one.conflicts,
        lost: [...all.lost, ...one.lost],
      };
    }
    await kill(server);
  } finally {
    globalThis.fetch = real;
    killAll();
    await rm(directory, { recursive: true, force: true });
  }
  return all;
}

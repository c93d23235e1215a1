/**
 * Benchmarks: medians, and as ratios to a reference loop of the same run, so that figures of different
 * machines and days can be compared. `npm run bench`; `-- --save` records the baseline.
 */
import { readFile, writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { FIRST_DECISIONS, STAGES, arrange, decided, type Decisions, type Facts } from '@nokta/core/arrange';
import { gradedVersion } from '@nokta/core/version';
import { groupKeys, keyChoices, phrasePlaces, tuningChoices } from '@nokta/core/compare';
import { Derivation, finished } from '@nokta/core/stage';
import { GRADE_NUMBERS, difficultyOf } from '@nokta/core/grade';
import { SCHOOLS, bowRepairs, bowSlice, bowTune, bowTuneWithWays, planStretch, travelOf } from '@nokta/core/bow';
import { analyseForm, phrasesOf } from '@nokta/core/form';
import { Hand, fingerTune, lockOf, secondBest, waysWith } from '@nokta/core/hand';
import { transposeTune } from '@nokta/core/music';
import { INSTRUMENT, INSTRUMENTS, standardTuning, type InstrumentId } from '@nokta/core/instrument';
import { openFile } from '@nokta/core/files';
import { engraveLine } from '@nokta/engrave';
import { phraseXml } from '@nokta/engrave/sheet';
import { buildServer } from '../../scripts/steps.mjs';
import { fillLibrary, madeUp } from './library.ts';
import { reel, wandering, withDoubleStops } from './reel.ts';
import { BEGINS, start } from './starts.ts';

interface Figure {
  readonly name: string;
  readonly medianMs: number;
  /** Times the reference loop. */
  readonly ratio: number;
}

const BASELINE = fileURLToPath(new URL('../baseline.json', import.meta.url));

/** Plain arithmetic and memory: what this machine can do just now. */
function reference(): number {
  const cells = new Float64Array(4096);
  let sum = 0;
  for (let round = 0; round < 100; round += 1) {
    for (let index = 0; index < cells.length; index += 1) {
      cells[index] = (cells[(index * 7) & 4095]! + index) % 1013;
      sum += cells[index]!;
    }
  }
  return sum;
}

async function timeOf(work: () => unknown): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

const medianOf = (times: readonly number[]) => [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)]!;

async function median(runs: number, work: () => unknown): Promise<number> {
  const times: number[] = [];
  for (let run = 0; run < runs; run += 1) times.push(await timeOf(work));
  return medianOf(times);
}

/** What was measured, beside the recorded baseline. */
async function report(): Promise<void> {
  const before = await readFile(BASELINE, 'utf8').then(
    (text) => (JSON.parse(text) as { figures: Figure[] }).figures,
    () => [],
  );
  if (process.argv.includes('--save')) {
    // What was not measured this time keeps its figures.
    const kept = ONLY ? before.filter(({ name }) => !name.includes(ONLY)) : [];
    await writeFile(BASELINE, `${JSON.stringify({ figures: [...figures, ...kept] }, null, 2)}\n`);
  }
  console.log(`reference loop ${unit.toFixed(3)} ms`);
  for (const { name, medianMs, ratio } of figures) {
    const known = before.find((other) => other.name === name);
    const compared = known ? `  (baseline ${known.ratio} ×)` : '';
    console.log(
      `${name.padEnd(58)} ${medianMs.toFixed(2).padStart(9)} ms  ${ratio.toFixed(1).padStart(8)} ×${compared}`,
    );
  }
}

const unit = await median(200, reference);
const figures: Figure[] = [];
/** Measures only what has this word in its name: `npm run bench -- fingers`. */
const ONLY = process.argv.slice(2).find((arg) => !arg.startsWith('--'));

async function measure(name: string, runs: number, work: () => unknown): Promise<void> {
  if (ONLY && !name.includes(ONLY)) return;
  await work();
  const [times, loops]: [number[], number[]] = [[], []];
  // The loop is run between the runs: a machine that others use changes its pace from second to second.
  for (let run = 0; run < runs; run += 1) {
    loops.push(await median(5, reference));
    times.push(await timeOf(work));
  }
  add(name, medianOf(times), medianOf(loops));
}

function add(name: string, ms: number, loop = unit): void {
  figures.push({ name, medianMs: Math.round(ms * 100) / 100, ratio: Math.round((ms / loop) * 10) / 10 });
}

const VIOLIN = INSTRUMENT.violin;
const TRANSPOSE: Readonly<Record<InstrumentId, number>> = { violin: 0, viola: -7, cello: -24, bass: -24 };
const HAND_SIZES = [32, 64, 320] as const;
for (const instrument of INSTRUMENTS) {
  for (const maxPosition of ['I', 'III', 'VIII'] as const) {
    for (const bars of HAND_SIZES) {
      if (bars === 64 && instrument !== 'violin') continue;
      const tune = transposeTune(wandering(bars), TRANSPOSE[instrument]);
      const form = analyseForm(tune);
      const setup = {
        instrument: INSTRUMENT[instrument],
        tuning: standardTuning(INSTRUMENT[instrument]),
        limits: { maxPosition },
        locks: {},
        tempo: 120,
      };
      const reachTo = maxPosition === 'VIII' ? 'all positions' : `up to ${maxPosition}`;
      // Another object each time: what is remembered of the last one is not what is measured.
      await measure(`fingers, ${instrument}, ${reachTo}, ${bars} bars, all alternatives`, 15, () =>
        fingerTune({ ...tune }, form, setup),
      );
    }
  }
}
{
  const tune = reel(32);
  const form = analyseForm(tune);
  const chords = withDoubleStops(tune);
  const chordForm = analyseForm(chords);
  const setup = { instrument: VIOLIN, tuning: standardTuning(VIOLIN), limits: {}, locks: {}, tempo: 120 };
  await measure('fingers, violin, 32 bars that come back', 15, () => fingerTune({ ...tune }, form, setup));
  await measure('fingers, violin, 32 bars, every other note a double stop', 15, () =>
    fingerTune({ ...chords }, chordForm, setup),
  );
  const hand = new Hand(tune, form, setup);
  const first = hand.fingering.notes[40]!;
  const locks = { [first.id]: lockOf(first.alternatives[0]!, 'violin') };
  let taken = false;
  await measure('fingers, violin, 32 bars, again after a decision', 15, () => {
    taken = !taken;
    return fingerTune(tune, form, { ...setup, locks: taken ? locks : {} });
  });
  await measure('fingers, violin, reasons of one note', 15, () => hand.explained(first.id));
  await measure('fingers, violin, other ways with a phrase', 15, () =>
    waysWith(
      hand,
      hand.fingering.notes.slice(0, 32).map(({ id }) => id),
    ),
  );
  await measure('fingers, violin, the second-best fingering', 15, () => secondBest(hand));
}
for (const bars of [32, 64, 320, 1000]) {
  const tune = reel(bars);
  const other = wandering(bars);
  await measure(`form, ${bars} bars that come back`, bars > 500 ? 5 : 15, () => analyseForm(tune));
  await measure(`form, ${bars} bars all new`, bars > 500 ? 5 : 15, () => analyseForm(other));
}
for (const bars of [2000, 4000, 8000]) {
  const other = wandering(bars);
  await measure(`form, ${bars} bars all new`, 3, () => analyseForm(other));
}
for (const instrument of INSTRUMENTS) {
  const decisions = decided(FIRST_DECISIONS, { key: { instrument, transpose: TRANSPOSE[instrument] } });
  await measure(`whole arrangement, ${instrument}, 32 bars`, 15, () => arrange(reel(32), decisions));
}
for (const instrument of INSTRUMENTS) {
  const tune = reel(32);
  const decisions = decided(FIRST_DECISIONS, { key: { instrument } });
  await measure(`keys side by side, ${instrument}, 32 bars`, 3, () => finished(keyChoices(tune, decisions)));
  await measure(`tunings side by side, ${instrument}, 32 bars`, 3, () => finished(tuningChoices(tune, decisions)));
  const set = arrange(tune, decisions);
  await measure(`octaves and echoes, ${instrument}, 32 bars`, 3, () => finished(phrasePlaces(set)));
}
{
  const tune = reel(32);
  const members = INSTRUMENTS.map((instrument) => ({
    decisions: decided(FIRST_DECISIONS, { key: { instrument } }),
    grade: 3 as const,
  }));
  await measure('keys for a group of four with grades, 32 bars', 3, () => finished(groupKeys(tune, members)));
}
const arrangement = arrange(reel(32), FIRST_DECISIONS);
for (const bars of [32, 64]) {
  const whole = arrange(reel(bars), FIRST_DECISIONS);
  const { inKey: tune, instrument, tuning, tempo } = whole;
  const { hand, bow } = FIRST_DECISIONS;
  const context = { tune, instrument, tuning, tempo, hand, bow };
  await measure(`versions, all six grades, violin, ${bars} bars`, 3, () => {
    // Another object each time: what is remembered from before is not what is measured.
    const anew = { ...context, tune: { ...tune } };
    return GRADE_NUMBERS.map((grade) => gradedVersion(anew, grade));
  });
  const derivation = new Derivation<Decisions, Facts>(STAGES);
  const version = (kept: readonly string[]) =>
    derivation.derive(decided(FIRST_DECISIONS, { version: { grade: 1, kept } }), { source: whole.source }).facts;
  const [dropped] = version([]).graded!.changes.filter(({ kind }) => kind !== 'transposed');
  let on = false;
  await measure(`versions, a change dropped or taken, ${bars} bars`, 15, () => {
    on = !on;
    version(on ? [dropped!.id] : []);
  });
  await measure(`difficulty, ${bars} bars`, 15, () => difficultyOf(whole));
}
for (const bars of [32, 320]) {
  const tune = reel(bars);
  const form = analyseForm(tune);
  for (const school of SCHOOLS) {
    const decided = { ...bowSlice.first, school, pattern: 'one-and-three' };
    await measure(`bow, ${school}, ${bars} bars, all alternatives`, 15, () => {
      const { bowing, planner } = bowTuneWithWays(tune, form, decided, 120);
      for (const note of new Set(bowing.strokes.flatMap(({ notes }) => notes))) planner.alternatives(note);
    });
  }
  const bowing = bowTune(tune, form, bowSlice.first, 120);
  await measure(`bow, strokes planned for the tune, ${bars} bars`, 5, () =>
    planStretch({ tune, form, tempo: 120, instrument: INSTRUMENT.violin }, bowSlice.first, bowing.starts.keys()),
  );
  await measure(`bow, travel, ${bars} bars`, 15, () => travelOf(bowing, tune, form, 120, INSTRUMENT.violin));
  const [out] = travelOf(bowing, tune, form, 120, INSTRUMENT.violin).flags;
  if (out) {
    await measure(`bow, repairs at one place, ${bars} bars`, 5, () =>
      bowRepairs({ tune, form, tempo: 120, instrument: INSTRUMENT.violin }, bowSlice.first, out),
    );
  }
}
await measure('engraving, 32 bars in phrases', 7, async () => {
  for (const phrase of phrasesOf(arrangement.form)) await engraveLine(phraseXml(arrangement, phrase), 'desk');
});
for (const begin of BEGINS) {
  const name = `start with ${begin}, to the first answer`;
  if (ONLY && !name.includes(ONLY)) continue;
  buildServer();
  const starts = [await start(begin), await start(begin), await start(begin), await start(begin), await start(begin)];
  const middle = <Value extends number | null>(values: readonly Value[]) =>
    [...values].sort((a, b) => Number(a) - Number(b))[2] as Value;
  add(name, middle(starts.map(({ ms }) => ms)));
  const drawn = middle(starts.map(({ drawnMb }) => drawnMb));
  console.log(
    `resident after a start with ${begin}: ${middle(starts.map(({ idleMb }) => idleMb))} MB idle` +
      (drawn === null ? '' : `, ${drawn} MB after a sheet`),
  );
}
for (const tunes of [100, 10_000]) {
  const book = new TextEncoder().encode(Array.from({ length: tunes }, (_, number) => madeUp(number)).join('\n'));
  const opened = openFile(book, 'book.abc');
  if (!opened.ok) throw new Error('The book does not open');
  const { read } = opened.value;
  // The last hundred of a book cost what the first hundred cost.
  await measure(`reading 100 tunes of a book of ${tunes.toLocaleString('en')}`, 3, () => {
    for (let number = tunes - 99; number <= tunes; number += 1) read({ tune: number });
  });
}
if (ONLY) {
  await report();
  process.exit();
}
const library = await fillLibrary();
for (const { from, to, ms } of library.perTune) add(`keeping a tune, ${from} to ${to} in the library`, ms);
console.log(
  `resident while keeping: ${library.perTune.map(({ to, residentMb }) => `${residentMb} MB at ${to}`).join(', ')}`,
);
for (const name of ['words', 'slip', 'melody', 'contour'] as const) {
  await measure(`finding by ${name}, 10,000 tunes`, 15, () => library.find(name));
}
await library.close();

await report();

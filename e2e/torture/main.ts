/**
 * `npm run torture`: what the tests do in small, for as long as wanted. Kills the server at random moments of mixed
 * writes and looks after each start whether anything acknowledged is missing; spoils files for all readers; starts
 * two servers on one folder; fills a disk; cuts the power; edits one tune in two windows whose answers are lost; makes nearly valid
 * calls; reads files of growing size. Ends with 1 where anything was lost, crashed or came in unsound.
 *
 * --minutes N   how long, shared between them (default 2)
 * --files N     so many files, however long it takes
 * --kills N     so many kills, however long it takes
 * --calls N     so many nearly valid calls
 * --from N      number of the first file
 */
import { parseArgs } from 'node:util';
import { SHAPES, growthFault } from '../../core/src/test/growth.ts';
import { callServer } from '../../server/src/torture/calls.ts';
import { fillDisk } from '../../server/src/torture/disk.ts';
import { spoilFiles } from '../../server/src/torture/files.ts';
import { powerCuts } from '../../server/src/torture/power.ts';
import { killServer, type Killed } from '../../server/src/torture/kills.ts';
import { startTwice } from '../../server/src/torture/twice.ts';
import { twoWindows } from './windows.ts';

const { values } = parseArgs({
  options: {
    minutes: { type: 'string', default: '2' },
    files: { type: 'string' },
    kills: { type: 'string' },
    calls: { type: 'string' },
    from: { type: 'string', default: '0' },
  },
});
const share = (Number(values.minutes) * 60_000) / 5;
const told: string[] = [];
const say = (line: string) => console.log(line);

const twice = await startTwice();
say(`two servers: ${twice.refused ? 'the second is refused, nothing is lost' : 'FAILED'}`);
if (!twice.refused) told.push('two servers on one folder');

const disk = await fillDisk();
say(`full disk: ${disk.skipped ? `not tried (${disk.skipped})` : disk.words}`);
if (disk.lost) told.push('lost on a full disk');

const growing = SHAPES.flatMap((shape) => {
  const fault = growthFault(shape);
  return fault ? [`${shape.name}: ${fault}`] : [];
});
say(`growth: ${SHAPES.length} shapes of files, ${growing.length} that cost more than they grow`);
for (const fault of growing) say(`  ${fault}`);
if (growing.length > 0) told.push('growth');

const windows = await twoWindows({ untilMs: share });
say(`two windows: ${windows.edits} edits, ${windows.conflicts} times asked, ${windows.lost.length} lost`);
for (const lost of windows.lost.slice(0, 20)) say(`  ${lost}`);
if (windows.lost.length > 0) told.push('lost between two windows');

const called = await callServer(values.calls ? { most: Number(values.calls) } : { untilMs: share });
say(
  `calls: ${called.calls} nearly valid ones, ${JSON.stringify(called.answers)}, ${called.faults.length} faults, slowest ${Math.round(called.slowest.ms)} ms`,
);
for (const fault of called.faults.slice(0, 20)) say(`  ${fault}`);
if (called.faults.length > 0) told.push('calls');

const files = spoilFiles({
  from: Number(values.from),
  ...(values.files ? { most: Number(values.files) } : { untilMs: share }),
});
say(
  `files: ${files.read} spoiled ones, ${files.faults.length} faults, slowest ${Math.round(files.slowest.ms)} ms (number ${files.slowest.number}), ${Math.round(files.memory / 1e6)} MB`,
);
for (const fault of files.faults) say(`  ${fault}`);
if (files.faults.length > 0) told.push('readers');

const tell = ({ kills: count, acknowledged, lost }: Killed) =>
  say(`  so far ${count} kills, ${acknowledged} writes acknowledged, ${lost.length} lost`);
const power = await powerCuts({ untilMs: share });
say(`power: ${power.cuts} cuts, ${power.acknowledged} tunes acknowledged, ${power.lost.length} lost`);
for (const lost of power.lost.slice(0, 20)) say(`  ${lost}`);
if (power.lost.length > 0) told.push('lost at a power cut');

const kills = await killServer({ tell, ...(values.kills ? { most: Number(values.kills) } : { untilMs: share }) });
say(`kills: ${kills.kills}, ${kills.acknowledged} writes acknowledged, ${kills.lost.length} lost`);
for (const lost of kills.lost.slice(0, 20)) say(`  ${lost}`);
if (kills.lost.length > 0) told.push('lost after a kill');

console.log(told.length === 0 ? 'nothing lost, nothing unsound' : `FAILED: ${told.join(', ')}`);
process.exitCode = told.length === 0 ? 0 : 1;

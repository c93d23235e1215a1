/** MusicXML with a tablature staff, read by a reader that shares nothing with ours: both staves sound the same. */
import { readFileSync, readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readAbc } from '../formats/index.ts';
import { INSTRUMENTS } from '../instrument/index.ts';
import { staves } from '../test/tabReader.ts';
import { FIRST_DECISIONS, arrange, arrangementXml, bestOctave, decided } from './index.ts';

const TUNES = new URL('../../../server/src/demo/tunes/', import.meta.url);
const files = readdirSync(TUNES);

describe.each(INSTRUMENTS)('on the %s', (instrument) => {
  it.each(files)('%s', (file) => {
    const read = readAbc(readFileSync(new URL(file, TUNES), 'utf8'));
    if (!read.ok) throw new Error(file);
    const decisions = decided(FIRST_DECISIONS, { key: { instrument } });
    const transpose = bestOctave(read.value.tune, decisions);
    const arrangement = arrange(read.value.tune, decided(decisions, { key: { transpose } }));
    const { notes, frets } = staves(arrangementXml(arrangement, { tab: true }));
    const byTime = (sounds: typeof notes) =>
      sounds.map(({ bar, at, quarters, midi }) => `${bar} ${at.toFixed(4)} ${quarters.toFixed(4)} ${midi}`).sort();
    expect(frets.length).toBeGreaterThan(0);
    // What the hand cannot reach has no fret, and nothing else has none.
    const unreached = arrangement.fingering.notes.filter(({ stops, grace }) => stops.length === 0 && !grace);
    expect(byTime(notes)).toEqual(expect.arrayContaining(byTime(frets)));
    expect(notes.length - frets.length).toBe(unreached.flatMap(({ ids }) => ids).length);
  });
});

it('reads the frets of a retuned fiddle from its own strings', () => {
  const read = readAbc(readFileSync(new URL('two-bells-at-the-quay.abc', TUNES), 'utf8'));
  if (!read.ok) throw new Error('two bells');
  const arrangement = arrange(read.value.tune, decided(FIRST_DECISIONS, { key: { tuning: 'low-pair-up' } }));
  const { notes, frets } = staves(arrangementXml(arrangement, { tab: true }));
  expect(frets.map(({ midi }) => midi)).toEqual(notes.map(({ midi }) => midi));
});

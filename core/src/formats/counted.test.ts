/**
 * Nothing is changed or dropped without a word: what is in a text is counted, and what comes out of it. And what Nokta
 * makes of a text sounds as an independent player from Debian's packages (abc2midi) plays it; that is asked only where the
 * player is there, and never where tests run by themselves.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import toneMidi from '@tonejs/midi';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { INCOMING, abcOf } from '../test/incoming.ts';
import type { Note } from '../music/index.ts';
import { lossesIn, readAbc, readMusicXml, writeMidi } from './index.ts';

const NOTE = fc.constantFrom('C', 'D', '^F', '_B', "c'", 'A,', 'G2', 'E/', 'F3', 'B3/2', 'C5');
const OTHER = fc.constantFrom('z', 'z2', '[CE]', '[D-A]', '{cd}E', '!f!F', 'uG', '"G"A', '(3CDE', 'x', '!fermata!B');
const BREAK = fc.constantFrom(
  '|',
  '|',
  ':|',
  '||',
  '|\nM:3/4\n',
  '|\nK:D\n',
  '|\nL:1/16\n',
  '|[M:2/4]',
  '|\nQ:1/4=80\n',
  '|]',
);

const countOf = (text: string, of: RegExp) => (text.match(of) ?? []).length;

describe('events are counted', () => {
  it('in ABC: every note, rest, grace and chord symbol comes out, or is told', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof({ weight: 5, arbitrary: NOTE }, { weight: 2, arbitrary: OTHER }, { weight: 2, arbitrary: BREAK }),
          { minLength: 2, maxLength: 40 },
        ),
        (parts) => {
          const body = `C ${parts.join(' ')} |`;
          const read = readAbc(`X:1\nT:Test\nM:4/4\nL:1/8\nK:C\n${body}\n`);
          if (!read.ok) throw new Error(JSON.stringify(read.problems));
          const music = body.replace(/^[A-Z]:.*$/gm, '').replace(/\[[A-Z]:[^\]]*\]/g, '');
          const bare = music.replace(/\{[^}]*\}|![^!]*!|"[^"]*"/g, '');
          const events = read.value.tune.bars.flatMap((bar) => bar.events);
          const begun = events.filter((event, index) => {
            const before = events[index - 1];
            return !(
              before &&
              before.source?.line === event.source?.line &&
              before.source?.column === event.source?.column
            );
          });
          const heads = countOf(bare, /[A-Ga-g]/g);
          const chords = countOf(bare, /\[[^\]]*\]/g);
          const got = begun.filter((event): event is Note => event.kind === 'note');
          expect(got.reduce((sum, { heads: own }) => sum + own.length, 0)).toBe(heads);
          expect(begun.length).toBe(heads - chords + countOf(bare, /[zx]/g));
          expect(got.reduce((sum, { graces = [] }) => sum + graces.length, 0)).toBe(2 * countOf(music, /\{/g));
          expect(begun.filter(({ chordSymbol }) => chordSymbol).length).toBe(countOf(music, /"G"/g));
        },
      ),
      { numRuns: 300 },
    );
  });

  it('in MusicXML: every note of the voice comes out, or is told', () => {
    const ELEMENTS = [
      ['<note><pitch><step>C</step><octave>4</octave></pitch><duration>24</duration></note>', 1],
      ['<note><pitch><step>D</step><octave>4</octave></pitch><duration>36</duration></note>', 1],
      [
        '<note><pitch><step>A</step><octave>4</octave></pitch><duration>24</duration></note>' +
          '<note><chord/><pitch><step>F</step><octave>4</octave></pitch><duration>24</duration></note>',
        1,
      ],
      ['<note><rest/><duration>24</duration></note>', 0],
      ['<note><cue/><pitch><step>E</step><octave>5</octave></pitch><duration>24</duration></note>', 0],
      ['<note><grace/><pitch><step>G</step><octave>4</octave></pitch></note>', 0],
      ['<harmony><root><root-step>G</root-step></root><kind>major</kind></harmony>', 0],
      ['<forward><duration>24</duration></forward>', 0],
    ] as const;
    const element = fc.constantFrom(...ELEMENTS);
    fc.assert(
      fc.property(
        fc.array(fc.array(element, { minLength: 1, maxLength: 8 }), { minLength: 1, maxLength: 4 }),
        (measures) => {
          const first = '<note><pitch><step>C</step><octave>4</octave></pitch><duration>24</duration></note>';
          const body = measures
            .map(
              (list, index) =>
                `<measure number="${index + 1}">${index === 0 ? '<attributes><divisions>24</divisions></attributes>' : ''}${first}${list.map(([text]) => text).join('')}</measure>`,
            )
            .join('');
          const read = readMusicXml(
            `<score-partwise><part-list><score-part id="P1"><part-name>V</part-name></score-part></part-list><part id="P1">${body}</part></score-partwise>`,
          );
          if (!read.ok) throw new Error(JSON.stringify(read.problems));
          const all = read.value.tune.bars.flatMap((bar) => bar.events);
          const notes = all.filter((event, index): event is Note => {
            const before = all[index - 1];
            return (
              event.kind === 'note' &&
              !(before?.source?.column === event.source?.column && before?.source?.line === event.source?.line)
            );
          });
          const written = measures.reduce((sum, list) => sum + 1 + list.reduce((count, [, own]) => count + own, 0), 0);
          expect(notes.length).toBe(written);
          const symbols = countOf(body, /<harmony>/g);
          const kept = all.filter(({ chordSymbol }) => chordSymbol).length;
          const told = read.notices.filter(({ message }) => message.includes('chord symbol')).length;
          expect(kept === symbols || told > 0).toBe(true);
          if (body.includes('<cue/>'))
            expect(read.notices.some(({ message }) => message.includes('Small notes'))).toBe(true);
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe.each(['abc', 'musicxml'] as const)('written to %s and read again', (format) => {
  it.each(INCOMING)('$what', (one) => {
    const read = readAbc(abcOf(one));
    if (!read.ok) throw new Error(one.what);
    expect(lossesIn(read.value.tune, format)).toEqual([]);
  });
});

function playerThere(): boolean {
  if (process.env['CI']) return false;
  try {
    execFileSync('which', ['abc2midi'], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
}

/** Quarters. */
const LATE = 0.05;

describe.skipIf(!playerThere())('as abc2midi plays it', () => {
  let folder = '';
  beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'nokta-played-'))));
  afterAll(() => rmSync(folder, { recursive: true }));
  const struck = (bytes: Uint8Array) => {
    const { tracks, header } = new toneMidi.Midi(bytes);
    const notes = tracks.flatMap((track) => track.notes);
    const first = Math.min(...notes.map(({ ticks }) => ticks));
    return notes
      .map(({ midi, ticks }) => ({ midi, at: (ticks - first) / header.ppq }))
      .sort((one, other) => Math.round((one.at - other.at) * 8) || one.midi - other.midi);
  };
  it.each(INCOMING.filter(({ player }) => player))('$what', ({ what, ...rest }) => {
    const text = abcOf(rest);
    const read = readAbc(text);
    if (!read.ok) throw new Error(what);
    const [abc, midi] = ['abc', 'mid'].map((ending) => join(folder, `x.${ending}`)) as [string, string];
    writeFileSync(abc, text);
    execFileSync('abc2midi', [abc, '-o', midi], { stdio: 'ignore' });
    const [ours, theirs] = [struck(writeMidi(read.value.tune)), struck(readFileSync(midi))];
    expect(ours.map((note) => note.midi)).toEqual(theirs.map((note) => note.midi));
    // The player sounds some notes a trifle late.
    ours.forEach((note, index) => expect(Math.abs(note.at - theirs[index]!.at)).toBeLessThan(LATE));
  });
});

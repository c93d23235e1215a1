/** What the staff of a retuned instrument shows, and that sound and fingers stay what they are. */
import { describe, expect, it } from 'vitest';
import { INSTRUMENTS, INSTRUMENT, clefFor, type InstrumentId } from '../instrument/index.ts';
import { readAbc, readMusicXml } from '../formats/index.ts';
import { saveArrangement } from '../files/index.ts';
import { midi, pitchName, soundingNotes, transposeTune, type Tune } from '../music/index.ts';
import { tuneOf } from '../test/testing.ts';
import { arrange, arrangementXml, writtenTune } from './arrange.ts';
import { decided, FIRST_DECISIONS, readDecisions } from './decisions.ts';

const names = (tune: Tune) =>
  tune.bars.flatMap(({ events }) =>
    events.flatMap((event) =>
      event.kind === 'note' ? [event.heads.map(({ pitch }) => pitchName(pitch)).join('+')] : [],
    ),
  );
const retuned = (music: string, tuning: string, key = 'A', instrument: InstrumentId = 'violin', transpose = 0) =>
  arrange(
    tuneOf(music, { key, tempo: '1/4=80' }),
    decided(FIRST_DECISIONS, { key: { tuning, instrument, transpose }, staff: { pitch: 'fingered' } }),
  );

describe('a staff as fingered', () => {
  it('has each note where its finger lies on the usual string', () => {
    // A E A E: open G and D sound A and E, and are written G and D.
    const found = retuned('A,2 C2 E2 F2 | A2 c2 e2 a2 |', 'low-pair-up');
    expect(names(found.staff)).toEqual(['G3', 'B3', 'D4', 'E4', 'A4', 'C#5', 'E5', 'A5']);
    expect(found.fingering.notes.map(({ stops }) => stops[0]!.finger).slice(0, 4)).toEqual([0, 2, 0, 1]);
  });

  it('is the tune itself where nothing is retuned', () => {
    const found = retuned('A,2 C2 E2 F2 |', 'standard');
    expect(found.staff).toBe(found.tune);
  });

  it('keeps double stops low to high, ties on one place, and graces with their string', () => {
    const found = retuned('[A,E]4- [A,E]4 | {F}E4 A,4 |', 'low-pair-up');
    expect(names(found.staff)).toEqual(['G3+D4', 'G3+D4', 'D4', 'G3']);
    const grace = found.staff.bars[1]!.events[0]!;
    expect(grace.kind === 'note' && grace.graces?.map(({ pitch }) => pitchName(pitch))).toEqual(['E4']);
  });

  it.each(INSTRUMENTS)('differs from what sounds by its string’s retuning alone, on the %s', (instrument) => {
    const tunings = INSTRUMENT[instrument].tunings.slice(1);
    for (const { id } of tunings) {
      const found = retuned(
        'A,2 C2 E2 F2 | A2 c2 d2 e2 |',
        id,
        'A',
        instrument,
        { violin: 0, viola: -7, cello: -24, bass: -24 }[instrument],
      );
      const [sounds, staff] = [found.tune, found.staff].map((tune) =>
        soundingNotes(tune).map(({ note }) => midi(note.heads[0]!.pitch)),
      );
      const by = found.fingering.notes.map(({ stops: [stop] }) =>
        stop ? midi(INSTRUMENT[instrument].strings[stop.string]!.usual) - midi(found.tuning.pitches[stop.string]!) : 0,
      );
      expect([id, staff!.map((pitch, index) => pitch - sounds![index]!)]).toEqual([id, by]);
    }
  });

  it('follows a finger that moves to another string', () => {
    const music = 'E8 |';
    const open = retuned(music, 'low-pair-up');
    const note = open.fingering.notes[0]!;
    const locks = { [note.id]: { instrument: 'violin', stops: [{ string: 0, midi: 64 }] } };
    const low = arrange(open.source, decided(open.decisions, { hand: { locks } }));
    expect([names(open.staff), names(low.staff)]).toEqual([['D4'], ['D4']]);
    const b = retuned('B8 |', 'low-pair-up');
    const on = (string: number) =>
      names(
        arrange(
          b.source,
          decided(b.decisions, {
            hand: { locks: { [b.fingering.notes[0]!.id]: { instrument: 'violin', stops: [{ string, midi: 71 }] } } },
          }),
        ).staff,
      );
    expect([on(1), on(2)]).toEqual([['A4'], ['B4']]);
  });

  it('goes into files, which say so and how the strings are tuned; the sound file sounds', () => {
    const found = retuned('A,2 C2 E2 F2 | A,8 |', 'low-pair-up');
    const contents = { tune: found.source, arrangements: [found.decisions], tags: [], versions: [] };
    const abc = readAbc(String(saveArrangement(found, 'abc', contents)));
    const xml = readMusicXml(String(saveArrangement(found, 'musicxml', contents)));
    for (const read of [abc, xml]) {
      if (!read.ok) throw new Error('unread');
      expect(names(read.value.tune)).toEqual(['G3', 'B3', 'D4', 'E4', 'G3']);
      expect(read.value.tune.notes.join()).toContain('Written as fingered, strings tuned A E A E');
    }
    const plain = arrange(found.source, decided(found.decisions, { staff: { pitch: 'sounding' } }));
    expect(saveArrangement(found, 'mid', contents)).toEqual(saveArrangement(plain, 'mid', contents));
    expect(names(writtenTune(plain))).toEqual(['A3', 'C#4', 'E4', 'F#4', 'A3']);
  });

  it('has a tab that counts from the strings it is written for', () => {
    const found = retuned('A,2 C2 E2 F2 | A,8 |', 'low-pair-up');
    const frets = [...arrangementXml(found, { tab: true }).matchAll(/<fret>(\d+)</g)].map(([, fret]) => Number(fret));
    expect(frets).toEqual([0, 4, 0, 2, 0]);
  });

  it('is how it sounds for arrangements that were stored before there was a choice', () => {
    const { staff: _, ...older } = FIRST_DECISIONS;
    expect(readDecisions(older).staff).toEqual({ pitch: 'sounding' });
  });
});

describe('the clef of a line', () => {
  const cases: readonly (readonly [string, InstrumentId, string, number, string])[] = [
    ['low cello', 'cello', 'C2 E2 G2 c2', -24, 'F4'],
    ['a cello line around middle C', 'cello', 'G2 A2 B2 c2', -12, 'F4'],
    ['a cello song on the A string', 'cello', 'd2 e2 f2 a2 | g2 f2 e4', -12, 'C4'],
    ['a cello high above', 'cello', "d'2 e'2 f'2 a'2", -12, 'G2'],
    ['a viola in the middle', 'viola', 'c2 d2 e2 f2', -7, 'C3'],
    ['a viola high up', 'viola', 'e2 f2 g2 a2 | b2 a2 g4', 0, 'G2'],
    ['a violin however high', 'violin', "e'2 f'2 g'2 a'2", 0, 'G2'],
    ['a bass', 'bass', 'C2 E2 G2 c2', -24, 'F4'],
  ];
  it.each(cases)('of %s', (_, instrument, music, by, clef) => {
    const found = clefFor(INSTRUMENT[instrument], transposeTune(tuneOf(music), by));
    expect(`${found.sign}${found.line}`).toBe(clef);
  });

  it('changes in a file where a phrase goes high, and changes back', () => {
    const low = 'G,2 A,2 B,2 C2 | D2 C2 B,4 | ';
    const high = 'd2 e2 f2 a2 | g2 f2 e4 | ';
    const found = arrange(
      transposeTune(tuneOf(`"A"|: ${low}${low}:||: ${high}${high}:||: ${low}${low}:|`, { tempo: '1/4=80' }), -12),
      decided(FIRST_DECISIONS, { key: { instrument: 'cello' } }),
    );
    const clefs = [...arrangementXml(found).matchAll(/<clef>\s*<sign>(\w)<\/sign>\s*<line>(\d)/g)].map(
      ([, sign, line]) => `${sign}${line}`,
    );
    expect(clefs).toEqual(['F4', 'C4', 'F4']);
    const read = readMusicXml(arrangementXml(found));
    expect(read.ok && names(read.value.tune)).toEqual(names(found.tune));
  });
});

/** The passages with the bowing that a good player chooses, each by itself. */
import { describe, expect, it } from 'vitest';
import { analyseForm } from '../form/index.ts';
import { soundingNotes, workingTempo } from '../music/index.ts';
import { tuneOf } from '../test/testing.ts';
import { bowSlice, bowTune, type Stroke } from './index.ts';
import { PASSAGES, type Passage } from '../test/bowTruth.ts';

function bowed({ music, header, decided }: Passage): string {
  const tune = tuneOf(music, header);
  const { strokes } = bowTune(tune, analyseForm(tune), { ...bowSlice.first, ...decided }, workingTempo(tune, null));
  return strokes.map(strokeText).join(' ');
}

function strokeText({ direction, notes, retake, hook }: Stroke): string {
  const how = retake ? '^' : hook ? '~' : '';
  return `${how}${direction === 'down' ? 'd' : 'u'}${notes.length > 1 ? notes.length : ''}`;
}

const withoutBars = (bows: string) => bows.replaceAll('|', ' ').split(/\s+/).filter(Boolean).join(' ');

describe('the bowing that good players choose', () => {
  it('is written down for at least 120 passages', () => {
    expect(PASSAGES.length).toBeGreaterThanOrEqual(120);
  });

  it.each(PASSAGES.map((passage, index) => [index, passage.music, passage.why, passage] as const))(
    '%i: %s, as %s',
    (_, __, ___, passage) => {
      expect(bowed(passage)).toBe(withoutBars(passage.bows));
    },
  );

  it('counts each note that is played', () => {
    for (const { music, header } of PASSAGES) expect(soundingNotes(tuneOf(music, header)).length).toBeGreaterThan(0);
  });
});

import { describe, expect, it } from 'vitest';
import { SAMPLE_SETS, samplesModule } from './samples.ts';

describe('the samples', () => {
  it('are all there, each set under its name', () => {
    const script = samplesModule(SAMPLE_SETS);
    const count = Object.values(SAMPLE_SETS).reduce((sum, { notes }) => sum + notes.length, 0);
    expect(script.match(/^import .*\.mp3\?url";$/gm)).toHaveLength(count);
    for (const name of Object.keys(SAMPLE_SETS)) expect(script).toContain(`export const ${name} =`);
  });

  it('stop the build where one is missing, and say which', () => {
    const { from } = SAMPLE_SETS['violin']!;
    expect(() => samplesModule({ violin: { from, notes: ['G3', 'B9'] } })).toThrow(`${from}: B9.`);
  });

  it('stop the build where their package is missing', () => {
    expect(() => samplesModule({ harp: { from: 'no-such-package', notes: ['G3'] } })).toThrow('no-such-package');
  });
});

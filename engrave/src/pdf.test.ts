/** The text of the printed page, as a reader of PDFs finds it. */
import { execFileSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange } from '@nokta/core/arrange';
import { readAbc } from '@nokta/core/formats';
import { SHEET_PRESETS, USUAL_STYLE } from '@nokta/core/sheet';
import { sheetPdf } from './pdf.ts';
import { engraveSheet } from './sheet.ts';

const ABC =
  'X:1\nT:Żółw, Çınar, Dvořák’s ḟear\nM:4/4\nL:1/8\nK:D\n|: d2fd Adfd | g2fg e2ce :| d2A2 F2A2 | d8 |]\nw: light the lamp a-gain\n';

async function textOf(style = USUAL_STYLE): Promise<{ readonly text: string; readonly fingers: readonly string[] }> {
  const read = readAbc(ABC);
  if (!read.ok) throw new Error('The tune of the test cannot be read.');
  const arrangement = arrange(read.value.tune, FIRST_DECISIONS);
  const pdf = await sheetPdf(await engraveSheet(arrangement, style), style, read.value.tune.title);
  const text = execFileSync('pdftotext', ['-raw', '-enc', 'UTF-8', '-', '-'], { input: pdf }).toString();
  const fingers = arrangement.fingering.notes.map(({ stops }) => String(stops[0]!.finger));
  return { text, fingers };
}

describe('the text of a PDF', () => {
  it('has title, words and fingers, in the order in which they are read', async () => {
    const style = { ...USUAL_STYLE, ...SHEET_PRESETS.tab, lanes: ['tab', 'words'], barNumbers: 'none' } as const;
    const { text, fingers } = await textOf(style);
    expect(text).toContain('Żółw, Çınar, Dvořák’s ḟear');
    const words = text.slice(text.indexOf('Çınar'));
    const places = ['light', 'the', 'lamp', 'gain'].map((word) => words.indexOf(word));
    expect(places.every((at) => at > 0)).toBe(true);
    expect(places).toEqual([...places].sort((a, b) => a - b));
    // Everything that stands between the strings' names and the legend, without the bars' ends.
    const digits = [...text.slice(text.indexOf('strings')).matchAll(/(?:^|[\s])([0-4])(?=[\s]|$)/gm)].map(
      ([, digit]) => digit,
    );
    expect(digits.slice(0, fingers.length)).toEqual(fingers);
  }, 60_000);
});

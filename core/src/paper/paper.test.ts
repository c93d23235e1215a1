/** Styles as they come back: whole, in part, or from a program that knew other fields. */
import { describe, expect, it } from 'vitest';
import { USUAL_STYLE, readStyle, sheetSlice, someStyleSchema } from './index.ts';

describe('a style', () => {
  it('of which a part is said is as usual in the rest', () => {
    expect(someStyleSchema.parse({ tab: { turned: true } })).toEqual({
      ...USUAL_STYLE,
      tab: { ...USUAL_STYLE.tab, turned: true },
    });
  });

  it('that an older program left keeps what is known of it', () => {
    const left = { paper: 'letter', layout: 'big', naming: 'german', lanes: ['tab'] };
    expect(readStyle(left)).toEqual({ ...USUAL_STYLE, paper: 'letter', layout: 'big', lanes: ['tab'] });
    expect(readStyle({ paper: 'a5' })).toEqual(USUAL_STYLE);
    expect(readStyle(null)).toEqual(USUAL_STYLE);
  });

  it('kept with an arrangement is read strictly, and gets the fields that came later', () => {
    const stored = { style: { name: 'Plain', style: { staff: false } }, warmUps: null };
    expect(sheetSlice.schema.parse(stored).style!.style).toEqual({ ...USUAL_STYLE, staff: false });
    const wrong = { style: { name: 'Plain', style: { naming: 'german' } }, warmUps: null };
    expect(sheetSlice.schema.safeParse(wrong).success).toBe(false);
  });
});

import { describe, expect, it } from 'vitest';
import { readAbc } from '../formats/index.ts';
import { playedOrder } from './index.ts';

/** Bars of the tune as they sound, each named by its first note. */
function played(music: string): string {
  const read = readAbc(`X:1\nT:t\nM:2/4\nL:1/4\nK:C\n${music}\n`);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  const { bars } = read.value.tune;
  return playedOrder(bars)
    .map(({ index }) => {
      const note = bars[index]!.events.find((event) => event.kind === 'note');
      return note?.kind === 'note' ? note.heads[0]!.pitch.letter : '-';
    })
    .join('');
}

describe('playedOrder', () => {
  it.each([
    ['|: C2 | D2 :| E2 |]', 'CDCDE'],
    ['C2 | D2 :: E2 | F2 :|', 'CDCDEFEF'],
    ['|: C2 |1 D2 :|2 E2 |] F2 |]', 'CDCEF'],
    ['|: C2 | [1 D2 :| [2 E2 || F2 | G2 :|', 'CDCEFGFG'],
    ['|: C2 |1,3 D2 :|2 E2 :|4 F2 |]', 'CDCECDCF'],
    ['C2 || D2 | E2 :|', 'CDEDE'],
    ['|: C2 | D2 || E2 :| F2 |]', 'CDECDEF'],
    ['C2 | !fine!D2 | E2 !D.C.alfine!z |]', 'CDECD'],
    ['C2 | !fine!D2 | E2 !D.C.!z |]', 'CDECD'],
    ['|: C2 | !fine!D2 :: E2 | F2 !D.C.alfine!z :|', 'CDCDEFEFCD'],
    ['C2 | !segno!D2 | !coda!E2 | F2 !D.S.alcoda!z | !coda!G2 |]', 'CDEFDEG'],
    ['|: C2 :: D2 :| |: E2 :||: F2 :|', 'CCDDEEFF'],
    // Where to leave stands at the end of a bar, before its line, or at a note of it.
    ['C2 | !segno!D2 | E2 !dacoda! | F2 !D.S.alcoda! | !coda!G2 |]', 'CDEFDEG'],
    ['C2 | !segno!D2 | !dacoda!E2 | F2 !D.S.alcoda! | !coda!G2 |]', 'CDEFDEG'],
    ['C2 | !segno!D2 !dacoda! |\nE2 !D.S.alcoda! |\n!coda!F2 |]', 'CDEDF'],
    ['|: C2 | D2 !dacoda! :| E2 !D.C.alcoda! | !coda!F2 |]', 'CDCDECDF'],
    // A sign that says no more than D.S. leaves for the coda that is there; one that says Fine does not.
    ['!segno!C2 | !dacoda!D2 | E2 !D.S.! || !coda!F2 |]', 'CDECDF'],
    ['C2 | !dacoda!D2 | !fine!E2 | F2 !D.C.alfine! || !coda!G2 |]', 'CDEFCDE'],
    ['C2 | D2 !fine! | E2 !dacapo! |]', 'CDECD'],
    ['C2 | D2 "^To Coda" | E2 "^D.C. al Coda" | "^Coda"F2 |]', 'CDECDF'],
    ['!coda!C2 | D2 !dacoda! | E2 !D.C.! |]', 'CDECDCDE'],
  ])('unfolds %s', (music, expected) => {
    expect(played(music)).toBe(expected);
  });

  it('ends even where the signs send the player round for ever', () => {
    expect(played('!segno!C2 | D2 !D.S.!z | E2 |]').length).toBeLessThan(30);
  });
});

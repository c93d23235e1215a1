/** A made-up reel of any length, for measuring. */
import { readAbc } from '@nokta/core/formats';
import type { Tune } from '@nokta/core/music';

const EIGHT_BARS = 'G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG FDEF | d2gd Bdgd | e2ge cege | d2gd BdAc | BAGB A2Bc | ';

/** @param bars a multiple of eight */
export function reel(bars: number): Tune {
  const read = readAbc(`X:1\nT:Bench\nM:4/4\nL:1/8\nQ:1/4=120\nK:G\n${EIGHT_BARS.repeat(bars / 8)}\n`);
  if (!read.ok) throw new Error('The benchmark tune does not read');
  return read.value.tune;
}

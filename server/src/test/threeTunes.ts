/** A library with three tunes, and one more to bring in. */
import type { BatchResult, TuneRecord } from '@nokta/api';
import { startHarness, tuneFrom, type Harness } from './harness.ts';

export const REEL =
  'X:1\nT:Tar and Twine\nT:The Łódź Twiner\nR:reel\nC:Composed here\nN:for the harvest supper\nM:4/4\nL:1/8\nK:G\n|: G2BG dGBG | ABcA BGAB | c2ec B2dB | ABAG F2D2 :|\n';
export const JIG = 'X:1\nT:Wet Rope\nR:jig\nM:6/8\nL:1/8\nK:D\n|: d2e fed | B2d A2F | G2B AFD | E2F G3 :|\n';
export const AIR = 'X:1\nT:The Grey Gull\nR:air\nM:3/4\nL:1/4\nK:Am\nA2 c | e2 d | c2 B | A3 |\n';
export const OTHER = 'X:1\nT:Rope Walk\nM:2/4\nL:1/8\nK:D\n|: DF A2 | Bd A2 | FA Bc | d4 :|\n';

export async function startWithTunes(): Promise<{
  readonly server: Harness;
  readonly reel: TuneRecord;
  readonly air: { readonly id: string };
}> {
  const server = await startHarness();
  const reel = (await server.call<TuneRecord>('POST', '/tunes', { tune: tuneFrom(REEL), tags: ['supper', 'group'] }))
    .body;
  const { body } = await server.call<BatchResult>('POST', '/tunes/batch', {
    tunes: [
      { tune: tuneFrom(JIG), tags: ['group'] },
      { tune: tuneFrom(AIR), instrument: 'cello' },
    ],
  });
  return { server, reel, air: body.added[1]! };
}

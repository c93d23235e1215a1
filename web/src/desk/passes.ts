/** The passes, in the order of the work; each says in its folder what it is. */
import bow from './bow/pass.ts';
import grades from './grades/pass.ts';
import hand from './hand/pass.ts';
import key from './key/pass.ts';
import parts from './parts/pass.ts';
import type { Pass, PassId } from './shared/passes.ts';
import { PASS_IDS } from './shared/passes.ts';
import sheet from './sheet/pass.ts';
import teach from './teach/pass.ts';
import tune from './tune/pass.ts';

export const PASS: Readonly<Record<PassId, Pass>> = { tune, parts, key, hand, bow, grades, sheet, teach };
export const PASSES: readonly Pass[] = PASS_IDS.map((id) => PASS[id]);

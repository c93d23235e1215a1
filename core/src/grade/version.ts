/** The version stage: the tune made easier, or left as it is. */
import { z } from 'zod';
import { analyseForm } from '../form/index.ts';
import type { Tune } from '../music/index.ts';
import { slice } from '../stage/index.ts';
import { bareVersion, type Version } from './bare.ts';

export const GRADES = ['tune', 'bare'] as const;
/** As it is, or with only the notes that carry each beat. */
export type GradeId = (typeof GRADES)[number];

export interface VersionDecisions {
  readonly grade: GradeId;
}

export const versionSlice = slice<VersionDecisions>({
  schema: z.strictObject({ grade: z.enum(GRADES) }),
  first: { grade: 'tune' },
  older: ({ version }) => ({ grade: version }),
});

/** @example versionStage({ grade: 'tune' }, reel).changes // [] */
export function versionStage({ grade }: VersionDecisions, inKey: Tune): Version {
  return grade === 'bare' ? bareVersion(inKey, analyseForm(inKey)) : { tune: inKey, changes: [] };
}

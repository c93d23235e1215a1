/** The hands that there are, as values. */
import type { HandId } from '../../instrument/index.ts';
import { BASS } from './bass.ts';
import { CELLO } from './cello.ts';
import type { HandModel } from './model.ts';
import { VIOLA, VIOLIN } from './upper.ts';

export const HANDS: Readonly<Record<HandId, HandModel>> = { violin: VIOLIN, viola: VIOLA, cello: CELLO, bass: BASS };

export type { HandModel, School } from './model.ts';

/** Learners on the shelf of records. */
import { learnerRecord } from '@nokta/core/learner';
import { shelved } from '../records/shelf.ts';

export const learnerKind = shelved(learnerRecord, 'learner');

/** What is kept under a name. */
import { keptSchema } from '@nokta/core/files';

export const keptRequest = keptSchema;

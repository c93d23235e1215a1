/** What the teacher says in other words: kept until the notes below it change, then marked as out of date. */
import { z } from 'zod';
import { slice } from '../stage/index.ts';

export interface OwnTalk {
  readonly text: string;
  /** Of the notes, fingers and bows that it was written for. */
  readonly digest: string;
}

export interface TalkDecisions {
  /** By the first note of a phrase. */
  readonly texts: Readonly<Record<string, OwnTalk>>;
}

export const talkSlice = slice<TalkDecisions>({
  schema: z.strictObject({
    texts: z.record(
      z.string().max(64),
      z.strictObject({ text: z.string().trim().min(1).max(4000), digest: z.string().max(16) }),
    ),
  }) as unknown as z.ZodType<TalkDecisions, TalkDecisions>,
  first: { texts: {} },
  older: () => ({ texts: {} }),
});

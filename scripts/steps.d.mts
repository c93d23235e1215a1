/** Steps that the commands share; plain Node, see steps.mjs. */
export function buildServer(): void;

/** Steps that the commands share; plain Node, see steps.mjs. */
export function buildServer(): void;
/** Temporary folders are in memory from now on, where there is room. */
export function writeIntoMemory(): void;
/** This process and its threads compile simply from now on, and for speed only what goes on for long. */
export function compileLightly(): void;

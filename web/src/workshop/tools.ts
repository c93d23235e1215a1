/** The tools of the workshop. */
export const TOOLS = [
  { id: 'tuner', label: 'Tuner' },
  { id: 'tapes', label: 'Tapes' },
  { id: 'scales', label: 'Scales' },
] as const;
export type ToolId = (typeof TOOLS)[number]['id'];

export const isTool = (value: unknown): value is ToolId => TOOLS.some(({ id }) => id === value);

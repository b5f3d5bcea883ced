// How `rehearse` writes timelines.

export const TIMELINES = ['text', 'json', 'svg'] as const;

/** The options of `rehearse`, beside those of the schema. */
export interface RehearseOptions {
  readonly format: (typeof TIMELINES)[number];
  /** A JSON file with the timelines to compare with. */
  readonly expect?: string;
  /** Whether to write that file. */
  readonly update: boolean;
  readonly quiet: boolean;
}

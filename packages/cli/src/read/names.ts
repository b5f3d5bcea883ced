// The names of the formats of records.

export const FORMATS = ['json', 'ndjson', 'csv'] as const;
export type Format = (typeof FORMATS)[number];

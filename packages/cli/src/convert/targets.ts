// What a schema is converted to.

export const TARGETS = ['json-schema', 'types', 'html', 'markdown'] as const;
export type Target = (typeof TARGETS)[number];

// How closely tests look: in CI at everything, while working at enough to see a fault.

/** Whether to look at everything, as CI does: React 18, too, and what several pages have in common on each of them. */
export const THOROUGH = process.env['THOROUGH'] !== undefined;

/** How often a property is tried: in CI as often as asked for, else a third of that. */
export const runs = (many: number): { readonly numRuns: number } => ({ numRuns: THOROUGH ? many : Math.ceil(many / 3) });

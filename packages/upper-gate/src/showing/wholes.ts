/** The kinds of parts that hold fields. */
export const WHOLES: readonly string[] = ['group', 'list', 'variant'];

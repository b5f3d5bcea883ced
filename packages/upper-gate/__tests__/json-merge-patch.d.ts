/** A general library for merge patches (RFC 7396), which has no types. */
declare module 'json-merge-patch' {
  const library: { apply(target: unknown, patch: unknown): unknown };
  export default library;
}

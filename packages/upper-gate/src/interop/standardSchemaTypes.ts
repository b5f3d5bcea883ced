// The types of the Standard Schema specification, version 1 (https://standardschema.dev), which its authors ask to copy
// rather than to depend on.

/** A schema of any library, from `In` to `Out`. */
export interface StandardSchema<In = unknown, Out = In> {
  readonly '~standard': {
    readonly version: 1;
    /** The name of the library. */
    readonly vendor: string;
    /** Validates a value: at once, or later. */
    readonly validate: (value: unknown) => StandardResult<Out> | Promise<StandardResult<Out>>;
    readonly types?: { readonly input: In; readonly output: Out } | undefined;
  };
}

/** A result, as the Standard Schema specification has it. */
export type StandardResult<Out> = { readonly value: Out; readonly issues?: undefined } | { readonly issues: readonly StandardIssue[] };

/** An issue, as the Standard Schema specification has it. */
export interface StandardIssue {
  readonly message: string;
  readonly path?: readonly (PropertyKey | { readonly key: PropertyKey })[] | undefined;
}

// The types of the Standard Schema specification, version 1 (https://standardschema.dev), which its authors ask to copy
// rather than to depend on.

/** A schema of any library: `In` is what it takes, `Out` what it yields. */
export interface StandardSchema<In = unknown, Out = In> {
  readonly '~standard': {
    readonly version: 1;
    /** The name of the library. */
    readonly vendor: string;
    readonly validate: (value: unknown) => StandardResult<Out> | Promise<StandardResult<Out>>;
    readonly types?: { readonly input: In; readonly output: Out } | undefined;
  };
}

export type StandardResult<Out> = { readonly value: Out; readonly issues?: undefined } | { readonly issues: readonly StandardIssue[] };

export interface StandardIssue {
  readonly message: string;
  readonly path?: readonly (PropertyKey | { readonly key: PropertyKey })[] | undefined;
}

// Records as files hold them.

/** Whole lines of NDJSON, not yet read. */
export interface Lines {
  readonly bytes: Uint8Array;
  /** The number of the first line in its file, from 1. */
  readonly line: number;
}

/** A record, and where it stands in its file: the line of NDJSON and CSV, and a JSON Pointer into what the file or the line holds. */
export interface Found {
  readonly line?: number;
  readonly pointer: string;
  readonly value: unknown;
}

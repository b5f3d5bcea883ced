// The whole of the platform that the core may use beside ECMAScript: the core is compiled without the DOM library
// and without Node's types, so that any other global is a compile error.

declare function setTimeout(run: () => void, milliseconds?: number): unknown;
declare function clearTimeout(timer: unknown): void;
declare class URL {
  constructor(url: string, base?: string);
  readonly protocol: string;
  readonly href: string;
}
/* eslint-disable no-var -- what `let` declares is no property of globalThis, and these three are not in every environment */
declare var addEventListener: ((type: 'online', listener: () => void) => void) | undefined;
declare var removeEventListener: ((type: 'online', listener: () => void) => void) | undefined;
declare var navigator: { readonly onLine?: boolean } | undefined;
/* eslint-enable no-var */
declare function structuredClone<T>(value: T): T;
declare const performance: { now(): number };
declare const console: { error(...what: unknown[]): void; warn(...what: unknown[]): void };

interface AbortSignal {
  readonly aborted: boolean;
  readonly reason: unknown;
  throwIfAborted(): void;
  addEventListener(type: 'abort', listener: () => void): void;
  removeEventListener(type: 'abort', listener: () => void): void;
}
declare class AbortController {
  readonly signal: AbortSignal;
  abort(reason?: unknown): void;
}

interface String {
  /** ES2024: not in every browser. */
  isWellFormed?(): boolean;
}

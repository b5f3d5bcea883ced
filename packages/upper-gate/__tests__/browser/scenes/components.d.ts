// What the Svelte compiler makes of the scenes (harness.ts).
declare module 'svelte-scenes/*.svelte' {
  import type { Component } from 'svelte';

  const component: Component<Record<string, unknown>>;
  export default component;
}

// What the Svelte compiler makes of the scenes (harness.ts).
declare module 'svelte-scenes/*.svelte' {
  import type { Component } from 'svelte';

  const component: Component<Record<string, unknown>>;
  export default component;
}

declare module 'babel-preset-solid' {
  import type { PluginItem } from '@babel/core';

  const preset: PluginItem;
  export default preset;
}

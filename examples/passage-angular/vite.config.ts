import { fileURLToPath } from 'node:url';
import { createEs2015LinkerPlugin } from '@angular/compiler-cli/linker/babel';
import { ConsoleLogger, formatDiagnostics, LogLevel, NodeJSFileSystem, performCompilation, readConfiguration } from '@angular/compiler-cli';
import { transformAsync } from '@babel/core';
import { defineConfig, type Plugin } from 'vite';

/** Angular's own compiler writes the components; what packages bring half compiled is linked as it is bundled. So nothing compiles in the browser. */
function angular(): Plugin {
  const linker = createEs2015LinkerPlugin({ fileSystem: new NodeJSFileSystem(), logger: new ConsoleLogger(LogLevel.warn) });
  return {
    name: 'angular',
    config() {
      const { diagnostics } = performCompilation(readConfiguration(fileURLToPath(new URL('tsconfig.json', import.meta.url))));
      if (diagnostics.length > 0) throw new Error(formatDiagnostics(diagnostics));
    },
    async transform(code, id) {
      if (!code.includes('ɵɵngDeclare')) return null;
      const linked = await transformAsync(code, { filename: id, configFile: false, babelrc: false, compact: false, plugins: [linker] });
      return { code: linked!.code! };
    },
  };
}

export default defineConfig({
  base: '/angular/',
  plugins: [angular()],
  define: { ngDevMode: 'false', ngJitMode: 'false' },
  server: { proxy: { '/api': 'http://localhost:8417' } },
});

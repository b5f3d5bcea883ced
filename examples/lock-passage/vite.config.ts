import { defineConfig } from 'vite';

export default defineConfig({
  server: { proxy: { '/api': 'http://localhost:8417' } },
  build: { rolldownOptions: { input: ['index.html', 'plain.html', 'manifest.html'] } },
});

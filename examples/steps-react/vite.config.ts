import { defineConfig } from 'vite';

export default defineConfig({
  base: '/steps/',
  server: { proxy: { '/api': 'http://localhost:8417' } },
});

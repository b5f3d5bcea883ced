import { defineConfig } from 'vite';

export default defineConfig({
  base: '/react/',
  server: { proxy: { '/api': 'http://localhost:8417' } },
});

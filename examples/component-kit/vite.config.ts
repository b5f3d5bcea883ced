import { defineConfig } from 'vite';

export default defineConfig({
  base: '/kit/',
  server: { proxy: { '/api': 'http://localhost:8417' } },
});

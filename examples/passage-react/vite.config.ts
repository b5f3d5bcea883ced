import { defineConfig } from 'vite';

export default defineConfig({
  base: '/react/',
  build: { rolldownOptions: { input: ['index.html', 'booked.html'] } },
  server: { proxy: { '/api': 'http://localhost:8417' } },
});

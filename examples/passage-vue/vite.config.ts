import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';

export default defineConfig({
  base: '/vue/',
  plugins: [vue()],
  server: { proxy: { '/api': 'http://localhost:8417' } },
});

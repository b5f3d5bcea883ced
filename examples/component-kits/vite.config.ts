import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';

export default defineConfig({
  base: '/kits/',
  plugins: [vue({ template: { compilerOptions: { isCustomElement: (tag) => tag.startsWith('md-') } } })],
  server: { proxy: { '/api': 'http://localhost:8417' } },
  build: { rolldownOptions: { input: ['index.html', 'aria.html', 'values.html', 'vue.html', 'elements.html'] } },
});

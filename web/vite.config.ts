import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import vuetify, { transformAssetUrls } from 'vite-plugin-vuetify'

export default defineConfig({
  root: import.meta.dirname,
  plugins: [vue({ template: { transformAssetUrls } }), vuetify({ autoImport: true })],
  worker: { format: 'es' },
  build: { outDir: 'dist', emptyOutDir: true, target: 'es2022', chunkSizeWarningLimit: 700 },
  server: { proxy: { '/api': { target: process.env['CALM_API'] ?? 'http://127.0.0.1:4180' } } },
})

import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import vuetify, { transformAssetUrls } from 'vite-plugin-vuetify'

export default defineConfig({
  root: import.meta.dirname,
  plugins: [vue({ template: { transformAssetUrls } }), vuetify({ autoImport: true })],
  worker: { format: 'es' },
  build: {
    outDir: 'dist',
    emptyOutDir: true,
    target: 'es2022',
    chunkSizeWarningLimit: 700,
    rolldownOptions: {
      output: {
        codeSplitting: {
          // A mean is not to be fetched with every meter, nor a list of numbers with every check of a form.
          includeDependenciesRecursively: false,
          groups: [
            {
              name: 'families',
              test: /core\/src\/(family|media|tank|calculation|quantity\/(described|condition|setting)|procedure\/(general|parts|order|run)|device\/)/,
            },
            { name: 'checks', test: /node_modules\/zod\// },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': { target: process.env['CALM_API'] ?? 'http://127.0.0.1:4180' } } },
})

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
    // One sheet of styles: smaller than the journeys to fetch thirty.
    cssCodeSplit: false,
    chunkSizeWarningLimit: 700,
    rolldownOptions: {
      output: {
        codeSplitting: {
          // A mean is not to be fetched with every meter, nor a list of numbers with every check of a form.
          includeDependenciesRecursively: false,
          // Few files for a first page: each is a journey to the server. What a page needs together comes together.
          groups: [
            {
              name: 'families',
              priority: 40,
              test: /core\/src\/(family|media|tank|calculation|quantity\/(described|condition|setting)|procedure\/(general|parts|order|run)|device\/|loop\/(facts|what-it-is|set-up)|numeric\/fit|statistics\/(student|budget))/,
            },
            { name: 'parts', priority: 15, test: /core\/src\/part\// },
            { name: 'checks', priority: 40, test: /node_modules\/zod\// },
            {
              name: 'frame',
              priority: 20,
              test: /node_modules\/(vue|@vue|vue-router|pinia|@vueuse|vuetify|@mdi|date-fns)\/|plugin-vue|vite\/preload|contract\/src\/api\/(addresses|news|page)|web\/src\/(app\/benches|api\/(call|clock|live|live-cache|session-store|outbox|one-at-a-time|window)|ui\/(shortcuts|NamePlate|tour|stale-page|StateMark|dates|verdict|save-file|say-value))/,
            },
            {
              name: 'loop',
              priority: 20,
              test: /web\/src\/(loop\/(?!ClashDialog)|signal-path\/|app\/(LoopPage|NowherePage|path-size)|ui\/(FindingRow|LongWorkLine|NextBar|NumberField|UnitPicker|PlainTable)|api\/(run-log|equipment|long-work))|core\/src\/(refused|finding|chart|harmless-cell|numeric\/interpolate|quantity\/(?!calculations)|statistics\/normal|signal\/(?!schema|calculations)|verify\/(tolerance|decision|reading-errors|components|plan|risk|verdict|equipment-spec)|loop\/(field|line-steps|default-path|parts)|scale\/audit|record\/(revision-difference|canonical|authors))/,
            },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': { target: process.env['CALM_API'] ?? 'http://127.0.0.1:4180' } } },
})

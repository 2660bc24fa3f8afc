import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import { compression, defineAlgorithm } from 'vite-plugin-compression2'
import vuetify, { transformAssetUrls } from 'vite-plugin-vuetify'
import { noCircles } from './building/no-circles.ts'
import { signsOnly } from './building/signs-only.ts'

export default defineConfig({
  root: import.meta.dirname,
  plugins: [
    vue({ template: { transformAssetUrls } }),
    vuetify({ autoImport: true }),
    noCircles(),
    signsOnly(),
    // Made small once, as small as it goes, instead of at each visit.
    compression({ algorithms: [defineAlgorithm('brotliCompress')], include: /\.(js|css|svg)$/ }),
  ],
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
              name: 'steps',
              priority: 50,
              test: /core\/src\/(procedure\/(?!calculations|still\.)|family\/(procedures|clamp-on\/start-up\.|coriolis\/memory-procedure|guided-wave\/quick-set-up|ph\/buffer-calibration|switch\/input-procedure|level-from-above\/echo-look|temperature\/sensor-trim|thermal\/(gas-verification|insert-retract)))/,
            },
            // Comes with the first step of a procedure: who chooses one does not wait for its picture.
            { name: 'pictures', priority: 50, test: /core\/src\/family\/step-picture/ },
            // What a verification asks for without the families: what stands for a temperature, lines through readings.
            {
              name: 'tables',
              priority: 45,
              test: /core\/src\/(family\/temperature\/(rtd|thermocouple)|numeric\/(fit|crossings)|statistics\/(student|budget))/,
            },
            {
              name: 'families',
              priority: 40,
              test: /core\/src\/(?!.*calculation|quantity\/described)(family|media|tank|sensor\/|device\/|procedure\/still\.|scale\/audit-loop|loop\/(facts|what-it-is|set-up|sheet-units|range-finding|pulse-finding)|quantity\/(asked-in|shown-in))/,
            },
            {
              name: 'work',
              priority: 30,
              test: /core\/src\/(signing\/(signing|meanings)|logs\/recording|record\/(kinds\/(kind|configuration-kept|note-kept))|survey\/site-shape|verify\/(drift|stability|flow-check\.|measured-reference|reference-check|reference-comparison|k-factor|cycle-times|debounce)|statistics\/monte-carlo)/,
            },
            { name: 'parts', priority: 15, test: /core\/src\/(part|circuit)\/(?!calculations)/ },
            { name: 'checks', priority: 40, test: /node_modules\/zod\/|core\/src\/plain-issues/ },
            {
              name: 'frame',
              priority: 20,
              test: /node_modules\/(vue|@vue|vue-router|pinia|@vueuse|vuetify|@vuetify|@mdi|date-fns)\/|plugin-vue|vite\/preload|contract\/src\/api\/(addresses|news|page)|core\/src\/(loop\/parts|today\/place|signal\/calm-line|signing\/roles)|web\/src\/(app\/benches|api\/(call|clock|live|live-cache|session-store|outbox|one-at-a-time|window)|ui\/(CalmLine|key-scroll|kept-scroll|shortcuts|NamePlate|tour|stale-page|StateMark|dates|verdict|save-file|say-value))/,
            },
            {
              name: 'loop',
              priority: 20,
              test: /core\/src\/(verify\/(should-show|switch-points|input-verdict)|scale\/predicted-errors|manifold\/manifold|numeric\/(mean|deviation|bisect)|trim\/(recommend|plausible)|transmitter\/|record\/kinds\/reading-values)|web\/src\/ui\/read-text-file|web\/src\/(loop\/(?!ClashDialog|SignDialog|SensorChoice|RestsPanel|use-plant-units|Past|IntervalAdvice|TagDialog|NoteDialog|ArchivedLine|LoopActs)|signal-path\/|app\/(LoopPage|NowherePage|path-size)|ui\/(ChartView|when-idle|FindingRow|LongWorkLine|NextBar|NumberField|UnitPicker|WaterQuestion|PlainTable)|api\/(run-log|equipment|long-work|preferences))|core\/src\/(refused|finding|chart|harmless-cell|numeric\/interpolate|quantity\/(?!calculations|described)|statistics\/(normal|generator)|signal\/(?!calculations|calm-line)|verify\/(tolerance|decision|reading-errors|components|plan|risk|verdict|equipment-spec)|loop\/(field|line-steps|default-path)|scale\/(audit(?!-loop)|type-change)|loop\/usual|signing\/(authors|signature)|record\/(revision-difference|canonical|signing\/asked))/,
            },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': { target: process.env['CALM_API'] ?? 'http://127.0.0.1:4180' } } },
})

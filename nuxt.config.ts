import { cpSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { build } from 'esbuild'
import { chunks } from './scripts/chunks'
import { firstLook } from './scripts/first-look.mjs'
import { leanFields } from './scripts/lean-fields'
import { writeServiceWorker } from './scripts/service-worker'
import { ALL_FONT_FILES } from './server/documents/fonts'
import { SHELF_FILES } from './server/shelf/files'

const here = (path: string): string => fileURLToPath(new URL(path, import.meta.url))

/** Bytes of packed script on the way to a tree's first planks, at most. */
const MOST_SCRIPT = 350 * 1024
/** Files of script on that way, at most: each is a request. */
const MOST_FILES = 10
/** Words by which the tree page's own script is known. */
const TREE_PAGE = 'This tree didn’t open'

/** Throws when the script on the way to a tree's first planks has grown too large. */
function checkFirstLook(folder: string): void {
  const { total, list } = firstLook(folder, text => text.includes(TREE_PAGE))
  if (list.length > MOST_FILES)
    throw new Error(`A tree’s first look takes ${list.length} files of script, over ${MOST_FILES} (scripts/chunks.ts).`)
  if (total > MOST_SCRIPT)
    throw new Error(
      `A tree’s first look takes ${total} bytes of script, over ${MOST_SCRIPT}: ${JSON.stringify(list.slice(0, 8))}`,
    )
}

const ROOMS = [
  'account',
  'board',
  'canvas',
  'capture',
  'compare',
  'dress',
  'figures',
  'files',
  'find',
  'handing',
  'history',
  'keys',
  'meeting',
  'outline',
  'page',
  'presenting',
  'schedule',
  'share',
  'shell',
  'side-sheet',
  'talk',
  'told',
  'vote',
]

export default defineNuxtConfig({
  modules: ['@nuxt/eslint', '@nuxt/icon', '@pinia/nuxt', '@primevue/nuxt-module', 'nuxt-auth-utils'],
  compatibilityDate: '2026-01-01',
  telemetry: false,
  // The app is a live tool behind a sign-in; nothing of it is worth rendering twice.
  ssr: false,
  // The app floor is divided into rooms by what people do; each has its components, state and keys together.
  components: ROOMS.map(room => ({ path: `~/${room}`, pathPrefix: false, extensions: ['vue'] })),
  devtools: { enabled: false },
  // Without a rendered page the development server finds the app's entry only so.
  $development: { experimental: { viteEnvironmentApi: true } },
  alias: { '#core': here('./core'), '#demo': here('./demo') },
  css: [
    '@fontsource-variable/figtree/index.css',
    '@fontsource-variable/bricolage-grotesque/index.css',
    '@fontsource/noto-emoji/index.css',
    '~/theme/base.css',
  ],
  app: {
    head: {
      title: 'Sun Porch',
      htmlAttrs: { lang: 'en' },
      meta: [
        { name: 'viewport', content: 'width=device-width, initial-scale=1, interactive-widget=resizes-content' },
        { name: 'theme-color', content: '#CFE5E3' },
      ],
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/porch.svg' }],
    },
  },
  auth: { loadStrategy: 'none' },
  runtimeConfig: {
    session: { name: 'sun-porch', password: '', maxAge: 60 * 60 * 24 * 30, cookie: { secure: false, sameSite: 'lax' } },
  },
  primevue: {
    autoImport: false,
    components: {
      include: [
        'Button',
        'InputText',
        'InputNumber',
        'Textarea',
        'Select',
        'Slider',
        'Checkbox',
        'DatePicker',
        'Dialog',
        'Menu',
        'TieredMenu',
        'ContextMenu',
        'Popover',
        'Message',
      ],
    },
    // The tooltip directive writes a style sheet on every update of its element, which costs a frame; ours is plain
    // CSS.
    directives: { include: [] },
    importTheme: { from: '~/theme/porch.ts' },
  },
  icon: {
    provider: 'none',
    fallbackToApi: false,
    // Names of icons stand in plain modules too.
    clientBundle: {
      scan: {
        globInclude: ['app/**/*.{vue,ts}', 'core/scene/*.ts'],
        globExclude: ['node_modules', '.nuxt', '.output'],
      },
      sizeLimitKb: 256,
    },
    serverBundle: { collections: ['lucide'] },
  },
  nitro: {
    // Static files are answered before anything of ours runs.
    routeRules: { '/**': { headers: { 'x-content-type-options': 'nosniff' } } },
    experimental: { websocket: true },
    // Needed by work in threads of its own, which is bundled by itself.
    externals: { traceInclude: [here('./node_modules/@resvg/resvg-js/index.js')] },
    compressPublicAssets: { brotli: true, gzip: true },
    alias: { '#core': here('./core'), '#demo': here('./demo') },
    hooks: {
      async compiled(nitro) {
        // Work apart from the server's thread is a program of its own.
        await build({
          entryPoints: { jobs: here('./server/jobs/worker.ts') },
          outdir: `${nitro.options.output.serverDir}/workers`,
          outExtension: { '.js': '.mjs' },
          // What only some work needs is read when it's first needed.
          splitting: true,
          bundle: true,
          // Each thread reads it anew; names stay, for what is said of errors.
          minifyWhitespace: true,
          minifySyntax: true,
          platform: 'node',
          format: 'esm',
          // Packages that the server has beside itself, some of which read files of their own.
          external: ['@resvg/resvg-js', 'pdfkit', 'fontkit', 'linebreak', 'bidi-js', 'sharp'],
          banner: {
            js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);",
          },
          target: 'node20',
          alias: { '#core': here('./core') },
          logLevel: 'error',
        })
        cpSync(here('./server/database/migrations'), `${nitro.options.output.serverDir}/migrations`, {
          recursive: true,
        })
        // While developing, scripts are served one by one and nothing is packed.
        if (!nitro.options.dev) checkFirstLook(`${nitro.options.output.publicDir}/_nuxt`)
        for (const file of ALL_FONT_FILES)
          cpSync(here(`./node_modules/${file}`), `${nitro.options.output.serverDir}/fonts/${file.split('/').at(-1)}`)
        for (const [name, file] of Object.entries(SHELF_FILES))
          cpSync(here(`./node_modules/${file}`), `${nitro.options.output.serverDir}/shelf/${name}`)
      },
    },
  },
  hooks: {
    // It opens the session of each request, of files too, for handlers of sockets; ours read the headers themselves.
    'nitro:config': config => {
      config.plugins = config.plugins?.filter((path = '') => !/nuxt-auth-utils\/.*\/plugins\/ws/.test(path))
    },
    // The public files are all there, and their list, which the server answers from, isn't yet made.
    'nitro:build:public-assets': nitro => writeServiceWorker(nitro.options.output.publicDir),
  },
  vite: {
    $client: { build: { rollupOptions: { output: { manualChunks: chunks(), onlyExplicitManualChunks: true } } } },
    plugins: [leanFields()],
    worker: { format: 'es' },
    // A font that's small enough to be written into a style sheet would be refused there: fonts come from here, as files.
    build: { assetsInlineLimit: file => (/\.(?:woff2?|ttf|otf)$/.test(file) ? false : undefined) },
    optimizeDeps: {
      include: [
        'yjs',
        'nanoid',
        'idb',
        'zod',
        'fractional-indexing',
        '@tanstack/vue-virtual',
        '@tiptap/vue-3',
        '@tiptap/core',
        '@tiptap/starter-kit',
        '@tiptap/extension-collaboration',
        'htmlparser2',
        'saxes',
        'decimal.js',
        'papaparse',
        'mdast-util-from-markdown',
        'mdast-util-to-markdown',
        'mdast-util-gfm-strikethrough',
        'mdast-util-gfm-table',
        'mdast-util-gfm-task-list-item',
        'micromark-extension-gfm-strikethrough',
        'micromark-extension-gfm-table',
        'micromark-extension-gfm-task-list-item',
        'weekstart',
      ],
    },
  },
  typescript: { strict: true, tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true } } },
})

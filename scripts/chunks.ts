import type { Rollup } from 'vite'

/*
 * Which modules of the app share a file. Left to itself the bundler makes a file for each set of modules that the same lazy parts need:
 * 140 files of a kilobyte or two on the way to a tree, each a request. Here lazy parts that come together are one.
 */

/** Lazy parts that come together, by where their modules stand; a module belongs to the first of them that needs it. */
const WAVES = [
  // With every page, right after the first script.
  [
    'base',
    /\/app\/layouts\/|\/app\/session\/deliver\.ts|\/app\/shell\/(?:NewerApp|SignedOut)\.vue|nuxt\/icon\/dist|workbox-window|primevue\/button\//,
  ],
  ['tree', /\/app\/pages\/trees\/\[id\]\.vue/],
  // What a tree's page has beside its planks as soon as they stand, or at the first press.
  [
    'beside',
    new RegExp(
      [
        'side-sheet/(?:SideSheet|NoteEditor|AgainPart)',
        'talk/(?:CommentsPart|DroppedLine|open-talk)',
        'schedule/(?:PlanPart|planning|on-planks|acting)',
        // Not the charts that hang there: their engine is as large as all of this, and few trees have one.
        'figures/(?:FiguresPart|figuring|on-planks)',
        'canvas/(?:PreviewCard|PullKnob|HandStrip|WidthGrip|TieBox|OverviewWindow)',
        'page/(?:TopicMenu|ThumbBar)',
        'told/HeardNews',
        'vote/(?:VotesPart|VoteSign)',
        'keys/(?:GuideCard|EverythingBox)',
        'find/(?:FindBar|beside)',
        'files/(?:PageCard|UploadsBox)',
        'capture/copied-html',
      ]
        .map(part => `/app/${part}`)
        .concat('/core/capture/html-list')
        .join('|'),
    ),
  ],
  // The pages of the shelf above, which lead to one another.
  ['home', /\/app\/pages\/(?:index|work|meetings|news|letterbox|trees\/index)\.vue/],
  ['fields', /primevue\/\w+\/index\.mjs/],
] as const
type Wave = (typeof WAVES)[number][0]

/** Pages that others reach without a tree. */
const PAGES = /\/app\/pages\//
/** What draws charts: whatever shares a file with a part of it brings all of it along. */
const CHARTS = /node_modules\/(?:echarts|vue-echarts|zrender)\/|\/app\/figures\/chart-parts\.ts/
/** Large packages that one part needs at a time: each stays by itself. */
const ALONE = /node_modules\/(?:tslib|pdfjs-dist|world-atlas|topojson|d3-|hyphen|qrcode)|\.css$|\?url|\.json$/

/** What a start reaches by imports that aren't lazy, itself included. */
function reached(starts: readonly string[], { getModuleInfo }: Rollup.ManualChunkMeta): Set<string> {
  const seen = new Set(starts)
  for (const id of seen) for (const next of getModuleInfo(id)?.importedIds ?? []) seen.add(next)
  return seen
}

/** The file of each module that isn't left to the bundler. */
function plan(meta: Rollup.ManualChunkMeta): ReadonlyMap<string, string> {
  const all = [...meta.getModuleIds()]
  const lazy = all.filter(id => (meta.getModuleInfo(id)?.dynamicImporters.length ?? 0) > 0)
  const waveOf = (id: string): Wave | undefined => WAVES.find(([, where]) => where.test(id))?.[0]
  const entry = reached(
    all.filter(id => meta.getModuleInfo(id)?.isEntry),
    meta,
  )
  const waves = new Map(
    WAVES.map(([name]) => [
      name,
      reached(
        lazy.filter(id => waveOf(id) === name),
        meta,
      ),
    ]),
  )
  const isIn = (name: Wave, id: string): boolean => waves.get(name)!.has(id)
  const others = lazy.filter(id => !waveOf(id)).map(id => ({ page: PAGES.test(id), reach: reached([id], meta) }))

  const files = new Map<string, string>()
  for (const id of all) {
    if (entry.has(id) || !meta.getModuleInfo(id)?.isIncluded) continue
    const by = others.filter(({ reach }) => reach.has(id))
    // Whether somebody may need it who has no tree open.
    const outside = isIn('home', id) || by.some(({ page }) => page)
    if (isIn('tree', id)) files.set(id, outside || isIn('base', id) ? 'common' : 'tree')
    else if (isIn('base', id)) files.set(id, 'base')
    else if (isIn('fields', id)) files.set(id, 'fields')
    else if (CHARTS.test(id)) files.set(id, 'charts')
    else if (ALONE.test(id)) continue
    else if (isIn('beside', id)) files.set(id, outside ? 'shared' : 'beside')
    else if (isIn('home', id)) files.set(id, 'home')
    else if (by.length > 1) files.set(id, by.some(({ page }) => page) ? 'pages' : 'late')
  }
  return files
}

/** Rollup's `manualChunks` for the browser's scripts. */
export function chunks(): Rollup.GetManualChunk {
  let files: ReadonlyMap<string, string> | null = null
  return (id, meta) => (files ??= plan(meta)).get(id)
}

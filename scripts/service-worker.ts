import { createHash } from 'node:crypto'
import { readdirSync } from 'node:fs'
import { generateSW } from 'workbox-build'

/**
 * Writes the service worker of a build into its public folder: what the app is made of is kept by the browser, so that
 * a closed tab opens again without a line. Pages come from the server whenever it answers, and only else from what is
 * kept; `/api` and the live line never go through it. An update waits until the person takes it up.
 */
export async function writeServiceWorker(folder: string): Promise<void> {
  const { count, size, warnings } = await generateSW({
    globDirectory: folder,
    // Pictures of letters that nobody may ever need, and one picture of the world, come when they're asked for.
    globPatterns: ['_nuxt/**/*.{js,css,mjs}', '_nuxt/*{figtree,bricolage}*.woff2', '_nuxt/twemoji*.woff2', '*.svg'],
    // Names in there hold their content's hash.
    dontCacheBustURLsMatching: /^_nuxt\//,
    maximumFileSizeToCacheInBytes: 4 * 1024 * 1024,
    additionalManifestEntries: [{ url: '/', revision: revisionOf(folder) }],
    swDest: `${folder}/sw.js`,
    inlineWorkboxRuntime: true,
    sourcemap: false,
    mode: 'production',
    clientsClaim: true,
    skipWaiting: false,
    cleanupOutdatedCaches: true,
    runtimeCaching: [
      {
        urlPattern: ({ request, url, sameOrigin }) =>
          sameOrigin &&
          request.mode === 'navigate' &&
          !url.pathname.startsWith('/api/') &&
          !url.pathname.startsWith('/look/'),
        handler: 'NetworkFirst',
        options: {
          networkTimeoutSeconds: 5,
          plugins: [
            {
              // One shell serves every page: it's the one of the files that are kept, and no page is kept itself.
              cacheWillUpdate: async () => null,
              cachedResponseWillBeUsed: async () => caches.match('/', { ignoreSearch: true }),
              // A server that is just being started again, or what stands before it, answers so.
              fetchDidSucceed: async ({ response }) => {
                if (response.status >= 500) throw new Error('The server is away')
                return response
              },
            },
          ],
        },
      },
      {
        urlPattern: /\/_nuxt\/.*\.woff2?$/,
        handler: 'CacheFirst',
        options: { cacheName: 'fonts', expiration: { maxEntries: 60 } },
      },
    ],
  })
  for (const warning of warnings) console.warn(warning)
  console.info(`Service worker: ${count} files, ${Math.round(size / 1024)} kB, are kept for opening without a line.`)
}

/** The shell is another one when any of the app's files is. */
function revisionOf(folder: string): string {
  return createHash('sha256')
    .update(readdirSync(`${folder}/_nuxt`).sort().join('\n'))
    .digest('hex')
    .slice(0, 16)
}

import type { TestProject } from 'vitest/node'
import { openHouse } from '../house'

/** One house for all tests that don't break it. */
export default async function start(project: TestProject): Promise<() => Promise<void>> {
  // A file that never ends is stopped sooner, since tests send several.
  const house = await openHouse({ demo: true, env: { JOB_SECONDS: '10' } })
  project.provide('url', house.url)
  project.provide('databaseUrl', house.databaseUrl)
  project.provide('log', house.log)
  return () => house.close()
}

declare module 'vitest' {
  export interface ProvidedContext {
    url: string
    databaseUrl: string
    log: string
  }
}

import { statfs } from 'node:fs/promises'
import { log } from '../log'
import { settings } from '../settings'

const EVERY_MS = 5 * 60_000
/** How old what is known of the disk may be when somebody writes. */
const FRESH_MS = 500
const MB = 1024 * 1024

let known = { at: 0, left: Infinity }
let looking = false

/**
 * Whether there is room to write. What is left below `DISK_FLOOR_MB` isn't written on: a database that meets the last byte of a
 * disk stops altogether, and nobody reads then either. What is known is half a second old at most while people write.
 */
export function hasRoom(): boolean {
  const { DATA_DIR, DISK_FLOOR_MB } = settings()
  if (!DATA_DIR || DISK_FLOOR_MB === 0) return true
  if (!looking && Date.now() - known.at > FRESH_MS) {
    looking = true
    statfs(DATA_DIR)
      .then(
        ({ bavail, bsize }) => {
          known = { at: Date.now(), left: (bavail * bsize) / MB }
        },
        // A folder that can't be looked at keeps nobody from writing.
        () => {
          known = { at: Date.now(), left: Infinity }
        },
      )
      .finally(() => {
        looking = false
      })
  }
  return known.left >= DISK_FLOOR_MB
}

/** Warns when the disk of the data folder has less left than is wished. Resolves to MB left; null where there's no such folder. */
export async function lookAtDisk(): Promise<number | null> {
  const { DATA_DIR, DISK_WARN_MB } = settings()
  if (!DATA_DIR) return null
  const { bavail, bsize } = await statfs(DATA_DIR)
  const left = Math.floor((bavail * bsize) / MB)
  known = { at: Date.now(), left }
  if (left < DISK_WARN_MB) log.warn({ left, wished: DISK_WARN_MB }, 'the disk of DATA_DIR is filling up (MB left)')
  return left
}

let timer: NodeJS.Timeout | undefined
export function startLookingAtDisk(): void {
  const look = (): void =>
    void lookAtDisk().catch((error: unknown) => log.warn({ error }, 'the disk can’t be looked at'))
  look()
  timer = setInterval(look, EVERY_MS)
  timer.unref()
}
export const stopLookingAtDisk = (): void => clearInterval(timer)

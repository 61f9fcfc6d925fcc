import { statfs } from 'node:fs/promises'
import { log } from '../log'
import { settings } from '../settings'

const EVERY_MS = 5 * 60_000

/** Warns when the disk of the data folder has less left than is wished. Resolves to MB left; null where there's no such folder. */
export async function lookAtDisk(): Promise<number | null> {
  const { DATA_DIR, DISK_WARN_MB } = settings()
  if (!DATA_DIR) return null
  const { bavail, bsize } = await statfs(DATA_DIR)
  const left = Math.floor((bavail * bsize) / 1024 / 1024)
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

import { settings } from '../settings'

/** Bytes that one file may have. */
export const fileLimit = (): number => Math.floor(settings().FILE_LIMIT_MB * 1024 * 1024)

export function inMegabytes(bytes: number): string {
  return `${Math.round((bytes / 1024 / 1024) * 10) / 10} MB`
}

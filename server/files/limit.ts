/** Bytes that one file may have: 25 MB unless FILE_LIMIT_MB says otherwise. */
export function fileLimit(): number {
  const megabytes = Number(process.env.FILE_LIMIT_MB ?? '')
  return Math.floor((Number.isFinite(megabytes) && megabytes > 0 ? Math.min(megabytes, 500) : 25) * 1024 * 1024)
}

export function inMegabytes(bytes: number): string {
  return `${Math.round((bytes / 1024 / 1024) * 10) / 10} MB`
}

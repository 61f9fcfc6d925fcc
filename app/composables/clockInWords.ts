/** "12:05", and with a sign when it's negative. */
export function clockInWords(ms: number): string {
  const seconds = Math.floor(Math.abs(ms) / 1000)
  return `${ms < 0 && seconds > 0 ? '−' : ''}${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`
}

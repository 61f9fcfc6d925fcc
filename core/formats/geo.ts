/*
 * Places as `geo:` URIs (RFC 5870) and as people write coordinates. WGS 84, degrees.
 */

export interface Position {
  readonly lat: number
  readonly lon: number
}

/** A longitude at a pole says nothing (RFC 5870, section 3.4.4), and −180 is the same as 180. */
function tidy(lat: number, lon: number): Position | null {
  if (!Number.isFinite(lat) || !Number.isFinite(lon) || Math.abs(lat) > 90 || Math.abs(lon) > 180) return null
  return { lat, lon: Math.abs(lat) === 90 ? 0 : lon === -180 ? 180 : lon }
}

const NUMBER = String.raw`-?\d+(?:\.\d+)?`
const URI = new RegExp(`^geo:(${NUMBER}),(${NUMBER})(?:,${NUMBER})?((?:;[a-z0-9-]+(?:=[^;,\\s]*)?)*)$`, 'i')

/** Reads a `geo:` URI. Null when it isn't one, lies off the Earth, or counts in another system than WGS 84. */
export function readGeo(text: string): Position | null {
  const match = URI.exec(text.trim())
  if (!match) return null
  const crs = /;crs=([^;]*)/i.exec(match[3]!)?.[1]
  if (crs !== undefined && crs.toLowerCase() !== 'wgs84') return null
  return tidy(Number(match[1]), Number(match[2]))
}

/** Six decimals are about ten centimetres; more would claim what nobody measured. */
export function writeGeo({ lat, lon }: Position): string {
  const short = (value: number): string => String(Number(value.toFixed(6)))
  return `geo:${short(lat)},${short(lon)}`
}

/** Reads coordinates in a `geo:` URI, as "48.2, 16.37", or as degrees with N, S, E, W: "48°12′30″ N 16°22′ E". */
export function readPosition(text: string): Position | null {
  const uri = readGeo(text)
  if (uri) return uri
  const plain = /^\s*(-?\d{1,2}(?:\.\d+)?)\s*[,;\s]\s*(-?\d{1,3}(?:\.\d+)?)\s*$/.exec(text)
  if (plain) return tidy(Number(plain[1]), Number(plain[2]))
  const part = String.raw`(\d{1,3}(?:\.\d+)?)\s*°?\s*(?:(\d{1,2}(?:\.\d+)?)\s*[′']\s*)?(?:(\d{1,2}(?:\.\d+)?)\s*[″"]\s*)?`
  const degrees = new RegExp(`^\\s*${part}([NS])[,;\\s]*${part}([EW])\\s*$`, 'i').exec(text)
  if (!degrees) return null
  const value = (from: number): number =>
    Number(degrees[from]) + Number(degrees[from + 1] ?? 0) / 60 + Number(degrees[from + 2] ?? 0) / 3600
  const sign = (letter: string): number => (/[SW]/i.test(letter) ? -1 : 1)
  return tidy(value(1) * sign(degrees[4]!), value(5) * sign(degrees[8]!))
}

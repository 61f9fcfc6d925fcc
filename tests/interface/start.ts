import { openHouse } from '../house'

/** One house for the whole run. */
export default async function start(): Promise<() => Promise<void>> {
  const house = await openHouse({ demo: true })
  process.env.HOUSE = house.url
  return () => house.close()
}

import { startOrganisation } from '../../scripts/organisation.mjs'
import { openHouse } from '../house'

/** One house for the whole run, and an organisation whose people can come in. */
export default async function start(): Promise<() => Promise<void>> {
  let organisation: Awaited<ReturnType<typeof startOrganisation>> | undefined
  const house = await openHouse({
    demo: true,
    envAt: async url => {
      organisation = await startOrganisation({ app: url })
      return { ...organisation.env, PUBLIC_URL: url }
    },
  })
  process.env.HOUSE = house.url
  return async () => {
    await house.close()
    await organisation?.close()
  }
}

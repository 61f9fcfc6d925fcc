import { startOrganisation } from '../../scripts/organisation.mjs'
import { openHouse } from '../house'
import { Web } from '../web'

/** One house for the whole run, an organisation whose people can come in, and a small web. */
export default async function start(): Promise<() => Promise<void>> {
  let organisation: Awaited<ReturnType<typeof startOrganisation>> | undefined
  const web = await new Web().open()
  const house = await openHouse({
    demo: true,
    envAt: async url => {
      organisation = await startOrganisation({ app: url })
      return { ...organisation.env, PUBLIC_URL: url, WEB_STAND_IN: web.address }
    },
  })
  process.env.HOUSE = house.url
  return async () => {
    await house.close()
    await organisation?.close()
    web.close()
  }
}

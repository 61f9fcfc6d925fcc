import { principalOf } from '../../../../access/accounts'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { say } from '../../../../talk/door'

/** Bytes of one saying. */
const MOST = 512 * 1024

export default answer(
  OPERATIONS.say,
  async ({ params, body, account }) => {
    const {
      told: { number, at },
    } = await say(params.id, principalOf(account), body)
    return { number, at }
  },
  MOST,
)

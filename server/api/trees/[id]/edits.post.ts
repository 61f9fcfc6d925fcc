import { principalOf } from '../../../access/accounts'
import { LIMITS, upgradeEdit } from '#core/tree'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { submit } from '../../../trees/door'

export default answer(
  OPERATIONS.edit,
  async ({ params, body, account }) => {
    const {
      news: { number, at },
    } = await submit(params.id, principalOf(account), body)
    return { number, at }
  },
  LIMITS.message,
  upgradeEdit,
)

import { OPERATIONS } from '#core/contract'
import { principalOf } from '../../../access/accounts'
import { answer } from '../../../access/answer'
import { merge } from '../../../trees/compare'
import { inTurn } from '../../../trees/in-turn'

/** A file comes again with what is chosen from it. */
const MOST = 24 * 1024 * 1024

export default answer(
  OPERATIONS.mergeTree,
  ({ params, body, account, version, epoch }) =>
    inTurn(account.id, () =>
      merge({ treeId: params.id, version, epoch, person: account.id }, principalOf(account), body.with, body),
    ),
  MOST,
)

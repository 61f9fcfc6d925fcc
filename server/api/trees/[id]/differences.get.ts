import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { differencesBetween } from '../../../trees/history'
import { inTurn } from '../../../trees/in-turn'

export default answer(OPERATIONS.listDifferences, ({ params, query, account, version }) =>
  inTurn(account.id, () => differencesBetween(params.id, query.from, query.to ?? version, version)),
)

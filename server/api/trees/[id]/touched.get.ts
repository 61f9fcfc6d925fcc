import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { touchedByOthers } from '../../../trees/changes'

export default answer(OPERATIONS.touchedByOthers, ({ params, query, account }) =>
  touchedByOthers(params.id, query.since, account.id),
)

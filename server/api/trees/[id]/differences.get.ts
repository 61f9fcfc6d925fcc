import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { differencesBetween } from '../../../trees/history'

export default answer(OPERATIONS.listDifferences, ({ params, query, version }) =>
  differencesBetween(params.id, query.from, query.to ?? version, version),
)

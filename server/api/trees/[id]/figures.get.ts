import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { askFigures } from '../../../figures/asked'

export default answer(OPERATIONS.readFigures, ({ params, query, account, version, epoch }) =>
  askFigures(
    params.id,
    version,
    epoch,
    { kind: 'all', whatIf: query.whatIf ?? null, topic: query.topic ?? null },
    account.id,
    query.moment,
  ),
)

import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { askFigures } from '../../../../figures/asked'

export default answer(OPERATIONS.evaluateFigure, ({ params, body, account, version, epoch }) =>
  askFigures(params.id, version, epoch, { kind: 'try', ...body, whatIf: body.whatIf ?? null }, account.id),
)

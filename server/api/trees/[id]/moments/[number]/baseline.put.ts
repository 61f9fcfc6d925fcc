import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { Fault } from '../../../../../access/fault'
import { nameMoment } from '../../../../../trees/kept-moments'

export default answer(OPERATIONS.keepBaseline, async ({ params, body, account, version }) => {
  if (params.number > version) throw new Fault(404, 'no-moment', 'That moment hasn’t come yet.')
  await nameMoment(params.id, params.number, body.name.trim(), account.id, 'baseline')
})

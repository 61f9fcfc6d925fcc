import { OPERATIONS } from '#core/contract'
import { principalOf } from '../../../../../access/accounts'
import { answer } from '../../../../../access/answer'
import { Fault } from '../../../../../access/fault'
import { moveMeeting } from '../../../../../meetings/move'

export default answer(OPERATIONS.moveMeeting, ({ params, version, body, account }) => {
  if (body.to !== 'item')
    return moveMeeting(params.id, params.topic, principalOf(account), version, { to: body.to }, body.from)
  if (body.item === undefined) throw new Fault(400, 'invalid', 'body.item: to which item?')
  return moveMeeting(params.id, params.topic, principalOf(account), version, { to: 'item', item: body.item }, body.from)
})

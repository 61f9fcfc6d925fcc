import { and, eq } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { Fault } from '../../../../access/fault'
import { ownersOf } from '../../../../access/roles'
import { database } from '../../../../database/connect'
import { members } from '../../../../database/schema'
import { bus } from '../../../../bus'

export default answer(OPERATIONS.setRole, async ({ params, body }) => {
  const owners = await ownersOf(params.id)
  if (body.role !== 'owner' && owners.length === 1 && owners[0] === params.user)
    throw new Fault(409, 'last-owner', 'A tree needs an owner. Make somebody else owner first.')
  const [done] = await database()
    .update(members)
    .set({ role: body.role })
    .where(and(eq(members.treeId, params.id), eq(members.userId, params.user)))
  if (done.affectedRows === 0)
    throw new Fault(404, 'no-member', 'That person has no role in this tree. Invite them first.')
  bus.tell({ about: 'rights', tree: params.id })
})

import { and, eq } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { Fault } from '../../../../access/fault'
import { ownersOf } from '../../../../access/roles'
import { database } from '../../../../database/connect'
import { members } from '../../../../database/schema'
import { bus } from '../../../../bus'

export default answer(OPERATIONS.removeMember, async ({ params, account, role }) => {
  if (params.user !== account.id && role !== 'owner')
    throw new Fault(403, 'role', 'Only owners can take somebody’s role away.')
  const owners = await ownersOf(params.id)
  if (owners.length === 1 && owners[0] === params.user)
    throw new Fault(409, 'last-owner', 'A tree needs an owner. Make somebody else owner first.')
  await database()
    .delete(members)
    .where(and(eq(members.treeId, params.id), eq(members.userId, params.user)))
  bus.tell({ about: 'rights', tree: params.id })
})

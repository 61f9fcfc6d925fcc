import { z } from 'zod'
import { GROUP_LIMITS, groupFields, groupShared } from '../../tree/group'
import { email, idSchema, operation } from '../operation'

const group = z.object({ group: idSchema })

/** What one's own group says; its id is in the path. */
const ownGroup = z.strictObject({
  name: groupFields.name,
  who: z.array(email).max(GROUP_LIMITS.people),
  shared: z.record(idSchema, groupShared).refine(shared => Object.keys(shared).length <= 500, 'has 500 trees at most'),
})
export type OwnGroup = Readonly<z.output<typeof ownGroup>> & { readonly id: string }

/** Groups of people that one keeps for oneself, at hand in every tree. A tree's own groups are edited with it. */
export const GROUPS = {
  listOwnGroups: operation('GET', '/api/groups', 'person', 'One’s own groups of people.'),
  keepOwnGroup: operation(
    'PUT',
    '/api/groups/{group}',
    'person',
    'Keeps a group of one’s own. `shared`: the trees it was let in to, with the role, and who was in it then.',
    { params: group, body: ownGroup },
  ),
  dropOwnGroup: operation('DELETE', '/api/groups/{group}', 'person', 'Forgets a group of one’s own.', {
    params: group,
  }),
} as const

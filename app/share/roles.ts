import type { Role } from '#core/access/roles'

/** What somebody may do in a tree, in words. */
export const ROLES: { readonly value: Role; readonly label: string }[] = [
  { value: 'viewer', label: 'may read' },
  { value: 'commenter', label: 'may comment' },
  { value: 'editor', label: 'may edit' },
  { value: 'owner', label: 'owns it' },
]
/** What an invitation can give. */
export const GIVEN_ROLES = ROLES.filter(({ value }) => value !== 'owner')

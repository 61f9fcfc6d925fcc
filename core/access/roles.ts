/** From least to most. */
export const ROLES = ['viewer', 'commenter', 'editor', 'owner'] as const
export type Role = (typeof ROLES)[number]

/** Whether `role` allows what `needed` allows. */
export function allows(role: Role, needed: Role): boolean {
  return ROLES.indexOf(role) >= ROLES.indexOf(needed)
}

import type { GroupShared } from '#core/tree'

/** Addresses that one request takes. */
const AT_ONCE = 100

/** Invites addresses to a tree, however many; resolves to how many letters went out. Rejects in words. */
export async function inviteTo(tree: string, emails: readonly string[], role: GroupShared['role']): Promise<number> {
  let invited = 0
  for (let i = 0; i < emails.length; i += AT_ONCE)
    invited += (
      await callApi<{ invited: number }>(`/api/trees/${tree}/invitations`, {
        method: 'POST',
        body: { emails: emails.slice(i, i + AT_ONCE), role },
      })
    ).invited
  return invited
}

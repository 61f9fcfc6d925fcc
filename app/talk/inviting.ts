import type { Desk } from '~/desk/desk'

/** A mail address that is named as a person is: nobody in the tree has it, or they would have been named by name. */
const NAMED = /(?:^|\s)@([\w.+-]{1,64}@[a-z0-9-]+(?:\.[a-z0-9-]+)+)/i

/** Who is named by mail address isn't told anything, since they aren't in the tree: whether to invite them is asked. */
export function askToInvite(desk: Desk, said: string): void {
  const email = NAMED.exec(said)?.[1]?.toLowerCase()
  if (!email || desk.session.people.some(person => person.email?.toLowerCase() === email)) return
  if (desk.session.role !== 'owner') {
    desk.say(`${email} isn’t in this tree and isn’t told of it. An owner of the tree can invite them.`)
    return
  }
  desk.say(`${email} isn’t in this tree and isn’t told of it.`, {
    name: 'Invite them to comment',
    run: () => void invite(desk, email),
    holds: () => true,
  })
}

async function invite(desk: Desk, email: string): Promise<void> {
  try {
    const { invited } = await callApi<{ invited: number }>(`/api/trees/${desk.session.treeId}/invitations`, {
      method: 'POST',
      body: { email, role: 'commenter' },
    })
    desk.say(invited > 0 ? `An invitation is on its way to ${email}.` : `${email} is in this tree or invited already.`)
  } catch (error) {
    desk.say((error as Error).message)
  }
}

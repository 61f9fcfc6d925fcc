import { z } from 'zod'
import { idSchema, email, role, tree, operation } from '../operation'

/** Who may do what in a tree: members and invitations. */
export const MEMBERS = {
  listMembers: operation('GET', '/api/trees/{id}/members', 'viewer', 'Who has which role.', { params: tree }),
  setRole: operation(
    'PUT',
    '/api/trees/{id}/members/{user}',
    'owner',
    'Changes somebody’s role. A tree keeps at least one owner.',
    { params: z.object({ id: idSchema, user: idSchema }), body: z.strictObject({ role }) },
  ),
  removeMember: operation(
    'DELETE',
    '/api/trees/{id}/members/{user}',
    'viewer',
    'Takes somebody’s role away (owners), or leaves the tree (oneself).',
    { params: z.object({ id: idSchema, user: idSchema }) },
  ),
  invite: operation(
    'POST',
    '/api/trees/{id}/invitations',
    'owner',
    'Invites people by mail, one or many; whoever has a role already keeps it and gets no letter.',
    {
      params: tree,
      body: z
        .strictObject({
          email: email.optional(),
          emails: z.array(email).max(100).optional(),
          role: z.enum(['viewer', 'commenter', 'editor']),
        })
        .refine(body => body.email !== undefined || (body.emails?.length ?? 0) > 0, 'Give an address.'),
    },
  ),
  listInvitations: operation(
    'GET',
    '/api/trees/{id}/invitations',
    'owner',
    'Invitations that nobody has taken up yet, and who asked.',
    { params: tree },
  ),
  withdrawInvitation: operation(
    'DELETE',
    '/api/trees/{id}/invitations/{invitation}',
    'owner',
    'Withdraws an invitation; its letter leads nowhere from then on.',
    { params: z.object({ id: idSchema, invitation: idSchema }) },
  ),
  accessLog: operation('GET', '/api/trees/{id}/access', 'owner', 'Who was let in or out, and what left the tree.', {
    params: tree,
  }),
  purge: operation(
    'POST',
    '/api/trees/{id}/purge',
    'owner',
    'Takes a text out of the tree, its notes and its whole history, for good.',
    { params: tree, body: z.strictObject({ text: z.string().min(4).max(1000) }) },
  ),
  acceptInvitation: operation('POST', '/api/invitations/{token}', 'person', 'Takes an invitation up.', {
    params: z.object({ token: z.string().min(20).max(100) }),
  }),
} as const

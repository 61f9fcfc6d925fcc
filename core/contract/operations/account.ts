import { z } from 'zod'
import { email, idSchema, name, operation, password, token } from '../operation'

const given = z.string().max(200)
const code = z.string().trim().min(6).max(20)

/** One's account: what only the person at a browser may do, never a script with a token. */
export const ACCOUNT = {
  about: operation(
    'GET',
    '/api/about',
    'nobody',
    'How one gets in here: who may make an account, whether it’s a demo.',
  ),
  organisationBegin: operation(
    'GET',
    '/api/sign-in/organisation',
    'nobody',
    'Sends the browser to the sign-in of the organisation that the settings name (OpenID Connect, authorisation code with PKCE).',
    {
      query: z.object({
        then: z.string().max(2000).optional(),
        /** Asks there who one is although that is known: the last one couldn't come in. */
        again: z.string().max(10).optional(),
      }),
    },
  ),
  organisationBack: operation(
    'GET',
    '/api/sign-in/organisation/back',
    'nobody',
    'Where the organisation sends the browser back to. Signs in, or sends to the sign-in page with a word of what is wrong.',
    { query: z.looseObject({}) },
  ),
  organisationCode: operation(
    'POST',
    '/api/sign-in/organisation/code',
    'nobody',
    'The second factor of an account whose organisation has just said who it is.',
    { body: z.strictObject({ code }) },
  ),
  leaveOrganisation: operation(
    'DELETE',
    '/api/account/organisation',
    'person',
    'The organisation’s sign-in no longer opens this account. Needs a password to come in by.',
  ),
  confirm: operation(
    'POST',
    '/api/account/confirm/{token}',
    'nobody',
    'Confirms a mail address by the link of its letter and the password chosen at sign-up, and signs in.',
    { params: token, body: z.strictObject({ password: given }) },
  ),
  askReset: operation(
    'POST',
    '/api/account/reset',
    'nobody',
    'Writes a letter with which a new password can be set. The answer doesn’t say whether there is such an account.',
    { body: z.strictObject({ email }) },
  ),
  reset: operation(
    'POST',
    '/api/account/reset/{token}',
    'nobody',
    'Sets a new password by the link of a letter. All sessions end.',
    { params: token, body: z.strictObject({ password }) },
  ),
  takeAddress: operation(
    'POST',
    '/api/account/address/{token}',
    'nobody',
    'Takes a new mail address by its letter’s link.',
    { params: token },
  ),
  readAccount: operation('GET', '/api/account', 'person', 'One’s account, its sessions and its access tokens.'),
  changeAccount: operation(
    'PATCH',
    '/api/account',
    'person',
    'Changes one’s name, zone, or how one’s picture is cut.',
    {
      body: z.strictObject({
        name: name.optional(),
        zone: z.string().max(64).nullable().optional(),
        square: z.boolean().optional(),
      }),
    },
  ),
  changePassword: operation('POST', '/api/account/password', 'person', 'Changes the password. Other sessions end.', {
    body: z.strictObject({ password: given, fresh: password }),
  }),
  askAddress: operation(
    'POST',
    '/api/account/address',
    'person',
    'Writes a letter to a new mail address; it counts once its link is opened.',
    { body: z.strictObject({ password: given, email }) },
  ),
  setPicture: operation('PUT', '/api/account/picture', 'person', 'One’s picture: the bytes of an image.'),
  removePicture: operation('DELETE', '/api/account/picture', 'person', 'Takes one’s picture away.'),
  personPicture: operation(
    'GET',
    '/api/people/{user}/picture',
    'person',
    'The picture of somebody one shares a tree with.',
    { params: z.object({ user: idSchema }) },
  ),
  endSession: operation('DELETE', '/api/account/sessions/{session}', 'person', 'Ends one session.', {
    params: z.object({ session: idSchema }),
  }),
  beginSecondFactor: operation(
    'POST',
    '/api/account/second-factor',
    'person',
    'A secret for an authenticator (RFC 6238), which counts once a code of it is given.',
    { body: z.strictObject({ password: given }) },
  ),
  setSecondFactor: operation(
    'PUT',
    '/api/account/second-factor',
    'person',
    'Turns the second factor on. Answers with recovery codes, this once.',
    { body: z.strictObject({ secret: z.string().regex(/^[A-Z2-7]{32}$/), code }) },
  ),
  endSecondFactor: operation('POST', '/api/account/second-factor/end', 'person', 'Turns the second factor off.', {
    body: z.strictObject({ password: given, code }),
  }),
  makeToken: operation(
    'POST',
    '/api/account/tokens',
    'person',
    'Makes an access token for a script; it’s told this once.',
    { body: z.strictObject({ name, scope: z.enum(['read', 'write']), days: z.int().min(1).max(3650).nullable() }) },
  ),
  withdrawToken: operation('DELETE', '/api/account/tokens/{token}', 'person', 'Withdraws an access token.', {
    params: z.object({ token: idSchema }),
  }),
  takeData: operation('GET', '/api/account/data', 'person', 'All that is one’s own, as one JSON file.'),
  farewell: operation(
    'GET',
    '/api/account/farewell',
    'person',
    'What has to be settled before one’s account goes: trees that nobody else owns, and who could.',
  ),
  deleteAccount: operation(
    'POST',
    '/api/account/farewell',
    'person',
    'Deletes the account. Each tree that nobody else owns is handed over or goes to the trash, as said here one by one.',
    {
      body: z.strictObject({ password: given, code: code.optional(), trees: z.record(idSchema, idSchema.nullable()) }),
    },
  ),
  stopLetters: operation(
    'POST',
    '/api/stop/{token}',
    'nobody',
    'No more letters to an address but those about its account (RFC 8058).',
    { params: z.object({ token: z.string().min(20).max(500) }) },
  ),
} as const

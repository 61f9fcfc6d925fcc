/*
 * npm run organisation [PORT]: an organisation's sign-in (OpenID Connect) with made-up people, for trying and for the tests.
 * It stands in for a real one: it knows no passwords and keeps nothing.
 */
import { createServer } from 'node:http'
import { fileURLToPath } from 'node:url'
import Provider from 'oidc-provider'

/** The people of the town's offices. `vouched`: whether the organisation has confirmed their address. */
export const PEOPLE = [
  { id: 'w-3051', name: 'Leonie Achterberg', email: 'leonie.achterberg@town.example', vouched: true },
  { id: 'w-3117', name: 'Tomas Pereira', email: 'tomas.pereira@town.example', vouched: true },
  { id: 'w-3120', name: 'Ida Quist', email: 'ida.quist@town.example', vouched: false },
]

const CLIENT = { id: 'sun-porch', secret: 'a secret of the stand-in, known to everybody' }

const page = (title, body) =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><title>${title}</title><meta name="viewport" content="width=device-width">
<style>body{font:17px system-ui;max-width:26rem;margin:15vh auto;padding:0 1rem}button{font:inherit;display:block;width:100%;margin:.5rem 0;padding:.7rem;text-align:left;cursor:pointer}</style>
<h1>${title}</h1>${body}`

/**
 * Starts one. `app`: the address of the Sun Porch that it sends people back to. Resolves to its address, what the app has
 * to be told (`env`), and `close`.
 */
export async function startOrganisation({ port = 0, app, people = PEOPLE } = {}) {
  const server = createServer()
  await new Promise(done => server.listen(port, '127.0.0.1', done))
  const issuer = `http://127.0.0.1:${server.address().port}`
  const provider = new Provider(issuer, {
    clients: [
      {
        client_id: CLIENT.id,
        client_secret: CLIENT.secret,
        redirect_uris: [new URL('/api/sign-in/organisation/back', app).href],
      },
    ],
    pkce: { required: () => true },
    claims: { openid: ['sub'], email: ['email', 'email_verified'], profile: ['name'] },
    features: { devInteractions: { enabled: false } },
    cookies: { keys: ['only for trying'] },
    interactions: { url: (_, { uid }) => `/people/${uid}` },
    findAccount: (_, id) => {
      const person = people.find(one => one.id === id)
      if (!person) return undefined
      const { name, email, vouched } = person
      return { accountId: id, claims: () => ({ sub: id, name, email, email_verified: vouched }) }
    },
    // Whoever signs in agrees to what the app asks for.
    async loadExistingGrant(ctx) {
      const grant = new ctx.oidc.provider.Grant({
        clientId: ctx.oidc.client.clientId,
        accountId: ctx.oidc.session.accountId,
      })
      grant.addOIDCScope('openid email profile')
      await grant.save()
      return grant
    },
  })
  const answer = provider.callback()
  server.on('request', async (request, response) => {
    if (!/^\/people\//.test(request.url)) return answer(request, response)
    try {
      if (request.method === 'POST') {
        let body = ''
        for await (const piece of request) body += piece
        const id = new URLSearchParams(body).get('id')
        const result = people.some(one => one.id === id)
          ? { login: { accountId: id } }
          : { error: 'access_denied', error_description: 'They turned back' }
        return await provider.interactionFinished(request, response, result)
      }
      await provider.interactionDetails(request, response)
      response.setHeader('content-type', 'text/html; charset=utf-8')
      const choices = people.map(
        ({ id, name, email, vouched }) =>
          `<button name="id" value="${id}">${name}<br><small>${email}${vouched ? '' : ' (not confirmed)'}</small></button>`,
      )
      response.end(
        page(
          'Who are you?',
          `<form method="post">${choices.join('')}<button name="id" value="">Turn back</button></form>`,
        ),
      )
    } catch (error) {
      response.statusCode = 400
      response.end(String(error.message))
    }
  })
  return {
    issuer,
    env: {
      OIDC_ISSUER: issuer,
      OIDC_CLIENT_ID: CLIENT.id,
      OIDC_CLIENT_SECRET: CLIENT.secret,
      OIDC_NAME: 'the town’s offices',
    },
    close: () =>
      new Promise(done => {
        server.close(() => done())
        server.closeAllConnections()
      }),
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const app = process.env.PUBLIC_URL || 'http://localhost:3000'
  const { env } = await startOrganisation({ port: Number(process.argv[2] ?? 3900), app })
  console.log(`An organisation’s sign-in stands in for a real one, for ${app}. Start the app with`)
  for (const [name, value] of Object.entries(env)) console.log(`  ${name}='${value}'`)
}

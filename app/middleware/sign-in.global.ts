import { pathHere } from '#core/contract/path-here'

/** Pages for whoever holds a letter, signed in or not. */
const OUTSIDE = /^\/(?:answer|stop|account\/(?:confirm|address|reset))\//

export default defineNuxtRouteMiddleware(async to => {
  // Guests answer an invitation without an account.
  if (OUTSIDE.test(to.path)) return
  const account = useAccount()
  if (!account.asked || account.ended) await account.load()
  if (!account.me && to.path !== '/sign-in')
    return navigateTo({ path: '/sign-in', query: to.path === '/' ? {} : { then: to.fullPath } })
  if (account.me && to.path === '/sign-in') return navigateTo(pathHere(to.query.then))
})

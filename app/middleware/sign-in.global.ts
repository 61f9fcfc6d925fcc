export default defineNuxtRouteMiddleware(async to => {
  // Guests answer an invitation without an account.
  if (to.path.startsWith('/answer/')) return
  const account = useAccount()
  if (!account.asked) await account.load()
  if (!account.me && to.path !== '/sign-in')
    return navigateTo({ path: '/sign-in', query: to.path === '/' ? {} : { then: to.fullPath } })
  if (account.me && to.path === '/sign-in') return navigateTo('/')
})

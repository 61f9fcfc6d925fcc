/**
 * What hears a live line is found by its address once, when it's opened: the framework looks for it again with every
 * message, which was 7 % of the server's work at an edit.
 */
export default defineNitroPlugin(({ h3App }) => {
  const { resolve, ...options } = h3App.websocket
  if (!resolve) return
  type Opened = Parameters<typeof resolve>[0]
  type Hooks = Awaited<ReturnType<typeof resolve>>
  const known = new WeakMap<Opened, Hooks>()
  Object.defineProperty(h3App, 'websocket', {
    value: {
      ...options,
      resolve(opened: Opened): Hooks | Promise<Hooks> {
        const hooks = known.get(opened)
        if (hooks) return hooks
        return Promise.resolve(resolve(opened)).then(found => {
          known.set(opened, found)
          return found
        })
      },
    },
  })
})

import type { LinkedPage, LinkedPages } from '#core/contract'
import type { Desk } from '~/desk/desk'

/** What the pages behind a tree's links say of themselves, where its owners let them be asked. */
export class Pages {
  readonly on = ref(false)
  readonly known = shallowReactive(new Map<string, LinkedPage>())
  private loaded: Promise<void> | null = null
  private readonly asking = new Map<string, Promise<void>>()
  /** One at a time: whoever moves over many links doesn't ask for all of them at once. */
  private last: Promise<unknown> = Promise.resolve()

  constructor(private readonly base: string) {}

  /** What is kept of them; asked once. Rejects without a line. */
  load(): Promise<void> {
    this.loaded ??= this.refresh().catch((error: unknown) => {
      this.loaded = null
      throw error
    })
    return this.loaded
  }

  async refresh(): Promise<void> {
    const { on, pages } = await callApi<LinkedPages>(`${this.base}/pages`)
    this.on.value = on
    this.known.clear()
    for (const page of pages) this.known.set(page.address, page)
  }

  /** Has a page asked, unless it's known. `wanted`: whether it still matters when its turn comes. */
  look(address: string, wanted: () => boolean = () => true): Promise<void> {
    if (this.known.has(address)) return Promise.resolve()
    let under = this.asking.get(address)
    if (!under) {
      const turn = this.last.then(() => (wanted() ? this.ask(address) : undefined))
      under = turn.finally(() => this.asking.delete(address))
      this.last = under.catch(() => {})
      this.asking.set(address, under)
    }
    return under
  }

  private async ask(address: string): Promise<void> {
    await this.load()
    if (!this.on.value || this.known.has(address)) return
    this.known.set(address, await callApi<LinkedPage>(`${this.base}/pages`, { method: 'POST', body: { address } }))
  }

  async let(on: boolean): Promise<void> {
    await callApi(`${this.base}/pages`, { method: 'PUT', body: { on } })
    await this.refresh()
  }
}

const held = new WeakMap<Desk, Pages>()
export function pagesOf(desk: Desk): Pages {
  let pages = held.get(desk)
  if (!pages) held.set(desk, (pages = new Pages(`/api/trees/${desk.session.treeId}`)))
  return pages
}

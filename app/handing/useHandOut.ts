import {
  type Choice,
  choiceSchema,
  type KeptHandOut,
  type Kind,
  KINDS,
  type Part,
  TAKEN,
  type Taken,
} from '#core/handing/choice'
import { countConditions } from '#core/find/conditions'
import { shorten, topicOf } from '#core/tree'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'
import { CLIPBOARD, makeFile, type MadeFile, saveFile, wantedKind } from './making'

/** Where this browser keeps how somebody handed out last. */
const LAST = 'handed out'
const USUAL: readonly Taken[] = ['notes', 'tasks', 'markers', 'links', 'pictures', 'cross-links', 'numbers']

/** A part that can be handed out just now, in words. */
export interface PartOffered {
  /** By which the choice is known while others work on: what it means may change, which part it is doesn't. */
  readonly key: 'tree' | 'filter' | 'selection' | 'branch' | 'shown' | `view ${string}`
  readonly name: string
  readonly part: Part
}

function last(): Choice {
  const usual = choiceSchema.parse({ as: 'docx', with: [...USUAL] })
  try {
    const kept = choiceSchema.safeParse(JSON.parse(localStorage.getItem(LAST) ?? 'null'))
    // Which part it was is of another day, and a template of its tree.
    return kept.success ? { ...kept.data, part: { kind: 'tree' }, template: null } : usual
  } catch {
    return usual
  }
}

/** One hand-out as it's put together: the choice, what can be chosen, and what is made of it. */
export function useHandOut(desk: Desk) {
  const choice = reactive(last())
  const partKey = ref<PartOffered['key']>('tree')
  const { busy, wrong, attempt } = useAttempt()
  const done = ref('')
  let stop = new AbortController()

  /** What there is to hand out, from where somebody is. */
  const parts = computed<readonly PartOffered[]>(() => {
    void desk.lateTick.value
    const { tree, finding } = desk
    const focus = desk.focus.value
    const selected = [...desk.selection.value]
    const only = desk.only.value
    const query = finding.query.value
    const found = finding.matches.value
    const titled = (id: string): string => `“${shorten(topicOf(tree, id).title || 'untitled', 34)}”`
    const offered: PartOffered[] = [{ key: 'tree', name: 'the whole tree', part: { kind: 'tree' } }]
    if (finding.active && found.length > 0)
      offered.push({
        key: 'filter',
        name: `what the filter leaves (${found.length})`,
        part:
          query && countConditions(query) > 0 && finding.text.value.trim() === '' && finding.marker.value === null
            ? { kind: 'filter', query }
            : { kind: 'topics', topics: [...found], way: true },
      })
    if (selected.length > 1)
      offered.push({
        key: 'selection',
        name: `the ${selected.length} that are selected`,
        part: { kind: 'topics', topics: selected, way: false },
      })
    if (focus !== tree.centre && tree.topics.has(focus))
      offered.push({
        key: 'branch',
        name: `${titled(focus)} and what is below`,
        part: { kind: 'branch', topic: focus },
      })
    if (only !== null && only !== focus && tree.topics.has(only))
      offered.push({ key: 'shown', name: `${titled(only)}, as it’s shown`, part: { kind: 'branch', topic: only } })
    // The view itself, which goes on meaning what it says: a link to it shows what it finds that day.
    for (const { id, name } of tree.fields.views)
      offered.push({ key: `view ${id}`, name: `the view “${shorten(name, 34)}”`, part: { kind: 'view', view: id } })
    return offered
  })
  /** Whoever has filtered or picked something means that. */
  function guess(): void {
    partKey.value = parts.value.find(({ key }) => key === 'filter' || key === 'selection')?.key ?? parts.value[0]!.key
    // Whoever looks at the schedule means that, too.
    choice.shows = desk.view.value === 'schedule' ? 'bars' : 'tree'
  }

  const kind = computed(() => KINDS[choice.as])
  const holds = (what: Taken): boolean => (KINDS[choice.as].holds as readonly Taken[]).includes(what)
  /** The choice as it stands; null when the part that was chosen has gone meanwhile: never another one in its place. */
  function whole(): Choice | null {
    const found = parts.value.find(({ key }) => key === partKey.value)
    if (!found) return null
    // A sheet without figures would be a list.
    const along =
      choice.as === 'xlsx' ? TAKEN.filter(one => one === 'figures' || choice.with.includes(one)) : choice.with
    const shows = desk.tree.fields.planFrom === null ? 'tree' : choice.shows
    return { ...choice, shows, with: [...along], part: found.part }
  }
  function wholeOrSay(): Choice | null {
    const wanted = whole()
    if (!wanted) wrong.value = 'What was chosen isn’t there any more. Choose again.'
    return wanted
  }

  function toggle(what: Taken): void {
    choice.with = choice.with.includes(what)
      ? choice.with.filter(one => one !== what)
      : TAKEN.filter(one => one === what || choice.with.includes(one))
  }

  async function make(wanted: Choice): Promise<MadeFile | null> {
    stop = new AbortController()
    done.value = ''
    let made: MadeFile | null = null
    await attempt(async () => {
      made = await makeFile(desk.session.treeId, wanted, stop.signal).catch((error: Error) => {
        if (error.name === 'AbortError') return null
        throw error
      })
    })
    return made
  }
  async function save(kept?: Choice): Promise<void> {
    const wanted = kept ?? wholeOrSay()
    if (!wanted) return
    localStorage.setItem(LAST, JSON.stringify({ ...wanted, part: { kind: 'tree' } }))
    const made = await make(wanted)
    if (!made) return
    saveFile(made)
    done.value = `“${made.name}” is in your downloads.`
  }
  async function copy(): Promise<void> {
    const wanted = wholeOrSay()
    if (!wanted) return
    const type = CLIPBOARD[wanted.as]!
    // A packed folder can't be pasted: text goes by itself.
    const made = await make(
      wanted.as === 'markdown' ? { ...wanted, with: wanted.with.filter(one => one !== 'files') } : wanted,
    )
    if (!made) return
    await attempt(async () => {
      const blob = new Blob([made.blob], { type })
      const parts: Record<string, Blob> = { [type]: blob }
      if (type === 'text/html') parts['text/plain'] = new Blob([await plainText(made.blob)], { type: 'text/plain' })
      await navigator.clipboard.write([new ClipboardItem(parts)]).catch(() => {
        throw new Error('This browser doesn’t let the page write to the clipboard. Save the file instead.')
      })
      done.value = `${kind.value.name} is on the clipboard.`
    })
  }

  // — Kept under a name
  const kept = computed<readonly KeptHandOut[]>(() => {
    void desk.lateTick.value
    return desk.tree.fields.handOuts
  })
  function keep(name: string): void {
    const said = name.trim().toWellFormed().slice(0, 120)
    const wanted = wholeOrSay()
    if (said === '' || !wanted || !desk.guard()) return
    // What is kept is done again by everybody of the tree, and they don't have a template of one's own.
    if (wanted.template !== null && !desk.tree.fields.templates.some(({ id }) => id === wanted.template)) {
      wrong.value =
        'A template for you alone isn’t there for the others of this tree. Bring it into the tree, then keep this.'
      return
    }
    const same = kept.value.find(one => one.name === said)
    desk.run({
      changes: [{ op: 'tree-put', set: 'handOuts', member: { id: same?.id ?? newId(), name: said, choice: wanted } }],
    })
  }
  function forget(id: string): void {
    if (desk.guard()) desk.run({ changes: [{ op: 'tree-take', set: 'handOuts', member: id }] })
  }

  return {
    choice,
    parts,
    partKey,
    guess,
    kind,
    holds,
    toggle,
    whole,
    wholeOrSay,
    make,
    busy,
    wrong,
    done,
    save,
    copy,
    cancel: () => stop.abort(),
    kept,
    keep,
    forget,
    /** Takes over the kind that was asked for by name. */
    takeWanted(): void {
      const wanted: Kind | null = wantedKind.value
      wantedKind.value = null
      if (wanted) choice.as = wanted
    },
  }
}

/** The words of a page, for what takes no more. */
async function plainText(page: Blob): Promise<string> {
  const parsed = new DOMParser().parseFromString(await page.text(), 'text/html')
  return Array.from(parsed.querySelectorAll('h1, h2, h3, h4, h5, h6, p, li, td, th, pre'), one =>
    one.textContent.trim(),
  )
    .filter(Boolean)
    .join('\n')
}

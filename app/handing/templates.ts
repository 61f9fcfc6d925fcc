import { type KeptTemplate, MOST_TEMPLATES } from '#core/handing/choice'
import type { TemplateSaid } from '#core/handing/template'
import type { Desk } from '~/desk/desk'
import { newId } from '~/desk/new-id'
import { plainName } from '~/files/uploads'
import { forgottenWith } from '~/session/forgetting'

/** Brings a Word document, or slides, in as a template of the tree, in place of one of its name. Throws with words to be shown; then nothing was changed. */
export async function bringTemplate(desk: Desk, file: File): Promise<KeptTemplate> {
  const name = plainName(file.name)
  const stem = name.replace(/\.(?:docx|dotx|pptx|potx)$/i, '').slice(0, 120) || 'Template'
  const named = () => desk.tree.fields.templates.find(one => one.name === stem)
  // Said before it travels.
  if (!named() && desk.tree.fields.templates.length >= MOST_TEMPLATES)
    throw new Error(`A tree keeps ${MOST_TEMPLATES} templates at most. Forget one of them first.`)
  const { file: hash } = await callApi<{ file: string }>(
    `/api/trees/${desk.session.treeId}/attachments?name=${encodeURIComponent(name)}`,
    { method: 'POST', body: file, headers: { 'content-type': 'application/octet-stream' } },
  )
  // Read before it's kept: what can't be filled in isn't offered to anybody.
  const { theme } = await saidOf(desk, hash)
  const member = { id: named()?.id ?? newId(), name: stem, file: hash, ...(theme ? { kind: 'pptx' as const } : {}) }
  if (!desk.run({ changes: [{ op: 'tree-put', set: 'templates', member }] })) throw new Error('It couldn’t be kept.')
  return member
}

/** Templates of one's own, which are at hand in every tree. Asked for once; kept up as they come and go. */
const own = ref<readonly KeptTemplate[] | null>(null)
forgottenWith(() => {
  own.value = null
})
export function useOwnTemplates() {
  async function look(): Promise<void> {
    own.value = await callApi<KeptTemplate[]>('/api/templates').catch(() => own.value)
  }
  return {
    own: computed(() => own.value ?? []),
    look,
    /** Keeps a Word document, or slides, as one's own, in place of one of its name. Throws with words to be shown; then nothing was changed. */
    async bring(file: File): Promise<KeptTemplate> {
      const name =
        plainName(file.name)
          .replace(/\.(?:docx|dotx|pptx|potx)$/i, '')
          .slice(0, 120) || 'Template'
      const { said, ...kept } = await callApi<KeptTemplate & { said: TemplateSaid }>(
        `/api/templates?name=${encodeURIComponent(name)}`,
        { method: 'POST', body: file, headers: { 'content-type': 'application/octet-stream' } },
      )
      read.set(kept.file, said)
      await look()
      return kept
    },
    async forget(id: string): Promise<void> {
      await callApi(`/api/templates/${id}`, { method: 'DELETE' })
      await look()
    },
    async saidOf({ id, file }: KeptTemplate): Promise<TemplateSaid> {
      const said = read.get(file) ?? (await callApi<TemplateSaid>(`/api/templates/${id}`))
      read.set(file, said)
      return said
    },
  }
}

/** What files hold as templates, by hash: a file is the same for ever. */
const read = new Map<string, TemplateSaid>()

/** What a file of the tree holds and lacks as a template. Throws an `ApiError` whose words can be shown. */
export async function saidOf(desk: Desk, file: string): Promise<TemplateSaid> {
  const said = read.get(file) ?? (await callApi<TemplateSaid>(`/api/trees/${desk.session.treeId}/templates/${file}`))
  read.set(file, said)
  return said
}

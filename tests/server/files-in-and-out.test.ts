import { describe, expect, inject, it } from 'vitest'
import { Caller, signUp } from '../caller'

const url = inject('url')

describe('files', () => {
  it('an outline comes in as a tree and goes out in each format', async () => {
    const ines = await signUp(url)
    const { data } = await ines.call<{ id: string }>('POST', '/api/trees/import', {
      format: 'markdown',
      name: 'move.md',
      text: '# Move\n\n- Fit-out\n  - [x] Shelving\n- Books',
    })
    const { snapshot } = await ines.open(data.id)
    expect(snapshot.topics.map(topic => topic.title)).toEqual(['Move', 'Fit-out', 'Shelving', 'Books'])
    for (const [format, type, part] of [
      ['markdown', 'text/markdown', '* [x] Shelving'],
      ['opml', 'text/x-opml', '<outline text="Books"'],
      ['text', 'text/plain', '\tFit-out\n\t\tShelving'],
      ['json', 'application/json', '"sun-porch-tree"'],
    ] as const) {
      const out = await ines.call<unknown>('GET', `/api/trees/${data.id}/export/${format}`)
      expect(out.headers.get('content-type')).toContain(type)
      expect(out.headers.get('content-disposition')).toContain('attachment')
      expect(typeof out.data === 'string' ? out.data : JSON.stringify(out.data)).toContain(
        part.replace('* [x]', '- [x]'),
      )
    }
    const json = (await ines.call<object>('GET', `/api/trees/${data.id}/export/json`)).data
    const copy = await ines.call<{ id: string }>('POST', '/api/trees/import', {
      format: 'json',
      name: 'x.json',
      text: JSON.stringify(json),
    })
    expect(copy).toMatchObject({ status: 200 })
    expect((await ines.open(copy.data.id)).snapshot).toEqual(snapshot)
  })

  it('a file that can’t be read makes no tree', async () => {
    const ines = await signUp(url)
    for (const [format, text] of [
      ['json', '{'],
      ['opml', '<!DOCTYPE x><opml/>'],
      ['markdown', '>'.repeat(5000)],
      ['text', '   \n '],
      ['html', '<p>no list</p>'],
    ])
      expect(await ines.refusal('POST', '/api/trees/import', { format, name: 'x', text })).toBe('422 unreadable')
    expect((await ines.call('GET', '/api/trees')).data).toEqual([])
  })

  it('the demo is there for its four people', async () => {
    const ines = new Caller(url)
    await ines.call('POST', '/api/sign-in', { email: 'ines@porch.example', password: 'tannery porch 2027' })
    const { data } = await ines.call<{ title: string; topicCount: number }[]>('GET', '/api/trees')
    expect(data.map(tree => tree.title).sort()).toEqual([
      'Coordination meetings',
      'Move to the tannery',
      'Training day plan',
    ])
    expect((await ines.call<{ tasks: unknown[] }>('GET', '/api/home')).data.tasks.length).toBeGreaterThan(5)
  })
})

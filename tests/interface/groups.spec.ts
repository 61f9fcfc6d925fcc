import { signUp } from '../caller'
import { expect, houseUrl, openTree, pour, test, topic, two } from './porch'
import { seriousViolations } from './accessibility'
import { staged } from './meeting-stage'

test('a group of people is let in, given something, found by, and offered again when it changes', async ({
  browser,
}) => {
  const { ines, rana, id } = await two(browser)
  const { page } = ines
  const oskar = await signUp(houseUrl(), 'Oskar Lind')
  await openTree(page, id)
  await openTree(rana.page, id)
  await pour(page, ['Shelves', 'Crates'])

  // Made of somebody who is in the tree, and of somebody who isn't yet.
  await page.getByRole('button', { name: 'Share' }).click()
  const share = page.getByRole('dialog', { name: 'Share' })
  const part = share.getByRole('region', { name: 'Groups' })
  await part.getByRole('button', { name: 'New group' }).click()
  await page.keyboard.type('Volunteers')
  const editor = part.getByRole('form', { name: 'New group' })
  await editor.getByRole('button', { name: 'Rana Tahiri' }).click()
  await editor.getByLabel('Mail addresses of others').fill(`${oskar.email}, not an address`)
  await page.keyboard.press('Enter')
  await expect(editor.getByRole('alert')).toContainText('“not”')
  await editor.getByLabel('Mail addresses of others').fill('')
  await page.keyboard.press('Enter')
  const row = part.getByRole('listitem').filter({ hasText: 'Volunteers' })
  await expect(row).toContainText('2 people, 1 of them in this tree')
  expect(await seriousViolations(page)).toEqual([])

  // One press lets in whoever is missing.
  await row.getByRole('button', { name: 'Let Volunteers in: they may edit' }).click()
  await expect(share.getByRole('list', { name: 'Pending invitations' })).toContainText(oskar.email)
  const { data: letters } = await oskar.call<{ link: string }[]>('GET', '/api/letters')
  await oskar.call('POST', `/api/invitations/${letters[0]!.link.split('/').at(-1)}`)
  await expect(row).toContainText('2 people')
  await expect(row).not.toContainText('in this tree')

  // Somebody new in the group is offered to be asked, somebody who left it to lose their role.
  await row.getByRole('button', { name: 'Change the group Volunteers' }).click()
  const change = part.getByRole('form', { name: 'The group Volunteers' })
  await change.getByRole('button', { name: 'Oskar Lind' }).click()
  await change.getByLabel('Mail addresses of others').fill('ida@town.example')
  await change.getByRole('button', { name: 'Keep' }).click()
  await expect(row).toContainText('New in Volunteers: ida@town.example, to be invited; they may edit.')
  await expect(row).toContainText('No longer in it: Oskar Lind, to lose their role.')
  await row.getByRole('button', { name: 'Do so' }).click()
  await expect(share.getByRole('list', { name: 'Pending invitations' })).toContainText('ida@town.example')
  await expect(share.getByText(oskar.email)).toHaveCount(0)
  await expect(row.getByRole('button', { name: 'Do so' })).toHaveCount(0)

  // One's own: at hand in every tree, and nobody else's.
  await part.getByRole('button', { name: 'New group' }).click()
  await page.keyboard.type('Board')
  await editor.getByRole('button', { name: 'Ines Brandt' }).click()
  await editor.getByRole('button', { name: 'Rana Tahiri' }).click()
  await editor.getByText('Mine, for all my trees').click()
  await editor.getByRole('button', { name: 'Keep' }).click()
  await expect(part.getByRole('listitem').filter({ hasText: 'Board' })).toContainText('2 people, yours')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('tree')).toBeFocused()

  // Given something together, in one edit.
  await topic(page, /^Shelves/).click()
  const sheet = page.getByRole('complementary', { name: 'About the selection' })
  await sheet.getByRole('button', { name: 'Add a person' }).click()
  await page.getByRole('button', { name: 'Everybody in Board' }).click()
  await expect(topic(rana.page, /^Shelves/)).toContainText('IB RT')
  await page.getByRole('tree').focus()
  await page.keyboard.press('Control+z')
  await expect(topic(rana.page, /^Shelves/)).not.toContainText('IB')
  await sheet.getByRole('button', { name: 'Add a person' }).click()
  await page.getByRole('button', { name: 'Everybody in Volunteers' }).click()
  await expect(topic(rana.page, /^Shelves/)).toContainText('RT')

  // Found by: the other one sees what the tree's group has, and of the board that it isn't theirs.
  await page.getByRole('tree').focus()
  await page.keyboard.press('Control+Shift+f')
  await page.keyboard.press('Shift+Q')
  const filter = page.getByRole('complementary', { name: 'Filter and views' })
  await filter.getByRole('combobox', { name: 'Add a condition' }).selectOption({ label: 'Group of people' })
  await filter.getByRole('combobox', { name: 'Group of people' }).selectOption({ label: 'Volunteers' })
  await expect(filter).toContainText('of somebody in Volunteers')
  await expect(topic(page, /^Crates/)).toHaveClass(/dim/)
  await expect(topic(page, /^Shelves/)).not.toHaveClass(/dim/)
})

test('one’s own group is asked to a meeting at once, and keeps other trees in step', async ({ browser }) => {
  const { ines, id } = await staged(browser)
  const { page, caller } = ines
  const { data: other } = await caller.call<{ id: string }>('POST', '/api/trees', { title: 'Opening day' })
  await caller.call('PUT', '/api/groups/board', {
    name: 'Board',
    who: [caller.email, 'ida@town.example', 'tomas@town.example'],
    shared: { [other.id]: { role: 'viewer', who: [caller.email, 'ida@town.example'] } },
  })
  await page.goto(`${houseUrl()}/trees/${id}?topic=m&view=meeting`)
  const people = page.locator('.people')
  await people.getByRole('button', { name: 'Ask Board, 2 who aren’t asked yet' }).click()
  for (const mail of ['ida@town.example', 'tomas@town.example'])
    await expect(people.getByRole('listitem').filter({ hasText: mail })).toHaveCount(1)
  await expect(people.getByRole('button', { name: /^Ask Board/ })).toHaveCount(0)
  expect((await caller.open(id)).snapshot.topics.find(one => one.id === 'm')!.meeting).toHaveLength(9)

  await page.getByRole('button', { name: 'Share' }).click()
  const part = page.getByRole('dialog', { name: 'Share' }).getByRole('region', { name: 'Groups' })
  await part.getByRole('button', { name: 'Invite the new ones to 1 other tree of Board as well' }).click()
  await expect(part.getByRole('button', { name: /^Invite the new ones/ })).toHaveCount(0)
  const { data: asked } = await caller.call<{ email: string; role: string }[]>(
    'GET',
    `/api/trees/${other.id}/invitations`,
  )
  expect(asked).toMatchObject([{ email: 'tomas@town.example', role: 'viewer' }])
})

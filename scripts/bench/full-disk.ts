import { spawnSync } from 'node:child_process'
import { mkdtempSync, openSync, rmdirSync, rmSync, statfsSync, writeSync, closeSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { openHouse } from '../../tests/house'
import { newId, signUp } from '../../tests/caller'

/*
 * A disk that is really full: the database lies on a small file system of its own (a tmpfs, which takes root on Linux), that is filled
 * to the last byte while somebody writes. What is acknowledged must be there, what isn't must say why, reading goes on, and writing
 * too, by itself, once there is room.
 */

const MB = 1024 * 1024
const disk = mkdtempSync(join(tmpdir(), 'sun-porch-disk-'))
if (spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=400m', 'tmpfs', disk]).status !== 0) {
  console.log('A small file system can’t be mounted here; this takes root on Linux.')
  rmdirSync(disk)
  process.exit(0)
}
process.env.TMPDIR = disk
const FLOOR_MB = 40

/** Fills the disk but for some MB, or to the last byte. Returns what makes room again. */
function fill(leave: number): () => void {
  const path = join(disk, 'filler')
  const file = openSync(path, 'w')
  const { bavail, bsize } = statfsSync(disk)
  for (const size of leave > 0 ? [MB] : [MB, 4096, 1])
    try {
      for (let left = leave > 0 ? Math.floor((bavail * bsize) / MB) - leave : Infinity; left > 0; left--)
        writeSync(file, Buffer.alloc(size, 1))
    } catch {
      // Full for pieces of this size.
    }
  closeSync(file)
  return () => rmSync(path)
}

const pause = (ms: number): Promise<void> => new Promise(done => setTimeout(done, ms))
const house = await openHouse({ env: { DATA_DIR: disk, DISK_FLOOR_MB: String(FLOOR_MB) } })
let bad = 0
const check = (what: string, holds: boolean, said = ''): void => {
  console.log(`${holds ? 'holds' : 'FAILS'}  ${what}${said ? ` (${said})` : ''}`)
  if (!holds) bad++
}
try {
  const ines = await signUp(house.url)
  const tree = await ines.makeTree()
  const { centre } = (await ines.open(tree)).snapshot
  const acknowledged = new Set<string>()
  const text = 'x'.repeat(9000)
  /** Writes once; 'stored', or why not. Gives up asking after ten seconds. */
  const write = async (): Promise<string> => {
    const topic = newId()
    const answer = await Promise.race([
      ines
        .call<{ error?: { code: string } }>('POST', `/api/trees/${tree}/edits`, {
          id: newId(),
          changes: [{ op: 'add', topic, parent: centre, order: 'a0', with: { title: text } }],
        })
        .catch((error: unknown) => ({ status: 0, data: { error: { code: String(error) } } })),
      pause(10_000).then(() => ({ status: 0, data: { error: { code: 'no answer in 10 s' } } })),
    ])
    if (answer.status === 200) {
      acknowledged.add(topic)
      return 'stored'
    }
    return answer.data.error?.code ?? `status ${answer.status}`
  }
  for (let i = 0; i < 20; i++) await write()
  for (const leave of [FLOOR_MB - 10, 0]) {
    console.log(leave > 0 ? `${leave} MB left, the floor is ${FLOOR_MB} MB` : 'filled to the last byte')
    const makeRoom = fill(leave)
    const answers: Record<string, number> = {}
    for (const began = Date.now(); Date.now() - began < 20_000; await pause(20)) {
      const answer = await write()
      answers[answer] = (answers[answer] ?? 0) + 1
    }
    check(
      'writes on a full disk are refused with the reason',
      Object.keys(answers).every(one => one === 'disk-full' || one === 'stored') && (answers['disk-full'] ?? 0) > 100,
      JSON.stringify(answers),
    )
    const read = await ines.open(tree).catch(() => null)
    check('reading goes on', read?.snapshot !== undefined)
    makeRoom()
    const began = Date.now()
    let after = ''
    while (Date.now() - began < 60_000 && (after = await write()) !== 'stored') await pause(200)
    check('writing goes on by itself when there is room', after === 'stored', `after ${Date.now() - began} ms`)
  }
  await house.killDatabase()
  await house.startDatabaseAgain()
  for (let i = 0; i < 100 && !(await ines.open(tree).catch(() => null)); i++) await pause(200)
  const kept = new Set((await ines.open(tree)).snapshot.topics.map(({ id }) => id))
  const lost = [...acknowledged].filter(id => !kept.has(id))
  check(`nothing acknowledged is lost, of ${acknowledged.size}, through a restart of the database`, lost.length === 0)
} finally {
  await house.close()
  process.chdir('/')
  spawnSync('umount', ['-l', disk])
  rmdirSync(disk)
}
process.exitCode = bad > 0 ? 1 : 0

import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { root } from '../../scripts/machine.mjs'

/* `npm start` as somebody runs it, on the build that is there. */

const folders: string[] = []
const running: ChildProcess[] = []
/** Ends all that was started and takes the folders away. */
export async function endRuns(): Promise<void> {
  for (const child of running) {
    if (child.exitCode !== null || child.signalCode !== null) continue
    child.kill('SIGTERM')
    await new Promise(done => child.once('exit', done))
  }
  for (const folder of folders) rmSync(folder, { recursive: true, force: true })
}

export function folder(): string {
  const made = mkdtempSync(join(tmpdir(), 'sun-porch-start-'))
  folders.push(made)
  return made
}

export interface Run {
  readonly child: ChildProcess
  said(): string
  until(words: RegExp): Promise<void>
  ended: Promise<number | null>
}

export function start(env: Record<string, string>): Run {
  const child = spawn(process.execPath, [join(root, 'scripts', 'start.mjs')], {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  running.push(child)
  let said = ''
  const ended = new Promise<number | null>(done => child.on('exit', done))
  const looks = new Set<() => void>()
  const hear = (piece: Buffer): void => {
    said += piece.toString()
    for (const look of looks) look()
  }
  child.stdout.on('data', hear)
  child.stderr.on('data', hear)
  return {
    child,
    ended,
    said: () => said,
    until: words =>
      new Promise((done, reject) => {
        const look = (): void => {
          if (!words.test(said)) return
          looks.delete(look)
          done()
        }
        looks.add(look)
        void ended.then(() => (words.test(said) ? done() : reject(new Error(`ended without ${words}: ${said}`))))
        look()
      }),
  }
}

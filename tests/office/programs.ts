import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/* The programs of an office that files of ours are opened with. */

/** A folder of a test's own. */
export const folder = (): string => mkdtempSync(join(tmpdir(), 'sun-porch-office-'))

/**
 * A file as LibreOffice makes it of another, read from disk as its users would. `to`: its own name of a format, with the filter's
 * options. Throws what it says when nothing comes of it.
 */
export function converted(bytes: Uint8Array, extension: string, to: string): Buffer {
  const at = folder()
  const file = join(at, `handed.${extension}`)
  writeFileSync(file, bytes)
  const out = join(at, 'out')
  const said = execFileSync(
    'soffice',
    [`-env:UserInstallation=file://${join(at, 'profile')}`, '--headless', '--convert-to', to, '--outdir', out, file],
    { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'], timeout: 180_000 },
  )
  const [made] = readdirSync(out)
  if (!made) throw new Error(`LibreOffice made nothing: ${said}`)
  return readFileSync(join(out, made))
}

/** The words of a file, by way of a PDF that LibreOffice prints of it. */
export function printed(bytes: Uint8Array, extension: string): string {
  return pdfText(converted(bytes, extension, 'pdf'))
}

export function pdfText(bytes: Uint8Array): string {
  const file = join(folder(), 'printed.pdf')
  writeFileSync(file, bytes)
  return execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' })
}

/** What a program says of a file; its words when it ends with an error. */
export function told(program: string, args: readonly string[], bytes: Uint8Array, name: string): string {
  const file = join(folder(), name)
  writeFileSync(file, bytes)
  return execFileSync(program, [...args, file], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] })
}

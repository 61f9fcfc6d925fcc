import { SaxesParser } from 'saxes'

/*
 * Parts of a package in XML (ISO/IEC 29500-2), as readers of documents and slides ask for them. XML that declares entities is none that an
 * office program writes, and may unfold without end: it's refused before it's parsed.
 */

export type Parts = Readonly<Record<string, Uint8Array>>
/** What a reader hears of a part. */
export interface Hearing {
  readonly open?: (name: string, attributes: Readonly<Record<string, string>>) => void
  readonly text?: (said: string) => void
  readonly close?: (name: string) => void
}

/** Parses a part's text. Throws what `broken` makes when it isn't well-formed. */
export function hearXml(xml: string, on: Hearing, broken: () => Error): void {
  const parser = new SaxesParser()
  let wrong = false
  parser.on('error', () => {
    wrong = true
  })
  parser.on('opentag', ({ name, attributes }) => on.open?.(name, attributes as Record<string, string>))
  parser.on('text', said => on.text?.(said))
  parser.on('closetag', ({ name }) => on.close?.(name))
  parser.write(xml).close()
  if (wrong) throw broken()
}

/** A part as text. Throws what `broken` makes where it's missing, isn't UTF-8 or declares entities. */
export function xmlOf(parts: Parts, name: string, broken: () => Error): string {
  let text: string
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(parts[name]!)
  } catch {
    throw broken()
  }
  if (text === '' || /<!DOCTYPE/i.test(text)) throw broken()
  return text
}

/** Where a part's relations lead: names of parts by the relation's id, with its type. What leads out of the file isn't followed. */
export function relationsOf(
  parts: Parts,
  part: string,
  broken: () => Error,
): ReadonlyMap<string, { readonly target: string; readonly type: string }> {
  const at = part.lastIndexOf('/')
  const [folder, file] = [part.slice(0, at), part.slice(at + 1)]
  const found = new Map<string, { target: string; type: string }>()
  const name = `${folder}/_rels/${file}.rels`
  if (!parts[name]) return found
  const open: Hearing['open'] = (tag, { Id, Type = '', Target, TargetMode }) => {
    if (tag !== 'Relationship' || !Id || !Target || TargetMode === 'External') return
    const steps = Target.startsWith('/') ? [] : folder.split('/')
    for (const step of Target.split('/'))
      if (step === '..') steps.pop()
      else if (step !== '.' && step !== '') steps.push(step)
    found.set(Id, { target: steps.join('/'), type: Type })
  }
  hearXml(xmlOf(parts, name, broken), { open }, broken)
  return found
}

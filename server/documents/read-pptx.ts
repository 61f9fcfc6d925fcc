import { Unreadable } from '#core/capture/nested'
import type { FileContents, ShownPicture, Slide } from '#core/formats/contents'
import { type Hearing, hearXml, type Parts, relationsOf, xmlOf } from './office-xml'
import { ShownPictures } from './shown-picture'
import { unpack } from './unpack'

/*
 * Slides (ISO/IEC 29500, PresentationML) as their words and pictures, in the order in which they're shown. Runs in a thread.
 */

const MOST_SLIDES = 500
const MOST_LINES = 400
const WANTED =
  /^ppt\/(?:presentation\.xml|_rels\/presentation\.xml\.rels|(?:slides|notesSlides)\/[\w-]+\.xml|(?:slides|notesSlides)\/_rels\/[\w-]+\.xml\.rels|media\/[\w.-]+)$/

const broken = (): Unreadable => new Unreadable('These slides can’t be read. Save them anew as .pptx.')

export async function readPptx(bytes: Uint8Array): Promise<Extract<FileContents, { kind: 'slides' }>> {
  const { parts, names } = unpack(bytes, name => WANTED.test(name))
  const left: string[] = []
  if (names.some(name => /vbaProject\.bin$/i.test(name))) left.push('Its macros were left out.')
  const targets = relationsOf(parts, 'ppt/presentation.xml', broken)
  const order: string[] = []
  const open = (name: string, attributes: Readonly<Record<string, string>>): void => {
    const target = name === 'p:sldId' ? targets.get(attributes['r:id'] ?? '')?.target : undefined
    if (target && parts[target]) order.push(target)
  }
  hearXml(xmlOf(parts, 'ppt/presentation.xml', broken), { open }, broken)
  if (order.length > MOST_SLIDES) left.push(`Only the first ${MOST_SLIDES} slides are shown.`)
  const pictures = new ShownPictures()
  const slides: Slide[] = []
  for (const part of order.slice(0, MOST_SLIDES)) slides.push(await slideOf(parts, part, pictures))
  return { kind: 'slides', slides, left: [...left, ...pictures.said()] }
}

async function slideOf(parts: Parts, part: string, pictures: ShownPictures): Promise<Slide> {
  const { paragraphs, shown } = wordsOf(xmlOf(parts, part, broken))
  const targets = relationsOf(parts, part, broken)
  const drawn: ShownPicture[] = []
  for (const { relation, words } of shown) {
    const data = parts[targets.get(relation)?.target ?? '']
    const picture = data ? await pictures.draw(data, words) : null
    if (picture) drawn.push(picture)
  }
  const notesPart = [...targets.values()].find(({ target }) => target.startsWith('ppt/notesSlides/'))?.target
  const notes =
    notesPart && parts[notesPart]
      ? wordsOf(xmlOf(parts, notesPart, broken))
          .paragraphs.filter(({ holder }) => holder === 'body')
          .map(({ text }) => text)
          .join('\n')
      : ''
  const isTitle = ({ holder }: { readonly holder: string }): boolean => holder === 'title' || holder === 'ctrTitle'
  return {
    title: paragraphs
      .filter(isTitle)
      .map(({ text }) => text)
      .join(' '),
    lines: paragraphs
      .filter(one => !isTitle(one) && !['sldNum', 'dt', 'ftr'].includes(one.holder))
      .slice(0, MOST_LINES)
      .map(({ text, level }) => ({ text, level })),
    pictures: drawn,
    notes,
  }
}

interface Paragraph {
  readonly text: string
  readonly level: number
  /** The kind of place it stands in: `title`, `body`, …; '' for any other. */
  readonly holder: string
}
/** Paragraphs of a slide, and which pictures it shows, by their relations. */
function wordsOf(xml: string): {
  paragraphs: Paragraph[]
  shown: { readonly relation: string; readonly words: string }[]
} {
  const paragraphs: Paragraph[] = []
  const shown: { relation: string; words: string }[] = []
  let [holder, text, level, inText, inPicture, alt] = ['', '', 0, false, false, '']
  const hearing: Hearing = {
    open: (name, attributes) => {
      if (name === 'p:sp') holder = ''
      else if (name === 'p:ph') holder = attributes.type ?? 'body'
      else if (name === 'p:pic') inPicture = true
      else if (name === 'p:cNvPr' && inPicture) alt = (attributes.descr ?? '').slice(0, 300)
      else if (name === 'a:blip' && attributes['r:embed']) shown.push({ relation: attributes['r:embed'], words: alt })
      else if (name === 'a:p') [text, level] = ['', 0]
      else if (name === 'a:pPr') level = Math.min(8, Math.max(0, Number(attributes.lvl ?? 0) || 0))
      else if (name === 'a:t') inText = true
      else if (name === 'a:br') text += '\n'
    },
    text: said => {
      if (inText) text += said
    },
    close: name => {
      if (name === 'a:t') inText = false
      else if (name === 'p:pic') [inPicture, alt] = [false, '']
      else if (name === 'p:sp') holder = ''
      else if (name === 'a:p' && text.trim() !== '') paragraphs.push({ text: text.trim(), level, holder })
    },
  }
  hearXml(xml, hearing, broken)
  return { paragraphs, shown }
}

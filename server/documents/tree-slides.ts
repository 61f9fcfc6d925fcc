import PptxGenJS from 'pptxgenjs'
import { noteWords } from '#core/tree'
import { Dressing } from '#core/dress/dressing'
import type { Cut } from '#core/handing/cut'
import type { HandedTopic } from '#core/handing/handed'
import { Telling } from '#core/handing/telling'
import type { PagePicture } from './handed-pictures'
import type { SlidesAsked } from './document-asked'

/*
 * A part of a tree as slides (ISO/IEC 29500, PresentationML): one for each section with what stands below it, in the colours of the tree's look or of a theme of one's own;
 * what is too long goes on to the next; notes are for whoever speaks.
 */

/** Inches of a slide, 16 to 9. */
const WIDE = 13.333
const TALL = 7.5
const MARGIN = 0.7
/** Lines of text that a slide holds at a size that is read from the last row, and letters in one of them. */
const MOST_LINES = 11
const LINE_LETTERS = 68
/** Levels that become slides of their own. */
const SECTION_LEVELS = 2

interface Line {
  readonly text: string
  readonly level: number
  readonly small: boolean
  /** BCP 47; null where nobody said. */
  readonly language?: string | null
}
/** What small print takes of a line. */
const SMALL = 0.7
const linesTaken = ({ text, level, small }: Line): number =>
  Math.max(1, Math.ceil((text.length * (small ? SMALL : 1)) / (LINE_LETTERS - level * 5))) * (small ? SMALL : 1)

/** Lines parted into slides: what is said of a topic in small print stays under it. */
function pagesOf(lines: readonly Line[]): Line[][] {
  const pages: Line[][] = [[]]
  let taken = 0
  for (let i = 0; i < lines.length;) {
    let to = i + 1
    while (to < lines.length && lines[to]!.small) to++
    const together = lines.slice(i, to)
    const takes = together.reduce((sum, line) => sum + linesTaken(line), 0)
    if (taken + takes > MOST_LINES && pages.at(-1)!.length > 0) {
      pages.push([])
      taken = 0
    }
    pages.at(-1)!.push(...together)
    taken += takes
    i = to
  }
  return pages
}

const clean = (text: string): string =>
  // eslint-disable-next-line no-control-regex -- these are what XML refuses (XML 1.0, section 2.2)
  text.toWellFormed().replace(/[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g, '')
const bare = (colour: string): string => colour.replace('#', '').toUpperCase()

export async function treeAsSlides(asked: SlidesAsked, cut: Cut): Promise<Buffer> {
  const telling = new Telling(asked.choice)
  const { words } = telling
  const { root, deeper } = asked.handed
  const dressing = new Dressing(
    () => cut.tree,
    () => asked.choice.dusk,
  )
  dressing.refresh()
  const { wear } = dressing
  const theme = asked.theme ?? {
    ...{ ground: wear.page, ink: wear.ink, cover: wear.centre, onCover: wear.onCentre },
    ...{ hues: null, heading: 'Calibri', body: 'Calibri' },
  }
  const deck = new PptxGenJS()
  deck.layout = 'LAYOUT_WIDE'
  deck.title = clean(root.title)
  deck.author = clean(asked.author || 'Sun Porch')
  deck.company = ''
  deck.theme = { headFontFace: theme.heading ?? 'Calibri', bodyFontFace: theme.body ?? 'Calibri' }

  const sheet = (title: string, hue: string) => {
    const slide = deck.addSlide()
    slide.background = { color: bare(theme.ground) }
    slide.addShape('rect', { x: 0, y: 0, w: 0.22, h: TALL, fill: { color: bare(hue) } })
    slide.addText(clean(title), {
      x: MARGIN,
      y: 0.4,
      w: WIDE - MARGIN * 2,
      h: 0.9,
      fontSize: title.length > 70 ? 22 : 30,
      bold: true,
      color: bare(theme.ink),
      valign: 'middle',
      fit: 'shrink',
    })
    return slide
  }
  const picture = (
    slide: PptxGenJS.Slide,
    { kind, bytes, width, height }: PagePicture,
    box: { x: number; y: number; w: number; h: number },
    alt: string,
  ): void => {
    const scale = Math.min(box.w / width, box.h / height)
    slide.addImage({
      data: `image/${kind === 'jpg' ? 'jpeg' : 'png'};base64,${bytes.toString('base64')}`,
      x: box.x + (box.w - width * scale) / 2,
      y: box.y + (box.h - height * scale) / 2,
      w: width * scale,
      h: height * scale,
      altText: clean(alt).slice(0, 200),
    })
  }

  const cover = deck.addSlide()
  cover.background = { color: bare(theme.cover) }
  cover.addText(clean(telling.titled(root)), {
    x: 1,
    y: 2.2,
    w: WIDE - 2,
    h: 1.8,
    fontSize: 44,
    bold: true,
    color: bare(theme.onCover),
    valign: 'bottom',
    fit: 'shrink',
  })
  cover.addText(
    clean(
      [
        asked.description.slice(0, 300),
        [asked.author, words.asOf(telling.day(asked.today))].filter(Boolean).join(' · '),
        deeper > 0 ? words.deeper(deeper) : '',
      ]
        .filter(Boolean)
        .join('\n'),
    ),
    { x: 1, y: 4.1, w: WIDE - 2, h: 1.6, fontSize: 18, color: bare(theme.onCover), valign: 'top', fit: 'shrink' },
  )
  if (root.note) cover.addNotes(clean(noteWords(root.note)))
  if (asked.drawn) {
    const slide = sheet(telling.titled(root), theme.cover)
    picture(slide, asked.drawn, { x: MARGIN, y: 1.4, w: WIDE - MARGIN * 2, h: TALL - 1.8 }, root.title)
  }

  /** The lines below a section, and the sections that get slides of their own. */
  function linesOf(topic: HandedTopic, level: number, sections: HandedTopic[]): Line[] {
    return topic.children.flatMap((child): Line[] => {
      const about = telling.about(child)
      const line: Line[] = [
        { text: telling.titled(child), level, small: false, language: child.language },
        ...(about ? [{ text: about, level: level + 1, small: true }] : []),
      ]
      if (child.level <= SECTION_LEVELS && (child.children.length > 0 || child.picture)) {
        sections.push(child)
        return line
      }
      asked.written?.()
      return [...line, ...linesOf(child, level + 1, sections)]
    })
  }
  /** What is said to a section: its own note, and those of the topics on its slides. */
  function saidTo(topic: HandedTopic, sections: readonly HandedTopic[], own = true): string[] {
    const note = topic.note ? noteWords(topic.note) : ''
    return [
      ...(note ? [own ? note : `${telling.titled(topic)}: ${note}`] : []),
      ...topic.children.filter(child => !sections.includes(child)).flatMap(child => saidTo(child, sections, false)),
    ]
  }

  /** A chart is read from the back of the room: it has a slide of its own. */
  function charts(topic: HandedTopic, hue: string): void {
    for (const { words: of, svg } of topic.charts) {
      const drawn = asked.pictures.of(svg)
      if (!drawn) continue
      picture(sheet(telling.titled(topic), hue), drawn, { x: MARGIN, y: 1.5, w: WIDE - MARGIN * 2, h: TALL - 2.1 }, of)
    }
  }

  /** Of a section, and of what stands in its lines. */
  function chartsBelow(topic: HandedTopic, sections: readonly HandedTopic[], hue: string): void {
    charts(topic, hue)
    for (const child of topic.children) if (!sections.includes(child)) chartsBelow(child, sections, hue)
  }

  function section(topic: HandedTopic, branch: number): void {
    asked.written?.()
    const sections: HandedTopic[] = []
    const hue = theme.hues?.[branch % theme.hues.length] ?? dressing.hueOf(topic.id)
    const lines: Line[] = [
      ...(telling.about(topic) ? [{ text: telling.about(topic), level: 0, small: true }] : []),
      ...linesOf(topic, 0, sections),
    ]
    const shown =
      (topic.picture && asked.pictures.of(topic.picture.file)) ??
      (topic.sketch ? asked.pictures.of(topic.sketch) : null)
    const pages = pagesOf(lines)
    const said = saidTo(topic, sections).join('\n\n')
    pages.forEach((page, i) => {
      const slide = sheet(`${telling.titled(topic)}${i > 0 ? ` (${words.goesOn})` : ''}`, hue)
      const beside = i === 0 && shown ? 4.6 : 0
      if (page.length > 0)
        slide.addText(
          page.map(({ text, level, small, language }, at) => ({
            text: clean(text),
            options: {
              ...(small ? {} : { bullet: { indent: 16 } }),
              ...(language ? { lang: language } : {}),
              indentLevel: Math.min(level, 6),
              fontSize: small ? 14 : level === 0 ? 22 : level === 1 ? 19 : 17,
              color: bare(small ? hue : theme.ink),
              breakLine: at < page.length - 1,
              paraSpaceAfter: small ? 4 : 6,
            },
          })),
          { x: MARGIN, y: 1.45, w: WIDE - MARGIN * 2 - beside, h: TALL - 2, valign: 'top', fit: 'shrink' },
        )
      if (beside > 0) picture(slide, shown!, { x: WIDE - MARGIN - 4.3, y: 1.6, w: 4.3, h: TALL - 2.4 }, topic.title)
      if (i === 0 && said) slide.addNotes(clean(said).slice(0, 20_000))
    })
    chartsBelow(topic, sections, hue)
    for (const child of sections) section(child, branch)
  }
  charts(root, theme.cover)
  root.children.forEach(section)
  return (await deck.write({ outputType: 'nodebuffer' })) as Buffer
}

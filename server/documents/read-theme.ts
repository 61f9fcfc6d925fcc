import { Unreadable } from '#core/capture/nested'
import { SCHEME, type SchemeColour, type SlideTheme, slideThemeOf } from '#core/handing/slide-theme'
import { hearXml, relationsOf, xmlOf } from './office-xml'
import { unpack } from './unpack'

/* The theme of a presentation (ISO/IEC 29500, DrawingML): its colours and fonts. Runs in a thread. */

const PRESENTATION = 'ppt/presentation.xml'
const RELATIONS = 'ppt/_rels/presentation.xml.rels'
const THEME = /^ppt\/theme\/theme\d+\.xml$/
const MACROS =
  'These slides hold macros, which run on whoever’s machine opens them. Save them as .pptx, without them. Nothing was changed.'
const broken = (): Unreadable =>
  new Unreadable('No theme can be read from these slides. Save them anew as .pptx. Nothing was changed.')

/** Whether what is packed is a presentation. */
export const isPresentation = (names: readonly string[]): boolean => names.includes(PRESENTATION)

/** Throws `Unreadable`, in words for whoever brought it. */
export function readTheme(bytes: Uint8Array): SlideTheme {
  const { parts, names } = unpack(bytes, name => THEME.test(name) || name === RELATIONS)
  if (!isPresentation(names)) throw broken()
  if (names.some(name => /vbaProject\.bin$/i.test(name))) throw new Unreadable(MACROS)
  const theme = [...relationsOf(parts, PRESENTATION, broken).values()].find(({ type }) =>
    type.endsWith('/theme'),
  )?.target
  const part = theme && parts[theme] ? theme : 'ppt/theme/theme1.xml'
  const colours: Partial<Record<SchemeColour, string>> = {}
  const fonts: Record<'major' | 'minor', string | null> = { major: null, minor: null }
  let [colour, font]: [SchemeColour | null, 'major' | 'minor' | null] = [null, null]
  const open = (name: string, attributes: Readonly<Record<string, string>>): void => {
    const bare = name.replace(/^a:/, '')
    const scheme = SCHEME.find(one => one === bare)
    if (scheme) colour = scheme
    else if (bare === 'srgbClr' || bare === 'sysClr') {
      const said = bare === 'srgbClr' ? attributes.val : attributes.lastClr
      if (colour !== null && /^[0-9a-f]{6}$/i.test(said ?? '')) colours[colour] ??= `#${said!.toLowerCase()}`
    } else if (bare === 'majorFont' || bare === 'minorFont') font = bare === 'majorFont' ? 'major' : 'minor'
    else if (bare === 'latin' && font !== null) {
      const face = (attributes.typeface ?? '').trim()
      // With a plus it would name the theme itself.
      if (face !== '' && !face.startsWith('+')) fonts[font] ??= face.slice(0, 100).toWellFormed()
    } else if (bare === 'fmtScheme') [colour, font] = [null, null]
  }
  hearXml(xmlOf(parts, part, broken), { open }, broken)
  if (Object.keys(colours).length === 0) throw broken()
  return slideThemeOf(colours, fonts)
}

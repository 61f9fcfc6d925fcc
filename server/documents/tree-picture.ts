import lucide from '@iconify-json/lucide/icons.json'
import { Resvg } from '@resvg/resvg-js'
import sharp from 'sharp'
import { loadSyllables } from '#core/arrange/syllables'
import type { Choice } from '#core/handing/choice'
import type { Cut } from '#core/handing/cut'
import { LOCALES } from '#core/handing/words'
import { sceneOf, TooManyToDraw } from '#core/scene/scene'
import { barsSceneOf } from '#core/scene/bars-scene'
import { CannotMake } from '#core/scene/cannot-make'
import type { Baseline } from '#core/schedule/baseline'
import { planOf } from '#core/schedule/plan'
import { noPlanInWords } from '#core/schedule/plan-words'
import { languageOf, type Tree } from '#core/tree'
import type { UnderTitles } from './under-titles'
import type { Scene } from '#core/scene/shapes'
import type { TopicSign } from '#core/talk/thread'
import { svgOf } from '#core/scene/svg'
import { Typesetter } from './typesetter'

/* A part of a tree as a picture: drawn by the same shapes whatever it's kept as. */

/** Dots of one picture at most: what a browser and a printer's program still open. */
const MOST_DOTS = 120_000_000
/** Dots along one side at most. */
const LONGEST = 32_000

export interface PictureAsked {
  readonly today: string
  readonly nameOf: (person: string) => string
  readonly talkOf: (topic: string) => TopicSign | null
  readonly under?: UnderTitles | undefined
  /** A file of the tree, drawn anew by this house, with its media type; null where it's missing. */
  readonly file: (file: string) => { readonly type: string; readonly bytes: Uint8Array } | null
}

const typesetter = new Typesetter()

export async function treeScene(
  cut: Cut,
  choice: Choice,
  { today, nameOf, talkOf, under }: PictureAsked,
): Promise<Scene> {
  const { topics } = cut.tree
  await loadSyllables(new Set([...topics.values()].flatMap(topic => languageOf(cut.tree, topic) ?? [])))
  return sceneOf(cut.tree, {
    dusk: choice.dusk,
    today,
    locale: LOCALES[choice.language],
    nameOf,
    talkOf,
    ...under,
    numbers: cut.numbers,
    folds: choice.depth === null,
    ruler: typesetter.ruler,
  })
}

/** The plan of the whole tree as it concerns a part. Throws `CannotMake` where there is none, or tasks don't go along. */
export function barsScene(
  cut: Cut,
  whole: Tree,
  choice: Choice,
  {
    today,
    nameOf,
    agreed,
    tasks,
  }: Pick<PictureAsked, 'today' | 'nameOf'> & { readonly agreed: Baseline['tasks'] | null; readonly tasks: boolean },
): Scene {
  if (!tasks) throw new CannotMake('no-tasks', 'Bars are of tasks. Let tasks, people and dates go along.')
  const plan = planOf(whole, today)
  if (typeof plan === 'string') throw new CannotMake('no-plan', noPlanInWords(plan))
  return barsSceneOf(cut.tree, {
    plan,
    against: agreed && { tasks: agreed },
    dusk: choice.dusk,
    today,
    locale: LOCALES[choice.language],
    nameOf,
    numbers: cut.numbers,
    folds: choice.depth === null,
    ruler: typesetter.ruler,
  })
}

const icon = (name: string): string => (lucide.icons as Record<string, { body: string } | undefined>)[name]?.body ?? ''

/** How the letters of an SVG are written: as text, as shapes, or as text in the fonts of a page. */
export type Lettering = 'text' | 'shapes' | 'page'

export function treeSvg(
  scene: Scene,
  lettering: Lettering,
  { file }: Pick<PictureAsked, 'file'>,
  { clear = false, scale = 1 }: { readonly clear?: boolean; readonly scale?: number } = {},
): string {
  return svgOf(scene, {
    clear,
    scale,
    icon,
    image: hash => {
      const found = file(hash)
      return found ? `data:${found.type};base64,${Buffer.from(found.bytes).toString('base64')}` : null
    },
    ...(lettering === 'shapes' ? { outlines: typesetter.outlines } : {}),
    ...(lettering === 'page' ? { runs: typesetter.runs } : {}),
  })
}

/** Throws `TooManyToDraw` for a picture of more dots than anything opens. */
function checkDots({ bounds }: Scene, scale: number): void {
  const [width, height] = [bounds.width * scale, bounds.height * scale]
  if (width > LONGEST || height > LONGEST || width * height > MOST_DOTS)
    throw new TooManyToDraw(
      `This picture would be ${Math.round(width).toLocaleString('en')} × ${Math.round(height).toLocaleString('en')} dots, more than most programs open. Take it smaller, fewer levels, a branch, or a drawing (SVG).`,
    )
}

export async function treePng(scene: Scene, asked: PictureAsked, choice: Choice): Promise<Buffer> {
  checkDots(scene, choice.scale)
  const svg = treeSvg(scene, 'shapes', asked, { clear: choice.clear, scale: choice.scale })
  // Letters are shapes, so no font is looked for.
  const { pixels, width, height } = new Resvg(svg, { font: { loadSystemFonts: false } }).render()
  return (
    sharp(pixels, { raw: { width, height, channels: 4 }, limitInputPixels: MOST_DOTS * 2 })
      // A tenth larger than at 6, and made in half the time.
      .png({ compressionLevel: 4 })
      .toBuffer()
  )
}

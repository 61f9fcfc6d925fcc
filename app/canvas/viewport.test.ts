import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { Passage } from '~/files/passage'
import { Viewport } from './viewport'

let still = false
let now = 0
let frames: ((now: number) => void)[] = []
beforeEach(() => {
  still = false
  now = 0
  frames = []
  vi.stubGlobal('window', { matchMedia: () => ({ matches: still }) })
  vi.stubGlobal('performance', { now: () => now })
  vi.stubGlobal('requestAnimationFrame', (work: (now: number) => void) => frames.push(work))
  vi.stubGlobal('cancelAnimationFrame', () => {
    frames = []
  })
})
afterEach(() => vi.unstubAllGlobals())
function frame(at: number): void {
  now = at
  const due = frames
  frames = []
  for (const work of due) work(at)
}
function made(): Viewport {
  const view = new Viewport(() => {})
  view.width = 800
  view.height = 600
  return view
}

describe('the viewport', () => {
  it('zooms so that the world stays put under the pointer, within limits', () => {
    const view = made()
    const before = view.toWorld({ x: 200, y: 100 })
    view.zoomAt(2.4, 200, 100)
    const after = view.toWorld({ x: 200, y: 100 })
    expect([after.x - before.x, after.y - before.y].map(value => Math.round(value * 1e6) + 0)).toEqual([0, 0])
    view.zoomAt(99)
    expect(view.zoom).toBe(3)
    view.zoomAt(0)
    expect(view.zoom).toBe(0.008)
  })
  it('fits a rectangle whole and centred, at 100 % at most', () => {
    const view = made()
    view.fit({ x: -1000, y: -50, width: 2000, height: 100 })
    expect(view.zoom).toBeCloseTo((800 - 96) / 2000, 9)
    expect(view.toWorld({ x: 400, y: 300 })).toEqual({ x: 0, y: 0 })
    view.fit({ x: 0, y: 0, width: 10, height: 10 })
    expect(view.zoom).toBe(1)
  })
  it('brings a rectangle out from under what lies over the view, the shortest way that is free', () => {
    const view = made()
    still = true
    const bar = { x: 200, y: 540, width: 400, height: 40 }
    const window_ = { x: 600, y: 400, width: 200, height: 200 }
    const shown = () => ({ x: 300 + view.x, y: 550 + view.y })
    view.reveal({ x: 300, y: 550, width: 60, height: 20 }, [bar, window_])
    frame(10)
    expect(shown()).toEqual({ x: 300, y: 540 - 8 - 20 })
    // Under both: out of the one isn't into the other.
    view.centreOn({ x: 0, y: 0, width: 800, height: 600 }, 1)
    view.reveal({ x: 560, y: 545, width: 60, height: 20 }, [bar, window_])
    frame(20)
    const at = { x: 560 + view.x, y: 545 + view.y, width: 60, height: 20 }
    for (const over of [bar, window_])
      expect(
        at.x < over.x + over.width && over.x < at.x + 60 && at.y < over.y + over.height && over.y < at.y + 20,
      ).toBe(false)
    // Where nothing is free it's at least in sight.
    view.reveal({ x: 300, y: 900, width: 60, height: 20 }, [{ x: 0, y: 0, width: 800, height: 600 }])
    frame(30)
    expect(900 + view.y).toBe(600 - 40 - 20)
  })
  it('moves just as far as a rectangle needs, glides there, and at once for those who want less motion', () => {
    const view = made()
    view.reveal({ x: 300, y: 300, width: 50, height: 20 })
    expect(frames).toHaveLength(0)
    view.reveal({ x: 790, y: 300, width: 50, height: 20 })
    frame(80)
    const half = view.x
    frame(400)
    expect(half).toBeLessThan(0)
    expect(half).toBeGreaterThan(view.x)
    expect(view.x + 840).toBe(760)
    expect(view.y).toBe(0)
    still = true
    view.reveal({ x: 0, y: 900, width: 50, height: 20 })
    frame(401)
    expect(view.y + 920).toBe(560)
  })
})

describe('the passage from one arrangement to another', () => {
  const at = { id: 'A', x: 100, y: 0, width: 50, height: 20, direction: 'right' as const }
  it('takes each plank from where it stood to where it stands, and ends there', () => {
    const passage = new Passage()
    expect(passage.at(at, passage.part(0))).toBe(at)
    passage.begin([{ id: 'A', x: 0, y: 80 }])
    expect(passage.running).toBe(true)
    expect(passage.at(at, passage.part(0))).toMatchObject({ x: 0, y: 80 })
    expect(passage.at(at, passage.part(190))).toMatchObject({ x: 50, y: 40 })
    expect(passage.at({ ...at, id: 'new' }, passage.part(190)).x).toBe(100)
    expect(passage.at(at, passage.part(380))).toBe(at)
    expect(passage.running).toBe(false)
  })
  it('takes no time for those who want less motion', () => {
    still = true
    const passage = new Passage()
    passage.begin([{ id: 'A', x: 0, y: 0 }])
    expect(passage.running).toBe(false)
    expect(passage.part(0)).toBe(1)
  })
})

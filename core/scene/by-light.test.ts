import { describe, expect, it } from 'vitest'
import { byLight } from './by-light'

describe('a picture by the light of whoever looks', () => {
  const day =
    '<svg width="2"><rect fill="#ffffff"/><text fill="#16292d" x="1">fill=&quot;#000&quot;</text><path stroke="#aa0000"/></svg>'
  const dusk =
    '<svg width="2"><rect fill="#12211f"/><text fill="#e4efed" x="1">fill=&quot;#000&quot;</text><path stroke="#aa0000"/></svg>'
  it('has each pair of colours once, and leaves what both share', () => {
    const made = byLight(
      day.replace('</svg>', '<g fill="#ffffff"/></svg>'),
      dusk.replace('</svg>', '<g fill="#12211f"/></svg>'),
      'svg.drawn',
    )
    expect(made).toBe(
      '<svg width="2"><style>svg.drawn{--light-0:#ffffff;--light-1:#16292d}@media screen and (prefers-color-scheme:dark){svg.drawn{--light-0:#12211f;--light-1:#e4efed}}</style>' +
        '<rect fill="var(--light-0)"/><text fill="var(--light-1)" x="1">fill=&quot;#000&quot;</text><path stroke="#aa0000"/><g fill="var(--light-0)"/></svg>',
    )
  })
  it('is the one by day where the two aren’t the same drawing', () => {
    expect(byLight(day, dusk.replace('x="1"', 'x="2"'), 'svg')).toBe(day)
    expect(byLight(day, dusk.replace('<path stroke="#aa0000"/>', ''), 'svg')).toBe(day)
    expect(byLight(day, day, 'svg')).toBe(day)
  })
})

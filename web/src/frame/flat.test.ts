import { describe, expect, it } from 'vitest'
import { flat } from './flat'

describe('rows as a table', () => {
  it('puts what is inside of a row into columns of its own', () => {
    expect(flat([{ key: 'a', about: { name: 'A', tier: 1 } }])).toEqual({
      columns: ['key', 'about.name', 'about.tier'],
      rows: [['a', 'A', 1]],
    })
  })

  it('leaves empty what a row does not have, in the order in which columns first come', () => {
    expect(flat([{ b: 1 }, { a: false, b: null }])).toEqual({
      columns: ['b', 'a'],
      rows: [
        [1, ''],
        ['', false],
      ],
    })
  })

  it('writes lists into one cell', () => {
    expect(flat([{ owners: ['x', 'y'], checks: [{ n: 1 }], none: [] }]).rows).toEqual([
      ['x; y', '{"n":1}', ''],
    ])
  })

  it('has nothing of nothing', () => {
    expect(flat([])).toEqual({ columns: [], rows: [] })
  })
})

import { expect, test } from 'vitest'
import { sentences, some } from './untold'

test('a feed says what it does not tell, and what can not be judged therefore', () => {
  expect(
    sentences({
      feed: 'list',
      told: ['resources', 'points'],
      lacks: [{ kind: 'points', fields: ['size', 'encrypted'] }],
      unjudged: [{ criterion: 'safe-encrypted', title: 'Encrypted' }],
    }),
  ).toEqual([
    'It tells of resources and points, and of no copies.',
    'None of its points has size, encrypted.',
    'Not enough data for all it tells of: Encrypted.',
  ])
})

test('a feed of stores and policies alone is asked for nothing else', () => {
  expect(sentences({ feed: 'list', told: [], lacks: [], unjudged: [] })).toEqual([])
  expect(
    sentences({ feed: 'f', told: ['resources', 'points', 'copies'], lacks: [], unjudged: [] }),
  ).toEqual([])
})

test('many are counted after the first few', () => {
  expect(some(['a', 'b', 'c', 'd', 'e', 'f'])).toBe('a, b, c, d, e, f')
  expect(some(['a', 'b', 'c', 'd', 'e', 'f', 'g'])).toBe('a, b, c, d, e and 2 more')
})

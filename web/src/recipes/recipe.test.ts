import { describe, expect, it } from 'vitest'
import {
  calledAfter,
  firstLines,
  from,
  hasColumnsOf,
  isOfBundle,
  meanings,
  meaningsOf,
  recipeOf,
  sourceOf,
} from './recipe'

describe('recipes', () => {
  it('tells files of the bundle from reports', () => {
    const files = ['points', 'copies']
    for (const name of [
      'points.csv',
      'points-2026-11.json',
      'all.zip',
      'feed.json',
      'a/copies.tsv',
    ])
      expect(isOfBundle(name, files), name).toBe(true)
    for (const name of ['jobs of points.csv', 'points.xlsx', 'report.csv', 'pointsx.csv'])
      expect(isOfBundle(name, files), name).toBe(false)
  })

  it('tells a report from a file of the bundle that has its name', async () => {
    const files = [{ file: 'jobs', fields: [{ name: 'key' }, { name: 'outcome' }] }]
    const named = (text: string, name = 'jobs.csv') => hasColumnsOf(new File([text], name), files)
    expect(await named('\uFEFFkey;"outcome"\r\n1;ok')).toBe(true)
    expect(await named('key,outcome,colour\n1,ok,red')).toBe(true)
    expect(await named('key,client\n1,a')).toBe(false)
    expect(await named('JobID,Client\n1,a')).toBe(false)
    expect(await named('JobID,Client\n1,a', 'other.csv')).toBe(true)
    expect(await named('[{"a":1}]', 'jobs.json')).toBe(true)
  })

  it('calls a feed after what stays the same of a name', () => {
    expect(calledAfter('nightly-report-2026-11-29.csv')).toBe('nightly-report')
    expect(calledAfter('C:\\out\\jobs_20261129.xlsx')).toBe('jobs')
    expect(calledAfter('2026-11-29.csv')).toBe('report')
  })

  it('writes where a field comes from in one line, and reads it again', () => {
    expect(sourceOf({ column: 'client' })).toBe('client')
    expect(sourceOf({ expression: 'a + b' })).toBe('= a + b')
    expect(from('= a + b', { otherwise: 'x' })).toEqual({ otherwise: 'x', expression: 'a + b' })
    expect(from('client ', { expression: 'a' }).column).toBe('client')
    expect(from('', { column: 'a' }).column).toBeUndefined()
  })

  it('reads what values mean', () => {
    expect(meanings('OK=complete; a=b=c; broken; =x')).toEqual({ OK: 'complete', 'a=b': 'c' })
    expect(meaningsOf({ meanings: { OK: 'complete', F: 'full' } })).toBe('OK=complete; F=full')
  })

  it('takes nothing for a recipe that is none', () => {
    expect(recipeOf('{')).toBeUndefined()
    expect(recipeOf('{"name":"a"}')).toBeUndefined()
    expect(recipeOf('{"name":"a","outputs":[{"file":"points"}]}')).toBeUndefined()
    expect(recipeOf('{"name":"a","outputs":[{"file":"points","fields":{}}]}')?.name).toBe('a')
  })

  it('sends whole lines of a large text only', async () => {
    const line = `${'x'.repeat(999)}\n`
    const large = new File([line.repeat(1200)], 'a.csv')
    expect((await firstLines(large)).size).toBe(1_000_000)
    const book = new File([line.repeat(1200)], 'a.xlsx')
    expect(await firstLines(book)).toBe(book)
  })
})

import { existsSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'

/** CONTRIBUTING.md, "A screen": a folder of its own, and a line in the router. */
const text = readFileSync('src/router.ts', 'utf8')
const views = [...text.matchAll(/import\('\.\/([\w/]+\.vue)'\)/g)].map((m) => m[1] ?? '')
const sections = [...text.matchAll(/\{ name: '(\w+)', path: '(\/\w+)', title: '(\w+)' \}/g)]

describe('a screen is a folder and a line in the router', () => {
  it.each(views)('%s is there, and named a view', (view) => {
    expect(existsSync(`src/${view}`)).toBe(true)
    expect(view).toMatch(/^\w+\/\w+View\.vue$/)
  })

  it.each(sections.map((m) => [m[1] ?? '', m[2] ?? '']))('section %s has a route', (name, path) => {
    expect(path).toBe(`/${name}`)
    expect(text.match(new RegExp(`path: '${path}',\\s+name: '${name}'`))).not.toBeNull()
  })

  it('finds them', () => {
    expect(views.length).toBeGreaterThan(8)
    expect(sections.length).toBeGreaterThan(5)
  })
})

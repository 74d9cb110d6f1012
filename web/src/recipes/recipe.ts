import type { RecipeField, RecipeForm, RecipeOutput } from '../api/types'

/** Whether a file is one of the bundle, by its name, or holds some. */
export function isOfBundle(name: string, files: readonly string[]): boolean {
  const base = name.toLowerCase().replace(/.*\//, '')
  if (base === 'feed.json' || base.endsWith('.zip')) return true
  return files.some((f) => new RegExp(`^${f}(-[^.]*)?\\.(csv|tsv|json|jsonl|ndjson)$`).test(base))
}

/**
 * Whether a text that is called as a file of the bundle has most of its columns from it; many reports are called
 * jobs.csv. One that has a column of its own beside them is the bundle's: it is said which, and nothing guessed.
 */
export async function hasColumnsOf(file: File, files: readonly BundleColumns[]): Promise<boolean> {
  const base = file.name.toLowerCase()
  const own = files.find((f) => isOfBundle(base, [f.file]))
  if (!own || !/\.(csv|tsv)$/.test(base)) return true
  const line = (await file.slice(0, 20_000).text()).replace(/^\uFEFF/, '').split(/\r?\n/)[0] ?? ''
  const names = line.split(/[,;\t]/).map((n) => n.trim().replace(/^"|"$/g, '').toLowerCase())
  const known = names.filter((n) => own.fields.some((f) => f.name === n))
  return known.length * 2 > names.length
}

interface BundleColumns {
  file: string
  fields: readonly { name: string }[]
}

/** What a feed or a recipe may be called after a file: without what changes from day to day. */
export function calledAfter(name: string): string {
  const base = name
    .replace(/.*[/\\]/, '')
    .replace(/\.[^.]*$/, '')
    .replace(/[-_ ]?(19|20)\d{2}[-_.]?\d{2}[-_.]?\d{2}.*$/, '')
    .replace(/[^A-Za-z0-9._ -]/g, ' ')
    .trim()
  return base || 'report'
}

/** Where a field comes from, in one line: a column, or an expression behind an equals sign. */
export function sourceOf(field: RecipeField | undefined): string {
  if (!field) return ''
  return field.expression ? `= ${field.expression}` : (field.column ?? '')
}

/** The same field from elsewhere. */
export function from(source: string, field: RecipeField | undefined): RecipeField {
  const text = source.trim()
  const expression = text.startsWith('=') ? text.slice(1).trim() : undefined
  return { ...field, expression, column: expression === undefined ? text || undefined : undefined }
}

/** What values mean, as they are written: {@code theirs=ours; …}. */
export function meaningsOf(field: RecipeField | undefined): string {
  return Object.entries(field?.meanings ?? {})
    .map(([theirs, ours]) => `${theirs}=${ours}`)
    .join('; ')
}

/** As they were written; a part without an equals sign is none. */
export function meanings(text: string): Record<string, string> {
  const pairs = text.split(';').filter((pair) => pair.includes('='))
  return Object.fromEntries(
    pairs
      .map((pair) => [
        pair.slice(0, pair.lastIndexOf('=')).trim(),
        pair.slice(pair.lastIndexOf('=') + 1).trim(),
      ])
      .filter(([theirs, ours]) => theirs && ours),
  ) as Record<string, string>
}

/** A recipe out of a file that somebody brings; undefined where it is none. */
export function recipeOf(text: string): RecipeForm | undefined {
  try {
    const read = JSON.parse(text) as Partial<RecipeForm>
    const outputs: unknown = read.outputs
    const sound =
      typeof read.name === 'string' &&
      Array.isArray(outputs) &&
      outputs.every(
        (o: Partial<RecipeOutput>) => typeof o.file === 'string' && typeof o.fields === 'object',
      )
    return sound ? (read as RecipeForm) : undefined
  } catch {
    return undefined
  }
}

const SAMPLE = 1_000_000

/** The first lines of a large report, so that it need not be sent again for each try. */
export async function firstLines(file: File): Promise<File> {
  if (file.size <= SAMPLE || !/\.(csv|tsv|txt|lst|list)$/i.test(file.name)) return file
  const text = await file.slice(0, SAMPLE).text()
  return new File([text.slice(0, text.lastIndexOf('\n') + 1)], file.name)
}

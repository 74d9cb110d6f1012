import { sections } from '@/router'
import { instantOf } from './said'

/** Something that the command field offers besides what the server finds. */
export interface Command {
  key: string
  name: string
  detail: string
  /** Where it leads; or what is asked of the field itself. */
  to?: string
  asAt?: string
  drill?: string
}

const PAGES: Command[] = [
  ...sections.map((s) => ({ key: s.path, name: s.title, detail: 'page', to: s.path })),
  { key: 'insights', name: 'Insights', detail: 'page', to: '/insights' },
  { key: 'ahead', name: 'Drills ahead', detail: 'page', to: '/drills?tab=ahead' },
  { key: 'done', name: 'Drills done', detail: 'page', to: '/drills?tab=done' },
  { key: 'going-back', name: 'Going back', detail: 'page', to: '/survival/going-back' },
  { key: 'stores', name: 'Stores', detail: 'page', to: '/feeds/stores' },
  { key: 'plan', name: 'Plan', detail: 'page', to: '/findings?part=plan' },
  { key: 'policies', name: 'Policies', detail: 'page', to: '/criteria?part=policies' },
  { key: 'exceptions', name: 'Exceptions', detail: 'page', to: '/criteria?part=exceptions' },
  { key: 'controls', name: 'By control', detail: 'page', to: '/evidence?tab=controls' },
  { key: 'ledger', name: 'Ledger', detail: 'page', to: '/evidence?tab=ledger' },
  { key: 'alerts', name: 'Alerts', detail: 'page', to: '/alerts' },
  { key: 'watches', name: 'Watches', detail: 'page', to: '/alerts?tab=watches' },
  { key: 'engines', name: 'Engines and sandboxes', detail: 'page', to: '/engines' },
]

const ACTIONS: Command[] = [
  { key: 'pack', name: 'Make a pack', detail: 'action', to: '/evidence' },
  { key: 'import', name: 'Bring in facts', detail: 'action', to: '/feeds' },
  { key: 'now', name: 'Look at now', detail: 'action', asAt: '' },
]

/** What the words ask for that is no thing: a page, something to do, an instant to look at. */
export function commandsFor(text: string, now: number): Command[] {
  const query = text.trim().toLowerCase()
  if (!query) return PAGES.slice(0, sections.length)
  const asAt = query.startsWith('as at ') ? query.slice(6).trim() : query
  const instant = instantOf(asAt, now)
  const looking = instant
    ? [
        {
          key: `as-at-${instant}`,
          name: `As at ${instant.slice(0, 16).replace('T', ' ')} UTC`,
          detail: 'look back',
          asAt: instant,
        },
      ]
    : []
  const named = [...PAGES, ...ACTIONS].filter((c) =>
    query.split(/\s+/).every((word) => c.name.toLowerCase().includes(word)),
  )
  return [...looking, ...named]
}

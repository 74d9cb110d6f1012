import { computed, type ComputedRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { BoardRow } from '@/api/types'
import { useWhich } from '@/frame/useWhich'

export const SORTS = ['worst', 'name', 'tier', 'rung', 'loss', 'proof'] as const
export type Sort = (typeof SORTS)[number]

function list(value: unknown): string[] {
  return typeof value === 'string' && value ? value.split(',') : []
}

/** Exposure over RPO; having nothing that could be restored is the worst. */
function loss(row: BoardRow): number {
  if (row.exposureMs === undefined) return Number.MAX_VALUE
  return row.exposureMs / Math.max(1, row.rpoMs ?? 1)
}

const ORDER: Record<Sort, (a: BoardRow, b: BoardRow) => number> = {
  worst: () => 0,
  name: (a, b) => a.name.localeCompare(b.name),
  tier: (a, b) => a.heldTo - b.heldTo,
  rung: (a, b) => a.ladder.rung - a.ladder.demanded - (b.ladder.rung - b.ladder.demanded),
  loss: (a, b) => loss(b) - loss(a),
  proof: (a, b) => (b.byProofMs ?? Infinity) - (a.byProofMs ?? Infinity) || loss(b) - loss(a),
}

/** Filter, order and choice of the Board; all of it stands in the address. */
export function useBoardList(rows: ComputedRef<BoardRow[]>) {
  const route = useRoute()
  const router = useRouter()

  const find = computed(() => (typeof route.query.find === 'string' ? route.query.find : ''))
  const verdicts = computed(() => new Set(list(route.query.verdict)))
  const tiers = computed(() => new Set(list(route.query.tier)))
  const which = useWhich()
  const only = computed(() => new Set(list(route.query.only)))
  const sort = computed<Sort>(() => SORTS.find((s) => s === route.query.sort) ?? 'worst')
  const selected = computed(() => (typeof route.query.w === 'string' ? route.query.w : ''))

  function set(changes: Record<string, string | undefined>) {
    void router.replace({ query: { ...route.query, ...changes } })
  }

  function toggle(name: 'verdict' | 'tier', value: string) {
    const now = name === 'verdict' ? verdicts.value : tiers.value
    const next = new Set(now)
    if (!next.delete(value)) next.add(value)
    set({ [name]: [...next].join(',') || undefined })
  }

  const shown = computed(() => {
    const text = find.value.trim().toLowerCase()
    const filtered = rows.value.filter(
      (r) =>
        (!verdicts.value.size || verdicts.value.has(r.verdict)) &&
        (!tiers.value.size || tiers.value.has(String(r.tier ?? '?'))) &&
        (!only.value.size || only.value.has(r.key)) &&
        (!text ||
          `${r.name} ${r.key} ${r.owner ?? ''} ${r.verdict} ${r.sentence}`
            .toLowerCase()
            .includes(text)),
    )
    return sort.value === 'worst' ? filtered : [...filtered].sort(ORDER[sort.value])
  })

  const filtered = computed(
    () =>
      !!find.value || !!which.value || verdicts.value.size + tiers.value.size + only.value.size > 0,
  )

  function clear() {
    set({
      find: undefined,
      verdict: undefined,
      tier: undefined,
      only: undefined,
      which: undefined,
    })
  }

  return {
    find,
    verdicts,
    tiers,
    only,
    which,
    sort,
    selected,
    shown,
    filtered,
    set,
    toggle,
    clear,
  }
}

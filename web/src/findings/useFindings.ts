import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call, Problem, withQuery, type FindingRow, type FindingsPage } from '@/api/client'
import { useAsAt } from '@/frame/useAsAt'

export const GROUPINGS = [
  { value: '', title: 'one list' },
  { value: 'criterion', title: 'by criterion' },
  { value: 'resource', title: 'by resource' },
  { value: 'owner', title: 'by owner' },
  { value: 'policy', title: 'by policy' },
  { value: 'site', title: 'by site' },
  { value: 'workload', title: 'by workload' },
] as const

const PAGE = 200

/** The list of findings: what is asked for stands in the address; pages are fetched as they are needed. */
export function useFindings() {
  const route = useRoute()
  const router = useRouter()
  const { asAt } = useAsAt()

  const text = (name: string) => {
    const value = route.query[name]
    return typeof value === 'string' ? value : ''
  }
  const group = computed(() => text('group'))
  const inside = computed(() => ('in' in route.query ? text('in') : undefined))
  const find = computed(() => text('find'))
  const state = computed(() => text('state') || 'open')
  const tier = computed(() => text('tier'))
  const selected = computed(() => text('finding'))

  const page = shallowRef<FindingsPage>()
  const rows = shallowRef<FindingRow[]>([])
  const problem = ref('')
  const fetching = ref(false)
  let newest = 0

  function path(after?: string) {
    const query = withQuery('findings', {
      asAt: asAt.value,
      state: state.value,
      group: group.value,
      search: find.value,
      tier: tier.value,
      after,
      limit: String(PAGE),
    })
    return inside.value === undefined ? query : `${query}&in=${encodeURIComponent(inside.value)}`
  }

  async function fetchPage(after?: string) {
    const mine = ++newest
    fetching.value = true
    try {
      const answer = await call<FindingsPage>('GET', path(after))
      if (mine !== newest) return
      page.value = answer
      rows.value = after ? [...rows.value, ...answer.rows] : answer.rows
      problem.value = ''
    } catch (e) {
      if (mine === newest) problem.value = e instanceof Problem ? e.message : String(e)
    } finally {
      if (mine === newest) fetching.value = false
    }
  }

  const refresh = () => fetchPage()
  watch(path, refresh, { immediate: true })

  function more() {
    const last = rows.value[rows.value.length - 1]
    if (last && !fetching.value && rows.value.length < (page.value?.total ?? 0)) {
      void fetchPage(last.key)
    }
  }

  function set(changes: Record<string, string | undefined>) {
    void router.replace({ query: { ...route.query, ...changes } })
  }

  return {
    asAt,
    group,
    inside,
    find,
    state,
    tier,
    selected,
    page,
    rows,
    problem,
    fetching,
    refresh,
    more,
    set,
  }
}

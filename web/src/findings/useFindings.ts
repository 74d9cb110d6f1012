import { keepPreviousData, useInfiniteQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { Problem, answerOf, api, sentenceOf } from '@/api/client'
import type { FindingsPage } from '@/api/types'
import { useAsAt } from '@/frame/useAsAt'
import { useWhich } from '@/frame/useWhich'

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
  const { when } = useAsAt()

  const text = (name: string) => {
    const value = route.query[name]
    return typeof value === 'string' ? value : ''
  }
  const group = computed(() => text('group'))
  const inside = computed(() => ('in' in route.query ? text('in') : undefined))
  const find = computed(() => text('find'))
  const state = computed(() => text('state') || 'open')
  const tier = computed(() => text('tier'))
  const which = useWhich()
  const selected = computed(() => text('finding'))

  const asked = computed(() => ({
    ...when.value,
    state: state.value,
    group: group.value || undefined,
    in: inside.value,
    search: find.value || undefined,
    tier: tier.value ? Number(tier.value) : undefined,
    selector: which.value,
  }))
  const query = useInfiniteQuery({
    queryKey: computed(() => ['/api/findings', asked.value]),
    queryFn: ({ pageParam, signal }): Promise<FindingsPage> =>
      answerOf(
        api.GET('/api/findings', {
          params: { query: { ...asked.value, after: pageParam, limit: PAGE } },
          signal,
        }),
      ),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (last, pages) => {
      const read = pages.reduce((sum, one) => sum + one.rows.length, 0)
      return read < last.total ? last.rows[last.rows.length - 1]?.key : undefined
    },
    placeholderData: keepPreviousData,
    shallow: true,
  })
  /** The newest page, which says how many there are. */
  const page = computed(() => query.data.value?.pages[query.data.value.pages.length - 1])
  const rows = computed(() => query.data.value?.pages.flatMap((one) => one.rows) ?? [])
  const problem = computed(() => (query.error.value ? sentenceOf(query.error.value) : ''))

  /** Reads the list anew, as far as it was read. */
  async function refresh() {
    await query.refetch()
  }

  async function more() {
    if (query.isFetching.value || !query.hasNextPage.value) return
    const { error } = await query.fetchNextPage()
    // The list has changed under the pages that are here.
    if (error instanceof Problem && error.status === 409) await refresh()
  }

  /** Every row that is asked for, also those that were not read yet. */
  async function everything() {
    while (query.hasNextPage.value) {
      const { error } = await query.fetchNextPage()
      if (error) throw error
    }
    return rows.value
  }

  function set(changes: Record<string, string | undefined>) {
    void router.replace({ query: { ...route.query, ...changes } })
  }

  return {
    when,
    group,
    inside,
    find,
    state,
    tier,
    which,
    selected,
    page,
    rows,
    problem,
    fetching: query.isFetching,
    refresh,
    more,
    everything,
    set,
  }
}

import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { Problem, answerOf, api, sentenceOf } from '@/api/client'
import type { FindingRow, FindingsPage } from '@/api/types'
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
/** The server gives no more at once. */
const AT_ONCE = 500

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

  const page = shallowRef<FindingsPage>()
  const rows = shallowRef<FindingRow[]>([])
  const problem = ref('')
  const fetching = ref(false)
  let newest = 0

  const asked = computed(() => ({
    ...when.value,
    state: state.value,
    group: group.value || undefined,
    in: inside.value,
    search: find.value || undefined,
    tier: tier.value ? Number(tier.value) : undefined,
    selector: which.value,
  }))

  /** Reads on behind {@code from} until so many rows are there. */
  async function read(from: FindingRow[], wanted: number): Promise<void> {
    const mine = ++newest
    fetching.value = true
    try {
      let found = from
      let answer: FindingsPage
      do {
        const after = found[found.length - 1]?.key
        const limit = Math.min(AT_ONCE, wanted - found.length)
        answer = await answerOf(
          api.GET('/api/findings', { params: { query: { ...asked.value, after, limit } } }),
        )
        if (mine !== newest) return
        found = [...found, ...answer.rows]
      } while (answer.rows.length && found.length < Math.min(wanted, answer.total))
      page.value = answer
      rows.value = found
      problem.value = ''
    } catch (e) {
      if (mine !== newest) return
      // The list has changed under the pages that are here.
      if (e instanceof Problem && e.status === 409) return await read([], wanted)
      problem.value = sentenceOf(e)
    } finally {
      if (mine === newest) fetching.value = false
    }
  }

  /** Reads the list anew, as far as it was read. */
  const refresh = () => read([], Math.max(PAGE, rows.value.length))
  watch(asked, () => read([], PAGE), { immediate: true })

  function more() {
    if (!fetching.value && rows.value.length < (page.value?.total ?? 0)) {
      void read(rows.value, rows.value.length + PAGE)
    }
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
    fetching,
    refresh,
    more,
    set,
  }
}

import { now as clockNow } from '@/wording/clock'
import { computed, onScopeDispose, ref, shallowRef } from 'vue'
import type { RunView } from '@/api/types'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'

/** All runs, kept up to date by what the server tells. `now` ticks once a second. */
export function useRuns() {
  const { data, problem, fetching, refresh } = useServerData('/api/drill-runs')
  const now = ref(clockNow())
  const timer = setInterval(() => (now.value = clockNow()), 1000)
  onScopeDispose(() => clearInterval(timer))

  /**
   * What was told of runs since. A list that was asked for before a run ended may come after that was
   * told, and must not bring back what is over.
   */
  const told = shallowRef(new Map<string, RunView>())

  useEvents({
    run(run: RunView) {
      told.value = new Map(told.value).set(run.id, run)
    },
    facts: () => void refresh(),
  })

  const all = computed(() => {
    const runs = new Map<string, RunView>()
    for (const run of [...(data.value?.underWay ?? []), ...(data.value?.done ?? [])]) {
      runs.set(run.id, run)
    }
    for (const [id, run] of told.value) {
      if (!runs.get(id)?.ended) runs.set(id, run)
    }
    return data.value ? [...runs.values()] : []
  })
  const underWay = computed(() =>
    all.value.filter((r) => !r.ended).sort((a, b) => a.queuedAt.localeCompare(b.queuedAt)),
  )
  const done = computed(() =>
    all.value
      .filter((r) => r.ended)
      .sort((a, b) => (b.endedAt ?? '').localeCompare(a.endedAt ?? '')),
  )
  return { data, underWay, done, problem, fetching, refresh, now }
}

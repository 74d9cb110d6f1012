import { computed, onScopeDispose, ref } from 'vue'
import type { DrillRuns, RunView } from '@/api/client'
import { useEvents } from '@/api/useEvents'
import { useServerData } from '@/api/useServerData'

/** All runs, kept up to date by what the server tells. `now` ticks once a second. */
export function useRuns() {
  const { data, problem, fetching, refresh } = useServerData<DrillRuns>(() => 'drill-runs')
  const now = ref(Date.now())
  const timer = setInterval(() => (now.value = Date.now()), 1000)
  onScopeDispose(() => clearInterval(timer))

  useEvents({
    run(run: RunView) {
      if (!data.value) return
      const others = data.value.underWay.filter((r) => r.id !== run.id)
      const done = data.value.done.filter((r) => r.id !== run.id)
      data.value = run.ended
        ? { underWay: others, done: [run, ...done] }
        : {
            underWay: [...others, run].sort((a, b) => a.queuedAt.localeCompare(b.queuedAt)),
            done,
          }
    },
    facts: () => void refresh(),
  })

  const underWay = computed(() => data.value?.underWay ?? [])
  const done = computed(() => data.value?.done ?? [])
  return { data, underWay, done, problem, fetching, refresh, now }
}

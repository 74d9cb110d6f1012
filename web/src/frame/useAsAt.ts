import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/**
 * What everything is looked at from; it stands in the address: an instant (empty means now), or a
 * period that ends with it and begins at `from`.
 */
export function useAsAt() {
  const route = useRoute()
  const router = useRouter()
  const text = (name: string) => {
    const value = route.query[name]
    return typeof value === 'string' ? value : ''
  }
  const asAt = computed(() => text('asAt'))
  const from = computed(() => text('from'))
  const lookingBack = computed(() => asAt.value !== '')
  /** To be carried along from section to section. */
  const query = computed(() => ({
    ...(asAt.value ? { asAt: asAt.value } : {}),
    ...(from.value ? { from: from.value } : {}),
  }))

  function set(instant: string) {
    void router.push({
      query: { ...route.query, asAt: instant || undefined, from: undefined },
    })
  }

  /** A period; `until` empty means that it goes on to now. */
  function setPeriod(begin: string, until: string) {
    void router.push({ query: { ...route.query, asAt: until || undefined, from: begin } })
  }

  return { asAt, from, lookingBack, query, set, setPeriod }
}

import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/** By what was known: at the instant itself, or by now. */
export type Known = 'then' | 'now'

/**
 * What everything is looked at from; it stands in the address: an instant (empty means now), or a
 * period that ends with it and begins at `from`; and whether by what was known then, or in hindsight.
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
  /** Of an instant what was known then, of a period what is known now, unless it is chosen. */
  const known = computed(() => text('knownAt') || (from.value ? 'now' : 'then'))
  const hindsight = computed(() => lookingBack.value && known.value !== 'then')
  /** What the server is asked; nothing for now. */
  const when = computed<{ asAt?: string; knownAt?: string }>(() =>
    asAt.value ? { asAt: asAt.value, knownAt: known.value } : {},
  )
  /** To be carried along from section to section. */
  const query = computed(() => ({
    ...(asAt.value ? { asAt: asAt.value } : {}),
    ...(from.value ? { from: from.value } : {}),
    ...(text('knownAt') ? { knownAt: text('knownAt') } : {}),
  }))

  function set(instant: string, by?: Known) {
    void router.push({
      query: { ...route.query, asAt: instant || undefined, from: undefined, knownAt: by },
    })
  }

  /** A period; `until` empty means that it goes on to now. */
  function setPeriod(begin: string, until: string, by?: Known) {
    void router.push({
      query: { ...route.query, asAt: until || undefined, from: begin, knownAt: by },
    })
  }

  return { asAt, from, known, hindsight, when, lookingBack, query, set, setPeriod }
}

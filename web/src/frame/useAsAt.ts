import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/** The instant everything is looked at from; it stands in the address. Empty means now. */
export function useAsAt() {
  const route = useRoute()
  const router = useRouter()
  const asAt = computed(() => (typeof route.query.asAt === 'string' ? route.query.asAt : ''))
  const lookingBack = computed(() => asAt.value !== '')

  function set(instant: string) {
    void router.push({ query: { ...route.query, asAt: instant || undefined } })
  }

  return { asAt, lookingBack, set }
}

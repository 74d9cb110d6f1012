import { computed } from 'vue'
import { useRoute } from 'vue-router'

/** The selector that narrows a screen, as it stands in the address; empty for every resource. */
export function useWhich() {
  const route = useRoute()
  return computed(() => (typeof route.query.which === 'string' ? route.query.which : ''))
}

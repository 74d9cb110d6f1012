import { ref, watch } from 'vue'

/** Something that explains, and that a person has read and put away; remembered in this browser. */
export function useKeptAway(what: string) {
  const key = `hard-proof-away-${what}`
  const away = ref(localStorage.getItem(key) === 'yes')
  watch(away, (now) => localStorage.setItem(key, now ? 'yes' : 'no'))
  return away
}

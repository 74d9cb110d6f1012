import { ref } from 'vue'
import { Problem } from './client'

/**
 * Does something that may fail: `busy` while it is done, and what went wrong in `problem`, as the server
 * says it. Gives undefined where it failed.
 */
export function useAttempt() {
  const busy = ref(false)
  const problem = ref('')

  async function attempt<T>(work: () => Promise<T>): Promise<T | undefined> {
    busy.value = true
    problem.value = ''
    try {
      return await work()
    } catch (e) {
      problem.value = e instanceof Problem ? e.message : String(e)
      return undefined
    } finally {
      busy.value = false
    }
  }

  return { attempt, busy, problem }
}

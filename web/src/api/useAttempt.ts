import { ref } from 'vue'
import { sentenceOf } from './client'

/**
 * Does something that may fail: `busy` while it is done, and what went wrong in `problem`, as the server
 * says it. One for each thing that is tried: an attempt inside another takes its place.
 */
export function useAttempt() {
  const busy = ref(false)
  const problem = ref('')
  let newest = 0

  /** Gives undefined where it failed. */
  async function attempt<T>(work: () => Promise<T>): Promise<T | undefined> {
    problem.value = ''
    return await latest(work)
  }

  /**
   * Of several tries the newest counts: what an older one comes to later, good or bad, is dropped. What went wrong
   * stays to be read until the next try is through.
   */
  async function latest<T>(
    work: () => Promise<T>,
    take?: (answer: T | undefined) => void,
  ): Promise<T | undefined> {
    const mine = ++newest
    busy.value = true
    let answer: T | undefined
    let failed = ''
    try {
      answer = await work()
    } catch (e) {
      failed = sentenceOf(e)
    }
    if (mine !== newest) return undefined
    busy.value = false
    problem.value = failed
    take?.(answer)
    return answer
  }

  /** Nothing is tried any more, and nothing is wrong. */
  function forget() {
    newest++
    busy.value = false
    problem.value = ''
  }

  return { attempt, latest, forget, busy, problem }
}

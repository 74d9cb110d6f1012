import { ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue'
import { call, Problem } from './client'

export interface ServerData<T> {
  /** The newest answer; it stays when a refresh fails. */
  data: ShallowRef<T | undefined>
  /** What the newest try came to, when it failed. */
  problem: Ref<string | undefined>
  /** A request is on its way. */
  fetching: Ref<boolean>
  refresh: () => Promise<void>
}

/**
 * Data of the server at a path, fetched again whenever the path changes. The latest path wins,
 * whatever order the answers come in.
 *
 * @param path empty to fetch nothing
 */
export function useServerData<T>(path: () => string): ServerData<T> {
  const data: ShallowRef<T | undefined> = shallowRef()
  const problem = ref<string>()
  const fetching = ref(false)
  let newest = 0

  async function refresh() {
    const wanted = path()
    const mine = ++newest
    if (!wanted) {
      data.value = undefined
      problem.value = undefined
      fetching.value = false
      return
    }
    fetching.value = true
    try {
      const answer = await call<T>('GET', wanted)
      if (mine !== newest) return
      data.value = answer
      problem.value = undefined
    } catch (e) {
      if (mine !== newest) return
      problem.value = e instanceof Problem ? e.message : String(e)
    } finally {
      if (mine === newest) fetching.value = false
    }
  }

  watch(path, refresh, { immediate: true })
  return { data, problem, fetching, refresh }
}

import { useQuery } from '@tanstack/vue-query'
import type { MaybeOptionalInit } from 'openapi-fetch'
import type { PathsWithMethod } from 'openapi-typescript-helpers'
import { computed, shallowRef, watch, type Ref, type ShallowRef } from 'vue'
import { answerOf, api, sentenceOf } from './client'
import type { paths } from './schema'

type Path = PathsWithMethod<paths, 'get'>
type Asked<P extends Path> = MaybeOptionalInit<paths[P], 'get'>
export type Answer<P extends Path> = paths[P] extends {
  get: { responses: { 200: { content: Record<string, infer A> } } }
}
  ? A
  : never

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
 * Data of the server at an address, asked for again whenever the address changes; the latest wins, whatever order
 * the answers come in. Whoever asks for the same address shares the answer.
 *
 * @param asked undefined to ask for nothing
 */
export function useServerData<P extends Path>(
  path: P,
  asked: () => Asked<P> | undefined = () => ({}) as Asked<P>,
): ServerData<Answer<P>> {
  const data: ShallowRef<Answer<P> | undefined> = shallowRef()
  const wanted = computed(asked)
  const query = useQuery({
    queryKey: computed(() => [path, wanted.value]),
    queryFn: ({ signal }) =>
      answerOf(
        (api.GET as (path: P, init: object) => Promise<never>)(path, { ...wanted.value, signal }),
      ) as Promise<Answer<P>>,
    enabled: computed(() => wanted.value !== undefined),
    shallow: true,
  })

  watch(
    [query.data, wanted],
    ([answer]) => {
      if (wanted.value === undefined) data.value = undefined
      else if (answer !== undefined) data.value = answer as Answer<P>
    },
    { immediate: true },
  )
  const problem = computed(() => {
    const failed = query.error.value
    return wanted.value === undefined || !failed ? undefined : sentenceOf(failed)
  })
  return {
    data,
    problem,
    fetching: query.isFetching,
    refresh: async () => {
      if (wanted.value !== undefined) await query.refetch()
    },
  }
}

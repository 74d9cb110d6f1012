import { computed, ref, shallowRef, watch } from 'vue'
import { answerOf, api } from '@/api/client'
import type { OwnForm, StandardDraft, StandardName, StandardTrial } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import { useAsAt } from '@/frame/useAsAt'
import { useSession } from '@/people/session'

const TRY_AFTER_MS = 400

/** A standard with a draft of its change: tried while it is edited, saved as a new version. */
export function useStandard() {
  const { asAt, lookingBack } = useAsAt()
  const session = useSession()
  const all = useServerData('/api/standards', () => ({ params: { query: { asAt: asAt.value } } }))
  const shown = ref<StandardName>()
  const draft = ref<StandardDraft>()
  const saved = ref('')
  const trial = shallowRef<StandardTrial>()
  const opening = useAttempt()
  const { attempt, problem: failed } = useAttempt()
  const { latest, forget, busy: trying, problem: wrong } = useAttempt()
  const problem = computed(() => failed.value || opening.problem.value || wrong.value)
  const said = ref('')

  const isInForce = computed(
    () =>
      shown.value?.name === all.data.value?.inForce.name &&
      shown.value?.version === all.data.value?.inForce.version,
  )
  const changed = computed(() => !!draft.value && JSON.stringify(draft.value) !== saved.value)
  const maySave = computed(() => session.person?.role === 'administrator' && !lookingBack.value)

  async function show(name: StandardName) {
    await opening.attempt(async () => {
      const answer = await answerOf(
        api.GET('/api/standards/{name}/{version}', {
          params: { path: { name: name.name, version: name.version } },
        }),
      )
      shown.value = name
      draft.value = answer
      saved.value = JSON.stringify(answer)
      trial.value = undefined
      forget()
    })
  }

  watch(
    all.data,
    (standards) => {
      if (standards && !shown.value) void show(standards.inForce)
    },
    { immediate: true },
  )

  let waiting = 0
  watch(
    draft,
    () => {
      window.clearTimeout(waiting)
      if (!changed.value && isInForce.value) {
        trial.value = undefined
        forget()
        return
      }
      waiting = window.setTimeout(() => void tryOut(), TRY_AFTER_MS)
    },
    { deep: true },
  )

  async function tryOut() {
    const tried = draft.value
    if (!tried) return
    await latest(
      () => answerOf(api.POST('/api/standard-trials', { body: tried })),
      (answer) => (trial.value = answer),
    )
  }

  async function say(work: () => Promise<string>) {
    said.value = ''
    said.value = (await attempt(work)) ?? ''
  }

  /** Saves the draft as a new version; another name makes a standard of its own. */
  const save = (note: string) =>
    say(async () => {
      if (!draft.value) return ''
      const sameName = draft.value.name.trim() === shown.value?.name
      const name = await answerOf(
        api.POST('/api/standards', {
          body: {
            draft: draft.value,
            basedOn: (sameName && shown.value?.version) || 0,
            note,
          },
        }),
      )
      await all.refresh()
      await show(name)
      return `Saved as ${name.name} ${name.version}. It holds when it is put in force.`
    })

  const putInForce = () =>
    say(async () => {
      if (!shown.value) return ''
      await answerOf(api.PUT('/api/standards/in-force', { body: shown.value }))
      await all.refresh()
      return `${shown.value.name} ${shown.value.version} is in force from now on.`
    })

  function setOwn(own: OwnForm[]) {
    if (draft.value) draft.value = { ...draft.value, own }
  }

  function discard() {
    draft.value = JSON.parse(saved.value) as StandardDraft
  }

  return {
    all,
    shown,
    draft,
    changed,
    isInForce,
    maySave,
    trial,
    trying,
    problem,
    said,
    show,
    save,
    putInForce,
    setOwn,
    discard,
  }
}

export type StandardEditor = ReturnType<typeof useStandard>

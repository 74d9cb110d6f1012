import { computed, ref, shallowRef, watch } from 'vue'
import {
  call,
  Problem,
  withQuery,
  type OwnForm,
  type StandardDraft,
  type StandardName,
  type Standards,
  type Trial,
} from '@/api/client'
import { useServerData } from '@/api/useServerData'
import { useAsAt } from '@/frame/useAsAt'
import { useSession } from '@/people/session'

const TRY_AFTER_MS = 400

/** A standard with a draft of its change: tried while it is edited, saved as a new version. */
export function useStandard() {
  const { asAt, lookingBack } = useAsAt()
  const session = useSession()
  const all = useServerData<Standards>(() => withQuery('standards', { asAt: asAt.value }))
  const shown = ref<StandardName>()
  const draft = ref<StandardDraft>()
  const saved = ref('')
  const trial = shallowRef<Trial>()
  const problem = ref('')
  const trying = ref(false)
  const said = ref('')
  let newest = 0

  const isInForce = computed(
    () =>
      shown.value?.name === all.data.value?.inForce.name &&
      shown.value?.version === all.data.value?.inForce.version,
  )
  const changed = computed(() => !!draft.value && JSON.stringify(draft.value) !== saved.value)
  const maySave = computed(() => session.person?.role === 'administrator' && !lookingBack.value)

  async function show(name: StandardName) {
    try {
      const answer = await call<StandardDraft>(
        'GET',
        `standards/${encodeURIComponent(name.name)}/${name.version}`,
      )
      shown.value = name
      draft.value = answer
      saved.value = JSON.stringify(answer)
      trial.value = undefined
      problem.value = ''
    } catch (e) {
      problem.value = e instanceof Problem ? e.message : String(e)
    }
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
        problem.value = ''
        return
      }
      waiting = window.setTimeout(() => void tryOut(), TRY_AFTER_MS)
    },
    { deep: true },
  )

  async function tryOut() {
    const mine = ++newest
    trying.value = true
    try {
      const answer = await call<Trial>('POST', 'standard-trials', draft.value)
      if (mine !== newest) return
      trial.value = answer
      problem.value = ''
    } catch (e) {
      if (mine !== newest) return
      trial.value = undefined
      problem.value = e instanceof Problem ? e.message : String(e)
    } finally {
      if (mine === newest) trying.value = false
    }
  }

  async function attempt(work: () => Promise<string>) {
    said.value = ''
    try {
      said.value = await work()
      problem.value = ''
    } catch (e) {
      problem.value = e instanceof Problem ? e.message : String(e)
    }
  }

  /** Saves the draft as a new version; another name makes a standard of its own. */
  const save = (note: string) =>
    attempt(async () => {
      const sameName = draft.value?.name.trim() === shown.value?.name
      const name = await call<StandardName>('POST', 'standards', {
        draft: draft.value,
        basedOn: sameName ? shown.value?.version : 0,
        note,
      })
      await all.refresh()
      await show(name)
      return `Saved as ${name.name} ${name.version}. It holds when it is put in force.`
    })

  const putInForce = () =>
    attempt(async () => {
      await call('PUT', 'standards/in-force', shown.value)
      await all.refresh()
      return `${shown.value?.name} ${shown.value?.version} is in force from now on.`
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

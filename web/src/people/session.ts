import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { Session } from '@/api/types'

/** Who is signed in. */
export const useSession = defineStore('session', () => {
  const session = ref<Session>()
  const person = computed(() => session.value?.person)
  /** Whether this person may start drills and bring facts in. */
  const mayWork = computed(
    () => person.value?.role === 'operator' || person.value?.role === 'administrator',
  )

  async function load() {
    session.value = await answerOf(api.GET('/api/session'))
  }

  async function signIn(name: string, password: string) {
    session.value = await answerOf(api.POST('/api/session', { body: { name, password } }))
  }

  async function signOut() {
    await answerOf(api.DELETE('/api/session'))
    await load()
  }

  return { session, person, mayWork, load, signIn, signOut }
})

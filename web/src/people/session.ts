import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { call, type Session } from '@/api/client'

/** Who is signed in. */
export const useSession = defineStore('session', () => {
  const session = ref<Session>()
  const person = computed(() => session.value?.person)
  /** Whether this person may start drills and bring facts in. */
  const mayWork = computed(
    () => person.value?.role === 'operator' || person.value?.role === 'administrator',
  )

  async function load() {
    session.value = await call<Session>('GET', 'session')
  }

  async function signIn(name: string, password: string) {
    session.value = await call<Session>('POST', 'session', { name, password })
  }

  async function signOut() {
    await call('DELETE', 'session')
    await load()
  }

  return { session, person, mayWork, load, signIn, signOut }
})

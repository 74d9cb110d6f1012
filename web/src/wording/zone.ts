import { ref } from 'vue'

/** The zone that times are shown in: this browser's, unless the person chose another. Evidence is in UTC always. */
const KEPT = 'hard-proof.zone'

export const browserZone = Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC'

export function isZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name })
    return true
  } catch {
    return false
  }
}

function kept(): string {
  const name = typeof localStorage === 'undefined' ? null : localStorage.getItem(KEPT)
  return name && isZone(name) ? name : ''
}

/** What was chosen; empty for the browser's own. */
export const chosenZone = ref(kept())

export const zone = (): string => chosenZone.value || browserZone

export function chooseZone(name: string) {
  chosenZone.value = name
  if (typeof localStorage === 'undefined') return
  if (name) localStorage.setItem(KEPT, name)
  else localStorage.removeItem(KEPT)
}

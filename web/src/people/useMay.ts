import { computed } from 'vue'
import { useAsAt } from '@/frame/useAsAt'
import { useSession } from './session'

/** Whether this person may change something here and now, and why not: empty where it may be. */
export function useMay() {
  const session = useSession()
  const { lookingBack } = useAsAt()

  function whyNot(who: string, may: boolean): string {
    if (lookingBack.value)
      return 'You are looking back, so nothing can be changed. Go to now first.'
    return may ? '' : `${who} do this; you are signed in as ${session.person?.role ?? 'nobody'}.`
  }

  return {
    /** Starting drills, bringing facts in, writing policies. */
    whyNotWork: computed(() => whyNot('Operators and administrators', session.mayWork)),
    whyNotKeepStandards: computed(() =>
      whyNot('Administrators', session.person?.role === 'administrator'),
    ),
  }
}

import { onScopeDispose } from 'vue'
import type { RunView } from './types'

interface Handlers {
  /** A drill run changed. */
  run?: (run: RunView) => void
  /** An evaluation would come out differently now. */
  facts?: () => void
  /** A sweep over a store has read something. */
  sweep?: () => void
  /** A store is being listed, or was. */
  census?: () => void
  /** A rehearsal goes on. */
  rehearsal?: () => void
}

const handlers = new Set<Handlers>()
let source: EventSource | undefined

function open() {
  source = new EventSource('/api/events')
  source.addEventListener('run', (event) => {
    const run = JSON.parse((event as MessageEvent<string>).data) as RunView
    handlers.forEach((h) => h.run?.(run))
  })
  source.addEventListener('facts', () => handlers.forEach((h) => h.facts?.()))
  source.addEventListener('rehearsal', () => handlers.forEach((h) => h.rehearsal?.()))
  source.addEventListener('census', () => handlers.forEach((h) => h.census?.()))
  source.addEventListener('sweep', () => handlers.forEach((h) => h.sweep?.()))
  let wasOpen = false
  source.addEventListener('open', () => {
    // What happened while the connection was away is not sent again, so everything is asked anew.
    if (wasOpen) handlers.forEach((h) => h.facts?.())
    wasOpen = true
  })
}

/** Listens to what changes on the server as long as the component lives. One stream for the page. */
export function useEvents(mine: Handlers): void {
  handlers.add(mine)
  if (!source || source.readyState === EventSource.CLOSED) open()
  onScopeDispose(() => {
    handlers.delete(mine)
    if (handlers.size === 0) {
      source?.close()
      source = undefined
    }
  })
}

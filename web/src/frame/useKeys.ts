import { onMounted, onUnmounted } from 'vue'

/** Whether the key belongs to a field or a dialog and not to the page. */
function isTyping(event: KeyboardEvent): boolean {
  const target = event.target
  if (!(target instanceof HTMLElement)) return false
  return (
    target.isContentEditable ||
    ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) ||
    target.closest('[role="dialog"], [role="listbox"], [role="menu"]') !== null
  )
}

/** Keys of a view, such as `j` or `Ctrl+k`. While typing only `Escape` and those with Ctrl come through. */
export function useKeys(keys: Record<string, (event: KeyboardEvent) => void>): void {
  function onKey(event: KeyboardEvent) {
    if (event.altKey || event.metaKey || event.defaultPrevented) return
    if (isTyping(event) && event.key !== 'Escape' && !event.ctrlKey) return
    const handler = keys[event.ctrlKey ? `Ctrl+${event.key}` : event.key]
    if (handler) handler(event)
  }
  onMounted(() => window.addEventListener('keydown', onKey))
  onUnmounted(() => window.removeEventListener('keydown', onKey))
}

/** A handler that also keeps the browser from doing what it does with the key. */
export function prevented(work: () => void) {
  return (event: KeyboardEvent) => {
    event.preventDefault()
    work()
  }
}

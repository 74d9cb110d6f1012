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

/** Keys of a view. `Escape` also comes through while typing. Keys with Ctrl, Alt or Meta do not. */
export function useKeys(keys: Record<string, (event: KeyboardEvent) => void>): void {
  function onKey(event: KeyboardEvent) {
    if (event.ctrlKey || event.altKey || event.metaKey || event.defaultPrevented) return
    if (isTyping(event) && event.key !== 'Escape') return
    const handler = keys[event.key]
    if (handler) handler(event)
  }
  onMounted(() => window.addEventListener('keydown', onKey))
  onUnmounted(() => window.removeEventListener('keydown', onKey))
}

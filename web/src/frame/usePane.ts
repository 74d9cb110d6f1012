import { ref } from 'vue'

const STORED = 'hard-proof-case-width'
const LEAST = 380

function most(): number {
  return Math.max(LEAST, window.innerWidth - 420)
}

/** The width of the case file in pixels, dragged or by keys, kept for the next time. */
export function usePane() {
  const width = ref(Math.min(most(), Number(localStorage.getItem(STORED)) || 500))

  function set(to: number) {
    width.value = Math.round(Math.min(most(), Math.max(LEAST, to)))
    localStorage.setItem(STORED, String(width.value))
  }

  function drag(event: PointerEvent) {
    const handle = event.currentTarget as HTMLElement
    handle.setPointerCapture(event.pointerId)
    const move = (e: PointerEvent) => set(window.innerWidth - e.clientX)
    const end = () => {
      handle.removeEventListener('pointermove', move)
      handle.removeEventListener('pointerup', end)
      handle.removeEventListener('pointercancel', end)
    }
    handle.addEventListener('pointermove', move)
    handle.addEventListener('pointerup', end)
    handle.addEventListener('pointercancel', end)
  }

  return { width, drag, grow: (by: number) => set(width.value + by) }
}

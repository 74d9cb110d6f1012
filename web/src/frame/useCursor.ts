import { nextTick, ref } from 'vue'
import { prevented } from './useKeys'

/**
 * The row of a long list that keys act on, kept in sight and in focus while it moves.
 *
 * @param rows the list as it is shown; the row at the cursor has the class `cursor`
 * @param height of a row in pixels
 * @param moved called with the key of the row it came to
 */
export function useCursor(
  rows: () => readonly { key: string }[],
  height: number,
  moved: (key: string) => void,
) {
  const cursor = ref('')
  const scroller = ref<{ $el: HTMLElement }>()

  function keepInSight(index: number) {
    const box = scroller.value?.$el
    if (!box) return
    const top = index * height
    if (top < box.scrollTop) box.scrollTop = top
    else if (top + height > box.scrollTop + box.clientHeight)
      box.scrollTop = top + height - box.clientHeight
  }

  async function moveTo(index: number) {
    const row = rows()[index]
    if (!row) return
    cursor.value = row.key
    keepInSight(index)
    moved(row.key)
    await nextTick()
    scroller.value?.$el.querySelector<HTMLElement>('.cursor')?.focus()
  }

  function move(step: number) {
    const at = rows().findIndex((r) => r.key === cursor.value)
    void moveTo(at < 0 ? 0 : Math.min(rows().length - 1, Math.max(0, at + step)))
  }

  const keys = {
    j: prevented(() => move(1)),
    ArrowDown: prevented(() => move(1)),
    k: prevented(() => move(-1)),
    ArrowUp: prevented(() => move(-1)),
  }
  return { cursor, scroller, moveTo, keys }
}

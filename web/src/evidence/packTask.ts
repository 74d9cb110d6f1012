import { Problem, answerOf, api } from '@/api/client'
import type { PackTask } from '@/api/types'

/** Asks for a task until it is over; `told` of each answer on the way. */
export async function finished(
  begun: PackTask,
  told: (task: PackTask) => void = () => {},
): Promise<PackTask> {
  let task = begun
  while (task.state === 'working') {
    told(task)
    await new Promise((resolve) => setTimeout(resolve, 250))
    task = await answerOf(api.GET('/api/pack-tasks/{id}', { params: { path: { id: task.id } } }))
  }
  if (task.state !== 'done') throw new Problem(0, task.problem ?? 'It failed.')
  return task
}

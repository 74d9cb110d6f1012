import { Problem, answerOf, api } from '@/api/client'
import type { PackTask } from '@/api/types'

/** Asks for a task until it is over. */
export async function finished(begun: PackTask): Promise<PackTask> {
  let task = begun
  while (task.state === 'working') {
    await new Promise((resolve) => setTimeout(resolve, 250))
    task = await answerOf(api.GET('/api/pack-tasks/{id}', { params: { path: { id: task.id } } }))
  }
  if (task.state === 'failed') throw new Problem(0, task.problem ?? 'It failed.')
  return task
}

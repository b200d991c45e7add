/** What is said of dated tasks: done, moved, not needed; each under an id of its own, and taken back by it. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { newId, Problem, type Schema } from '@/api/client'
import { written } from '@/offline/outbox'

export type Task = Schema['TaskOut']
export type Said = { tasks: Task[]; ids: string[]; words: string }

/** Tasks of one kind at one stop, due on the same day: they are done together. */
export interface TaskGroup {
  key: string
  kind: Task['kind']
  due: string
  part: number
  site: string
  stop: string | null
  tasks: Task[]
}

/** The tree that a task is of, or the batch that is still to be planted. */
export const subjectOf = (task: Task) => (task.tree_id ?? task.planting_id)!

export function grouped(tasks: Task[]): TaskGroup[] {
  const found = new Map<string, TaskGroup>()
  for (const task of tasks) {
    const key = [task.kind, task.part, task.site_id, task.stop, task.due_on, task.reason].join('/')
    const group = found.get(key)
    if (group) group.tasks.push(task)
    else
      found.set(key, {
        key,
        kind: task.kind,
        due: task.due_on,
        part: task.part,
        site: task.site_name,
        stop: task.stop,
        tasks: [task],
      })
  }
  return [...found.values()]
}

export function useCare(after: () => Promise<unknown> | void) {
  const { t } = useI18n()
  const busy = ref(false)
  const failed = ref('')
  const said = ref<Said | null>(null)
  const title = (task: Task) => t(`task.${task.kind}.title`, { part: task.part })

  async function say(tasks: Task[], act: Schema['ActIn']['act'], day: string | null, reason: string) {
    busy.value = true
    failed.value = ''
    const ids: string[] = []
    try {
      for (const task of tasks) {
        const id = newId()
        const body = { tree_id: task.tree_id, planting_id: task.planting_id, key: task.key, act, day, reason }
        await written({ kind: 'care', id, body })
        ids.push(id)
      }
      const words = { done: 'care.saidDone', moved: 'care.saidMoved', dismissed: 'care.saidDismissed' }[act]
      said.value = { tasks, ids, words: t(words, { what: title(tasks[0]!) }) }
      await after()
      return true
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      failed.value = e.detail === 'offline' ? t('common.offline') : e.detail
      return false
    } finally {
      busy.value = false
    }
  }
  async function undo() {
    const { tasks, ids } = said.value ?? { tasks: [], ids: [] }
    for (const [n, id] of ids.entries())
      await written({ kind: 'careBack', id: newId(), body: { act_id: id, tree_id: tasks[n]?.tree_id ?? null } })
    said.value = null
    await after()
  }
  return { busy, failed, said, say, undo, title }
}

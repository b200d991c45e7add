/** A check-up under way: answers so far, what the program makes of them, one question at a time. */
import { computed, ref, shallowRef } from 'vue'
import { api, newId, Problem, take, type Schema } from '@/api/client'
import { useClock } from '@/composables/useClock'
import { deviceId, useDevice } from '@/composables/useDevice'
import { lookedAt } from '@/logic/checkupRule'
import { keptAnswer } from '@/offline/kept'
import { written } from '@/offline/outbox'

type Finding = Schema['Question']['finding']
type Task = Schema['CheckupIn']['tasks'] extends (infer T)[] | undefined ? T : never

export function useCheckup(treeId: () => string) {
  const { person, ensurePerson } = useDevice()
  const { nowIso } = useClock()
  const findings = ref<Partial<Record<Finding, string>>>({})
  const order = ref<Finding[]>([])
  const skipped = ref<Finding[]>([])
  const looked = shallowRef<Schema['CheckupLook'] | null>(null)
  /** On past the point where the act is certain, to find the cause. */
  const further = ref(false)
  const ended = ref(false)
  /** Under which id, and as of when, it is kept: the same when it has to be sent again. */
  let sent: { id: string; at: string } | null = null

  const question = computed(() => looked.value?.asked.find((q) => !skipped.value.includes(q.finding)) ?? null)
  /** Nothing that is left, and was not skipped, would change what to do. */
  const enough = computed(() => !looked.value?.asked.some((q) => q.worth && !skipped.value.includes(q.finding)))
  const over = computed(
    () => ended.value || !question.value || (enough.value && !further.value && order.value.length > 0),
  )

  async function look() {
    const params = { path: { tree_id: treeId() } }
    looked.value = await take(
      api.POST('/api/trees/{tree_id}/checkup/look', { params, body: { findings: findings.value } }),
    ).catch(async (e: unknown) => {
      const here = e instanceof Problem && (e.status === 0 || e.status === 503) ? await lookedHere() : null
      if (!here) throw e
      return here
    })
  }
  /** The same by the rule that the phone took along; null where it has none of this tree. */
  async function lookedHere() {
    const rule = await keptAnswer<Schema['CheckupRule']>('/api/checkup-rule')
    const known = await keptAnswer<Schema['CheckupKnown']>(`/api/trees/${treeId()}/checkup`)
    return rule && known ? lookedAt(rule.data, known.data, findings.value) : null
  }
  /** The first look; what was felt a moment ago is answered already. */
  async function begin() {
    await look()
    const felt = looked.value!.felt_now as Partial<Record<Finding, string>>
    if (!Object.keys(felt).length) return
    findings.value = { ...felt }
    order.value = Object.keys(felt) as Finding[]
    await look()
  }
  async function answer(value: string) {
    const asked = question.value!.finding
    sent = null
    const before = findings.value
    findings.value = { ...before, [asked]: value }
    try {
      await look()
      order.value = [...order.value, asked]
    } catch (e) {
      findings.value = before
      throw e
    }
  }
  const skip = () => {
    skipped.value = [...skipped.value, question.value!.finding]
  }
  /** The last answer is taken back and asked again. */
  async function back() {
    const last = order.value.at(-1)
    if (!last) return
    order.value = order.value.slice(0, -1)
    skipped.value = []
    const rest = { ...findings.value }
    delete rest[last]
    findings.value = rest
    sent = null
    ended.value = false
    await look()
  }
  /** send: what goes before it, under its id. */
  async function keep(tasks: string[], hold: boolean, note: string, send?: (id: string) => Promise<unknown>) {
    if (!(await ensurePerson())) return null
    sent ??= { id: newId(), at: nowIso() }
    const { id, at } = sent
    await send?.(id)
    const body = {
      tree_id: treeId(),
      happened_at: at,
      device_id: deviceId(),
      person_id: person.value?.id ?? null,
      findings: findings.value,
      tasks: tasks as Task[],
      hold,
      note,
    }
    const kept = await written<Schema['CheckupOut']>({ kind: 'checkup', id, body })
    sent = null
    return kept
  }
  return { findings, order, looked, question, enough, over, further, ended, begin, look, answer, skip, back, keep }
}

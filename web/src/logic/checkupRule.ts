/**
 * The check-up's rule for a phone without signal: the same as the program's own (core/looking/checkup.py), by the same
 * figures, which come with it. A test holds the two to each other. It is the one rule of the trade that lives in a page.
 */
import type { Schema } from '@/api/client'
import { daysOn } from './days'

type Rule = Schema['CheckupRule']
type Known = Schema['CheckupKnown']
type Look = Schema['CheckupLook']
type Found = Record<string, string>
const sum = (values: number[]) => values.reduce((total, one) => total + one, 0)
const rounded = (value: number, decimals: number) => Number(value.toFixed(decimals))

/** Probability of each cause after what was found. */
function posterior(rule: Rule, found: Found): number[] {
  const product = [...rule.prior]
  for (const one of rule.findings) {
    const row = one.likelihood[one.answers.indexOf(found[one.finding] ?? '')]
    row?.forEach((p, c) => (product[c]! *= p))
  }
  const all = sum(product)
  return product.map((p) => p / all)
}

/** The act of least expected loss, and that loss; a wet ball is never watered. */
function bestAct(rule: Rule, causes: number[], wetBall: boolean) {
  const expected = rule.loss.map((row) => sum(row.map((loss, c) => loss * causes[c]!)))
  let best = -1
  rule.acts.forEach((act, i) => {
    if (wetBall && rule.waterings.includes(act)) return
    const less = (n: number) => rounded(expected[n]!, rule.fine_decimals)
    if (best < 0 || less(i) < less(best)) best = i
  })
  return { act: rule.acts[best]!, loss: expected[best]! }
}

const entropy = (causes: number[]) => -sum(causes.filter((p) => p > 0).map((p) => p * Math.log2(p)))

/** Tests that were not taken, the most telling first. */
function testsLeft(rule: Rule, found: Found) {
  const now = posterior(rule, found)
  const wet = found.ball_feel === 'wet'
  const loss = bestAct(rule, now, wet).loss
  const bits = entropy(now)
  return rule.findings
    .filter((one) => !(one.finding in found) && one.minutes > 0)
    .map((one, order) => {
      let lossAfter = 0
      let bitsAfter = 0
      one.answers.forEach((answer, a) => {
        const joint = now.map((p, c) => p * one.likelihood[a]![c]!)
        const p = sum(joint)
        const then = joint.map((value) => value / p)
        lossAfter += p * bestAct(rule, then, wet || (one.finding === 'ball_feel' && answer === 'wet')).loss
        bitsAfter += p * entropy(then)
      })
      return {
        finding: one.finding,
        answers: one.answers,
        worth: loss - lossAfter >= rule.enough_days,
        first: rounded((loss - lossAfter) / one.minutes, rule.decimals),
        then: rounded((bits - bitsAfter) / one.minutes, rule.decimals),
        order,
      }
    })
    .sort((a, b) => b.first - a.first || b.then - a.then || a.order - b.order)
}

/** What one answer says for or against each cause [dB]. */
function evidence(rule: Rule, finding: string, value: string): number[] {
  const one = rule.findings.find((f) => f.finding === finding)!
  const likelihood = one.likelihood[one.answers.indexOf(value)]!
  const weighted = rule.prior.map((p, c) => p * likelihood[c]!)
  const all = sum(weighted)
  return likelihood.map((p, c) => 10 * Math.log10(p / ((all - weighted[c]!) / (1 - rule.prior[c]!))))
}

function verdictOf(rule: Rule, found: Found, causes: number[]): Look['verdict'] {
  if (found.scratch === 'brown') return 'dead'
  const first = causes.indexOf(Math.max(...causes))
  if (causes[first]! >= rule.sure) return rule.causes[first]!
  for (const [name, group] of Object.entries(rule.groups))
    if (sum(group!.map((cause) => causes[rule.causes.indexOf(cause)]!)) >= rule.sure) return name as Look['verdict']
  return 'unclear'
}

function actionsOf(rule: Rule, found: Found, act: Look['water_act'], verdict: Look['verdict'], causes: number[]) {
  const actions: Look['actions'] = act && act !== 'carry_on' ? [act] : []
  for (const one of rule.seen) if (found[one.finding] === one.answer) actions.push(one.action)
  if (causes[rule.causes.indexOf('delivery')]! >= rule.catch) actions.push('catch_test')
  return [...new Set([...actions, ...(rule.by_verdict[verdict] ?? [])])]
}

function lookAgainDays(rule: Rule, verdict: Look['verdict'], act: Look['water_act']): number {
  const own = rule.look_again[verdict] ?? rule.look_again_days[rule.causes.indexOf(verdict as never)]!
  if (act && rule.waterings.includes(act)) return Math.min(own, rule.after_water_days)
  return act === 'stop_water' ? Math.min(own, rule.after_stop_days) : own
}

/** What findings come to for a tree, and what to ask next. known: what the program knew of the tree by itself. */
export function lookedAt(rule: Rule, known: Known, findings: Found): Look {
  const found: Found = { ...findings, ...known.own }
  const causes = posterior(rule, found)
  const verdict = verdictOf(rule, found, causes)
  const dead = verdict === 'dead'
  const act = dead ? null : bestAct(rule, causes, found.ball_feel === 'wet').act
  const deadAct = known.dead_before ? 'remove_and_replant' : 'look_again_before_removal'
  const actions: Look['actions'] = dead ? [deadAct] : actionsOf(rule, found, act, verdict, causes)
  const left = testsLeft(rule, found).filter((one) => known.in_leaf || !rule.of_leaves.includes(one.finding))
  const asked: Look['asked'] = left.map(({ finding, answers, worth }) => ({ finding, answers, worth }))
  if (!('trunk' in findings)) asked.push({ finding: 'trunk', answers: rule.trunk, worth: false })
  const told = Object.entries(found)
    .filter(([name]) => rule.findings.some((one) => one.finding === name))
    .map(([name, value]) => ({ finding: name as Look['asked'][0]['finding'], value, of: evidence(rule, name, value) }))
  const order = causes
    .map((_, c) => c)
    .sort((a, b) => {
      const by = rounded(causes[b]!, rule.fine_decimals) - rounded(causes[a]!, rule.fine_decimals)
      return by || a - b
    })
  return {
    verdict,
    water_act: act,
    causes: order.map((c) => ({
      cause: rule.causes[c]!,
      probability: causes[c]!,
      evidence: told.map(({ finding, value, of }) => ({ finding, value, weight_db: of[c]! })),
    })),
    asked,
    enough: !left.some((one) => one.worth),
    actions,
    tasks: actions.filter((one) => rule.tasks.includes(one)) as Look['tasks'],
    look_on: daysOn(known.today, lookAgainDays(rule, verdict, act)),
    own: known.own,
    felt_now: {},
    in_leaf: known.in_leaf,
  }
}

/** What waits to be sent: each under the id that it was given when it was entered, so that sent twice it is one. */
import { api, type Schema } from '@/api/client'
import type { Moment } from './time'

/** The shape of rows; what an older version of the program left is read as it is. */
export const SHAPE = 1
export const MADE_UNDER = 'June-Made-Under'

interface Of {
  entry: { id: string; body: Schema['EntryIn'] }
  entries: { id: string; body: Schema['BatchIn'] }
  checkup: { id: string; body: Schema['CheckupIn'] }
  picture: {
    id: string
    body: {
      tree_id: string
      occasion: Schema['PictureOut']['occasion']
      entry_id: string | null
      person_id: string | null
    }
    file: Blob
  }
  care: { id: string; body: Schema['ActIn'] }
  careBack: { id: string; body: { act_id: string; tree_id: string | null } }
}
export type Kind = keyof Of
export type Write = { [K in Kind]: { kind: K } & Of[K] }[Kind]

/** waits for signal; when: its time can't be told; late: an owner is asked; refused: the program did not take it. */
export type State = 'waits' | 'when' | 'late' | 'refused'

export type Row = Write & {
  seq?: number
  shape: number
  moment: Moment
  /** The account that entered it, and under which sign-in; null where there are none. */
  account: string | null
  under: string | null
  /** The tree's tag, for whoever looks at what waits. */
  tag: string
  tries: number
  state: State
  why?: { status: number; code: string; field: string; detail: string }
}

const headers = (row: Pick<Row, 'under'>) => (row.under ? { [MADE_UNDER]: row.under } : {})

type Send = { [K in Kind]: (row: Of[K] & { under: string | null; day: string | null }, ask_again: boolean) => unknown }

const SEND = {
  entry: ({ id, body, under }, ask_again) =>
    api.PUT('/api/log/{entry_id}', {
      params: { path: { entry_id: id }, query: { ask_again } },
      body,
      headers: headers({ under }),
    }),
  entries: ({ body, under }, ask_again) =>
    api.PUT('/api/log', { params: { query: { ask_again } }, body, headers: headers({ under }) }),
  checkup: ({ id, body, under }) =>
    api.PUT('/api/checkups/{checkup_id}', { params: { path: { checkup_id: id } }, body, headers: headers({ under }) }),
  picture: ({ id, body, file, under, day }) => {
    const form = new FormData()
    form.append('file', file)
    for (const [name, value] of Object.entries({ ...body, day })) if (value) form.append(name, value)
    const options = { body: form as never, bodySerializer: (sent: unknown) => sent as FormData }
    return api.PUT('/api/pictures/{picture_id}', {
      params: { path: { picture_id: id } },
      ...options,
      headers: headers({ under }),
    })
  },
  care: ({ id, body, under, day }) =>
    api.PUT('/api/care-acts/{act_id}', {
      params: { path: { act_id: id } },
      body: body.act === 'done' && day ? { ...body, day } : body,
      headers: headers({ under }),
    }),
  careBack: ({ body, under }) =>
    api.POST('/api/care-acts/{act_id}/withdraw', {
      params: { path: { act_id: body.act_id } },
      headers: headers({ under }),
    }),
} satisfies Send

type Sent = ReturnType<(typeof SEND)[Kind]>

/** Send a row. day: the civil day on which it was entered, where that is another than the one on which it is sent. */
export function send(row: Row, askAgain: boolean, day: string | null): Sent {
  return (SEND[row.kind] as (row: unknown, ask: boolean) => Sent)({ ...row, day }, askAgain)
}

/** The trees that a row is of. */
export function treesOf(row: Write): string[] {
  if (row.kind === 'entries') return row.body.entries.map((entry) => entry.tree_id)
  return row.body.tree_id ? [row.body.tree_id] : []
}

/** Ids of rows that must be there before this one. */
export function restsOn(row: Write): string[] {
  if (row.kind === 'entry') return [row.body.voids, row.body.corrects].filter((id) => id != null)
  return row.kind === 'careBack' ? [row.body.act_id] : []
}

/** Ids that a row makes. */
export const makes = (row: Write): string[] =>
  row.kind === 'entries' ? row.body.entries.map((entry) => entry.id) : [row.id]

/** Entries of the log among rows, with their ids. */
export function entriesOf(row: Write): (Schema['EntryIn'] & { id: string })[] {
  if (row.kind === 'entries') return row.body.entries
  return row.kind === 'entry' ? [{ ...row.body, id: row.id }] : []
}

/** The same row at another time. */
export function at(row: Row, ms: number): Row {
  const happened_at = new Date(ms).toISOString()
  const moment = { ...row.moment, at_ms: ms }
  if (row.kind === 'entries') {
    const entries = row.body.entries.map((entry) => ({ ...entry, happened_at }))
    return { ...row, moment, body: { ...row.body, entries } }
  }
  if (row.kind === 'entry' && row.body.corrects) return { ...row, moment } // it is of when the other one was
  if (row.kind === 'entry') return { ...row, moment, body: { ...row.body, happened_at } }
  if (row.kind === 'checkup') return { ...row, moment, body: { ...row.body, happened_at } }
  return { ...row, moment }
}

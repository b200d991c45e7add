/** What waits, in a few words. */
import { i18n } from '@/i18n'
import { text } from '@/units'
import type { Row } from './rows'

const { t } = i18n.global

export function wordsOf(row: Row): string {
  if (row.kind === 'entries') {
    const litres = row.body.entries.reduce((sum, entry) => sum + (entry.volume_l ?? 0), 0)
    const n = row.body.entries.length
    return t('signal.what.entries', { amount: text('volume', litres), n }, n)
  }
  if (row.kind === 'entry') {
    const { kind, volume_l, reason, seen, note } = row.body
    if (kind === 'water' && row.body.corrects) return t('signal.what.corrected', { amount: text('volume', volume_l!) })
    if (kind === 'water') return t('signal.what.water', { amount: text('volume', volume_l!) })
    if (kind === 'skip') return t('signal.what.skip', { why: t(`skip.${reason}`).toLowerCase() })
    if (kind === 'note') return [seen ? t(`seen.${seen}`) : '', note].filter(Boolean).join(': ')
    return t(kind === 'void' ? 'signal.what.void' : 'signal.what.reading')
  }
  return t(`signal.what.${row.kind}`)
}

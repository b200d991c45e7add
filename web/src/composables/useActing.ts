/** One write at a time: busy while it runs, the words that tell it was done, or why it was not. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { keepFocus } from '@/composables/useFocus'
import { useMeasures } from '@/composables/useMeasures'
import { Problem } from '@/api/client'

/** What is done with typed measures waits until all of them can be read. */
export function useActing(after: () => Promise<unknown>) {
  const { t } = useI18n()
  const busy = ref(false)
  const said = ref('')
  const failed = ref('')
  const { unread } = useMeasures()

  /** work gives null where the person changed their mind; typed: it sends what the fields hold. True where it is done. */
  async function act(work: () => Promise<unknown>, words: string, { typed = true } = {}): Promise<boolean> {
    failed.value = typed ? unread.value : ''
    said.value = ''
    if (failed.value) return false
    busy.value = true
    try {
      if ((await work()) === null) return false
      said.value = words
      await after()
      return true
    } catch (e) {
      const why = e instanceof Problem ? e.detail : String(e)
      failed.value = why === 'offline' ? t('common.offline') : t('error.refused', { detail: why })
      return false
    } finally {
      busy.value = false
      void keepFocus()
    }
  }
  return { busy, said, failed, act, unread }
}

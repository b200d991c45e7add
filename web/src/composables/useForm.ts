/** A form that loses nothing: what is wrong stands beside its field, what was typed stays, drafts survive a reload. */
import { computed, nextTick, reactive, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useMeasures } from '@/composables/useMeasures'
import { Problem, type Wrong } from '@/api/client'

/** Bring the first field that is wrong before the eyes and the keys. */
async function showFirst() {
  await nextTick()
  const at = document.querySelector<HTMLElement>(
    'form .field.bad :is(input, select, textarea), form [aria-invalid="true"]',
  )
  at?.focus()
}

/** lasting: the draft outlives the browser's tab, for work that takes days. */
export function useForm<T extends object>(key: string, values: T, { lasting = false } = {}) {
  const { t } = useI18n()
  const store = lasting ? localStorage : sessionStorage
  const draftKey = `june-shade-draft-${key}`
  const kept = store.getItem(draftKey)
  const form = reactive({ ...values, ...(kept ? (JSON.parse(kept) as Partial<T>) : {}) }) as T
  const hadDraft = kept !== null
  const errors = ref<Record<string, Wrong>>({})
  const unreadable = reactive<Record<string, boolean>>({})
  const refused = ref('')
  const busy = ref(false)
  const { unread } = useMeasures()

  let touched = hadDraft
  watch(form, () => {
    touched = true
    store.setItem(draftKey, JSON.stringify(form))
  })
  function fill(from: Partial<T>) {
    if (touched) return
    Object.assign(form, from)
    queueMicrotask(() => {
      touched = false
      store.removeItem(draftKey)
    })
  }
  function discard() {
    store.removeItem(draftKey)
  }
  /** required: fields that may not be empty. Runs the write; true where it is done. */
  async function save(required: (keyof T & string)[], write: () => Promise<unknown>): Promise<boolean> {
    errors.value = {}
    for (const name of required) {
      const value = form[name]
      if (value === null || value === '' || value === undefined) errors.value[name] = t('form.required')
    }
    if (Object.keys(errors.value).length || unread.value || Object.values(unreadable).some(Boolean)) {
      refused.value = unread.value || t('form.notSaved')
      void showFirst()
      return false
    }
    busy.value = true
    refused.value = ''
    try {
      await write()
      discard()
      return true
    } catch (e) {
      if (!(e instanceof Problem)) throw e
      errors.value = e.fields
      if (e.version !== null && 'version' in form) (form as { version: number | null }).version = e.version
      refused.value =
        e.version !== null
          ? t('form.stale')
          : e.detail === 'offline'
            ? t('common.offline')
            : Object.keys(e.fields).length
              ? t('form.notSaved')
              : e.detail
      void showFirst()
      return false
    } finally {
      busy.value = false
    }
  }
  const other = computed(() =>
    Object.entries(errors.value)
      .filter(([name]) => !(name in form))
      .map(([name, wrong]): [string, string] => [name, typeof wrong === 'string' ? wrong : wrong.detail]),
  )
  return { form, errors, unreadable, refused, other, busy, fill, save, discard }
}

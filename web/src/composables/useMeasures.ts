/** Measures that can't be read as they are typed: while a page or dialog holds one, nothing typed there is sent. */
import { computed, inject, onBeforeUnmount, provide, reactive, watch, type InjectionKey, type Ref } from 'vue'
import { useI18n } from 'vue-i18n'

const KEY: InjectionKey<Map<string, string>> = Symbol('measures')

/** For whoever sends what its fields hold. unread: the sentence that names those that can't be read, '' = all can. */
export function useMeasures() {
  const { t } = useI18n()
  const bad = reactive(new Map<string, string>())
  provide(KEY, bad)
  const unread = computed(() => (bad.size ? t('form.unread', { fields: [...bad.values()].join(', ') }, bad.size) : ''))
  return { unread }
}

/** For a field: tells whoever sends it that it can't be read. */
export function useMeasure(props: { id: string; label: string }, invalid: Ref<boolean>) {
  const bad = inject(KEY, null)
  watch(
    invalid,
    (is) => {
      if (is) bad?.set(props.id, props.label)
      else bad?.delete(props.id)
    },
    { immediate: true },
  )
  onBeforeUnmount(() => bad?.delete(props.id))
}

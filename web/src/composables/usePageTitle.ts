/** What a page is called in the browser's tab and by a screen reader as it opens. A part without a name leaves it. */
import { watchEffect } from 'vue'
import { useI18n } from 'vue-i18n'

export function usePageTitle(name: () => string | undefined) {
  const { t } = useI18n()
  watchEffect(() => {
    const own = name()
    if (own) document.title = `${own} · ${t('app.name')}`
  })
}

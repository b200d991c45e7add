/** What a composable gives inside a component: run once in one's setup, with the words and an address. */
import { createSSRApp, h } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { renderToString } from 'vue/server-renderer'
import { i18n } from '@/i18n'

export async function within<T>(run: () => T, path = '/') {
  const page = { render: () => h('i') }
  const router = createRouter({ history: createMemoryHistory(), routes: [{ path: '/:any(.*)*', component: page }] })
  await router.push(path)
  let found: T | undefined
  const app = createSSRApp({
    setup() {
      found = run()
      return () => h('i')
    },
  })
  await renderToString(app.use(i18n).use(router))
  return { found: found as T, router }
}

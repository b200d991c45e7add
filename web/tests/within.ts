/** What a composable gives inside a component: run once in one's setup, with the words and an address. */
import { createRenderer, createSSRApp, h } from 'vue'
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

/** The same in a component that lives on: what it watches goes on, until `end`. */
export async function living<T>(run: () => T) {
  const nothing = () => {}
  const node = () => ({})
  const { createApp } = createRenderer<object, object>({
    patchProp: nothing, insert: nothing, remove: nothing, createElement: node, createText: node, createComment: node,
    setText: nothing, setElementText: nothing, parentNode: () => null, nextSibling: () => null,
  }) // prettier-ignore
  let found: T | undefined
  const app = createApp({
    setup() {
      found = run()
      return () => h('i')
    },
  })
  app.use(i18n).mount({})
  return { found: found as T, end: () => app.unmount() }
}

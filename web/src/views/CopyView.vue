<script setup lang="ts">
/** Everything out as one file to keep, and back into an empty program. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { api, Problem, take, type Schema } from '@/api/client'
import PageFrame from '@/components/common/PageFrame.vue'
import { useResource } from '@/composables/useResource'
import { figure } from '@/logic/numbers'

const { t } = useI18n()
const { data: trees } = useResource((signal) =>
  take(api.GET('/api/trees', { params: { query: { limit: 1 } }, signal })),
)
const { data: sites } = useResource((signal) => take(api.GET('/api/sites', { signal })))
const empty = computed(() => trees.value?.count === 0 && sites.value?.length === 0)

/** 0 to 1 while bytes move, null where it is not known how many there are. */
const share = ref<number | null>(null)
const doing = ref<'making' | 'sending' | ''>('')
const said = ref('')
const failed = ref('')
const megabytes = (bytes: number) => figure(bytes / 1e6, 1)

async function begin(what: 'making' | 'sending', work: () => Promise<string>) {
  doing.value = what
  share.value = null
  said.value = failed.value = ''
  try {
    said.value = await work()
  } catch (e) {
    const why = e instanceof Problem ? e.detail : 'offline'
    failed.value = why === 'offline' ? t('copy.lost') : why
  } finally {
    doing.value = ''
  }
}

async function problemOf(answer: Response) {
  const body = (await answer.json().catch(() => ({}))) as Partial<Schema['Problem']>
  return new Problem(answer.status, body.detail ?? answer.statusText, body.field ?? '', {})
}

const save = () =>
  begin('making', async () => {
    const answer = await fetch('/api/backup')
    if (!answer.ok) throw await problemOf(answer)
    const all = Number(answer.headers.get('content-length'))
    const reader = answer.body!.getReader()
    const parts: BlobPart[] = []
    let got = 0
    for (let piece = await reader.read(); !piece.done; piece = await reader.read()) {
      parts.push(piece.value)
      got += piece.value.length
      share.value = all ? got / all : null
    }
    const name = /filename="?([^"]+)"?/.exec(answer.headers.get('content-disposition') ?? '')?.[1] ?? 'june-shade.zip'
    const link = document.createElement('a')
    link.href = URL.createObjectURL(new Blob(parts, { type: 'application/zip' }))
    link.download = name
    link.click()
    setTimeout(() => URL.revokeObjectURL(link.href), 60_000)
    return t('copy.saved', { name, size: megabytes(got) })
  })

const chosen = ref<File | null>(null)
function pick(event: Event) {
  chosen.value = (event.target as HTMLInputElement).files?.[0] ?? null
}
const bringBack = () =>
  begin(
    'sending',
    () =>
      new Promise<string>((done, fail) => {
        const body = new FormData()
        body.append('file', chosen.value!)
        const ask = new XMLHttpRequest() // fetch does not tell how much has been sent
        ask.open('POST', '/api/restore')
        ask.upload.onprogress = (e) =>
          (share.value = e.lengthComputable && e.loaded < e.total ? e.loaded / e.total : null)
        ask.onerror = () => fail(new Problem(0, 'offline', '', {}))
        ask.onload = () => {
          const got = JSON.parse(ask.responseText || '{}') as Schema['Restored'] & Schema['Problem']
          if (ask.status >= 400) fail(new Problem(ask.status, got.detail, got.field ?? '', {}))
          else done(t('copy.restored', { trees: got.trees, entries: got.entries }))
        }
        ask.send(body)
      }),
  )
</script>

<template>
  <PageFrame :title="t('copy.title')">
    <div class="copy">
      <p v-if="said" role="status" class="said">{{ said }}</p>
      <p v-if="failed" role="alert" class="warn">{{ failed }}</p>
      <label v-if="doing" class="progress"
        >{{ t(`copy.${doing}`) }}
        <progress max="1" :value="share ?? undefined" />
      </label>
      <section>
        <h2>{{ t('copy.out') }}</h2>
        <p>{{ t('copy.outWords') }}</p>
        <button type="button" class="button main" :disabled="Boolean(doing)" @click="save">{{ t('copy.save') }}</button>
      </section>
      <section>
        <h2>{{ t('copy.in') }}</h2>
        <p>{{ t(empty ? 'copy.inWords' : 'copy.notEmpty') }}</p>
        <template v-if="empty">
          <p><input type="file" accept=".zip" :aria-label="t('copy.file')" @change="pick" /></p>
          <button type="button" class="button" :disabled="!chosen || Boolean(doing)" @click="bringBack">
            {{ t('copy.restore') }}
          </button>
        </template>
      </section>
      <p class="quiet">{{ t('copy.nightly') }}</p>
    </div>
  </PageFrame>
</template>

<style scoped>
.copy {
  display: grid;
  gap: var(--space-6);
  max-width: 640px;
}
section {
  display: grid;
  gap: var(--space-3);
  justify-items: start;
}
h2 {
  font-size: var(--text-3);
}
.progress {
  display: grid;
  gap: var(--space-2);
}
progress {
  width: 100%;
  height: 16px;
  accent-color: var(--water);
}
.said {
  font-weight: 600;
}
</style>

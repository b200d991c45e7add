<script setup lang="ts">
/** A link, shown to those whose page it leads to. In place of every RouterLink. */
import { computed } from 'vue'
import { RouterLink, useRouter, type RouteLocationRaw } from 'vue-router'
import { useSession } from '@/composables/useSession'

const props = defineProps<{ to: RouteLocationRaw }>()
const router = useRouter()
const { may } = useSession()
const shown = computed(() => may(router.resolve(props.to).meta.needs ?? 'technician'))
</script>

<template>
  <RouterLink v-if="shown" :to="to"><slot /></RouterLink>
</template>

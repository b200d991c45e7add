<script setup lang="ts">
/** To the other language, named in itself: who can't read this page finds the way out. */
import { computed } from 'vue'
import { useSession } from '@/composables/useSession'
import { language, LANGUAGES, OWN_NAME } from '@/i18n/language'

const { chooseLanguage } = useSession()
const other = computed(() => LANGUAGES.find((one) => one !== language.value)!)
</script>

<template>
  <button type="button" :lang="other" @click="chooseLanguage(other)">{{ OWN_NAME[other] }}</button>
</template>

/** What a tree's form chooses from: sites with their stops, kinds of tree, stock sizes. */
import { computed } from 'vue'
import { api, take } from '@/api/client'
import { useResource } from './useResource'

export function useTreeChoices() {
  const { data, loading, error, load } = useResource(async (signal) => {
    const [sites, plants, sizes] = await Promise.all([
      take(api.GET('/api/sites', { signal })),
      take(api.GET('/api/plants', { signal })),
      take(api.GET('/api/stock-sizes', { signal })),
    ])
    return { sites, plants, sizes }
  })
  return {
    sites: computed(() => data.value?.sites),
    plants: computed(() => data.value?.plants),
    sizes: computed(() => data.value?.sizes),
    loading,
    error,
    load,
  }
}

/** What boxes at valves run on a day and after it, for all that Today shows of it. */
import { computed, type Ref } from 'vue'
import { api, take, type Schema } from '@/api/client'
import { useResource } from '@/composables/useResource'
import { afterDay, canStop, ofDay } from '@/logic/boxes'

/** @param day The civil day, undefined while it is not known. */
export function useBoxesToday(day: Ref<string | undefined>) {
  const { data } = useResource((signal) => take(api.GET('/api/boxes', { signal })), [day])
  const boxes = computed(() =>
    (data.value ?? [])
      .map((box) => ({
        box,
        runs: day.value ? ofDay(box, day.value) : [],
        left: box.left.filter((one) => one.day === day.value),
        coming: day.value ? afterDay(box, day.value) : [],
      }))
      .filter(
        ({ box, runs, left, coming }) =>
          runs.length || left.length || coming.length || box.said || box.idle || box.clock_doubted,
      ),
  )
  function put(box: Schema['BoxOut']) {
    data.value = (data.value ?? []).map((one) => (one.id === box.id ? box : one))
  }
  /** The run that a site's line has before it, or under way, from a box that answers. */
  function runOf(siteId: string, line: string | undefined): Schema['BoxRunOut'] | null {
    const here = boxes.value.filter(({ box }) => box.site_id === siteId && !box.said)
    return here.flatMap(({ runs }) => runs).find((run) => run.line_name === line && canStop(run)) ?? null
  }
  return { boxes, put, runOf }
}

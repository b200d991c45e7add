/** The phone's place, taken once when somebody asks for it, and why it could not be. */
import { useI18n } from 'vue-i18n'
import { Problem } from '@/api/client'

const PATIENCE_MS = 20_000
export interface Here {
  latitude_deg: number
  longitude_deg: number
  accuracy_m: number
}

export function useHere() {
  const { t } = useI18n()
  const told = (words: string) => new Problem(0, words, '', {})
  /** Throws a Problem whose words say what to do. */
  function here(): Promise<Here> {
    if (!('geolocation' in navigator) || !window.isSecureContext) return Promise.reject(told(t('here.none')))
    return new Promise((resolve, reject) =>
      navigator.geolocation.getCurrentPosition(
        ({ coords }) =>
          resolve({ latitude_deg: coords.latitude, longitude_deg: coords.longitude, accuracy_m: coords.accuracy }),
        (e) => reject(told(t(e.code === e.PERMISSION_DENIED ? 'here.refused' : 'here.notFound'))),
        { enableHighAccuracy: true, maximumAge: 0, timeout: PATIENCE_MS },
      ),
    )
  }
  return { here }
}

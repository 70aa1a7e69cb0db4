import { ref } from 'vue'
import type { Session } from '../shared/types'
import { api, data } from './api'

/** Who is signed in. */
export const session = ref<Session>()

export async function loadSession(): Promise<Session> {
  session.value = await data(api.GET('/api/session'))
  return session.value
}

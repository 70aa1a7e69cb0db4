import { ref } from 'vue'
import type { Session } from '../shared/types'
import { api, data } from './api'

/** Who is signed in. */
export const session = ref<Session>()

/** Whether the signed-in person's role allows something. The server decides; this keeps what would be refused out of the way. */
export const may = (what: Session['may'][number]) => session.value?.may.includes(what) ?? false

export async function loadSession(): Promise<Session> {
  session.value = await data(api.GET('/api/session'))
  return session.value
}

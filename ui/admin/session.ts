import { ref } from 'vue'
import type { Intake, Permission, Session } from '../shared/types'
import { api, data } from './api'

/** Who is signed in. */
export const session = ref<Session>()

/**
 * Whether the signed-in person may do something in the whole house. The server decides; this keeps what would be refused out of the
 * way.
 */
export const may = (what: Permission) => session.value?.may.includes(what) ?? false

/** Whether they may do it on some intake. */
export const somewhere = (what: Permission) => session.value?.somewhere.includes(what) ?? false

/** Whether they may do it with an intake. */
export const mayOn = (what: Permission, intake: Intake | undefined) => intake?.may.includes(what) ?? false

export async function loadSession(): Promise<Session> {
  session.value = await data(api.GET('/api/session'))
  return session.value
}

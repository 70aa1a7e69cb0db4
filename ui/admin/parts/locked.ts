import { inject, ref, type InjectionKey, type Ref } from 'vue'

/** Whether what is shown may only be looked at; who shows it says so. */
export const lockedKey: InjectionKey<Readonly<Ref<boolean>>> = Symbol('locked')

export const useLocked = () => inject(lockedKey, ref(false))

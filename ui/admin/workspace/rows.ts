import { inject, type InjectionKey, type Ref } from 'vue'

/** The repeating group for whose rows the settings at hand are repeated, or nothing. */
export const rowsHere: InjectionKey<Readonly<Ref<string>>> = Symbol('rows')

export const useRowsHere = () => inject(rowsHere, undefined)

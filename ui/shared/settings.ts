import type { Block, BlockSettings, Field, FieldSettings } from './types'

/**
 * The settings that stand under the name of a thing's kind, as one object to read, set and delete in. The object under that name is
 * made with the first setting and goes with the last, so that looking never changes anything.
 */
function settings<S extends object>(of: { kind: string }): S {
  const holder = of as unknown as Record<string, Partial<S> | undefined>
  return new Proxy({} as S, {
    // What Vue asks of an object is not of the settings.
    get: (_, name) => (String(name).startsWith('__v_') ? undefined : holder[of.kind]?.[name as keyof S]),
    has: (_, name) => name in (holder[of.kind] ?? {}),
    ownKeys: () => Reflect.ownKeys(holder[of.kind] ?? {}),
    getOwnPropertyDescriptor: (_, name) => {
      const value = holder[of.kind]?.[name as keyof S]
      return value === undefined ? undefined : { value, writable: true, enumerable: true, configurable: true }
    },
    set: (_, name, value) => {
      if (value === undefined) return Reflect.deleteProperty(settings<S>(of), name)
      const own: Partial<S> = (holder[of.kind] ??= {})
      own[name as keyof S] = value as S[keyof S]
      return true
    },
    deleteProperty: (_, name) => {
      const own = holder[of.kind]
      if (own) Reflect.deleteProperty(own, name)
      if (own && !Reflect.ownKeys(own).length) Reflect.deleteProperty(holder, of.kind)
      return true
    },
  })
}

/** The settings of a field's kind. */
export const fieldSettings = (field: Field): FieldSettings => settings(field)

/** The settings of a block's kind. */
export const blockSettings = (block: Block): BlockSettings => settings(block)

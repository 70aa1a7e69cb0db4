import { defineAsyncComponent, type Component } from 'vue'

/** A part that is fetched when it is needed: tried twice, and lost stands in its place where it does not come. */
export function part<T extends Component>(load: () => Promise<{ default: T }>, lost: Component): T {
  return defineAsyncComponent({
    loader: load,
    errorComponent: lost,
    onError: (_, retry, fail, attempts) => (attempts < 2 ? setTimeout(retry, 700) : fail()),
  }) as unknown as T
}

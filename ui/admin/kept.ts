import { ref, watch, type Ref } from 'vue'
import { tabStore } from '../shared/store'

/** Words that are typed and not sent yet: they outlast a reload, and a sign-in in between, in this tab. Empty words are not kept. */
export function keptWords(name: string): Ref<string> {
  const place = `amberseal:typed:${name}`
  const words = ref(tabStore.get(place) ?? '')
  watch(
    words,
    (now) => {
      if (now) tabStore.set(place, now)
      else tabStore.remove(place)
    },
    { flush: 'sync' }, // a session's end leaves the page at once
  )
  return words
}

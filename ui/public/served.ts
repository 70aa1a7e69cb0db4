/**
 * The beginning of the form that came with the page itself, so that typing need not wait for the script: what was typed into it is
 * taken over with the focus, and it goes. Nothing happens where the page brought none.
 */
const served = () => document.getElementById('served')

/** Keeps the script's own page out of sight while the served one is there and the form is not. */
export function standBack() {
  if (served()) document.getElementById('app')?.setAttribute('hidden', '')
}

/** Shows the script's own page instead: the form cannot be had, or takes no answers. What was typed waits. */
export function stepForward() {
  served()?.setAttribute('hidden', '')
  document.getElementById('app')?.removeAttribute('hidden')
}

export async function takeOver(set: (key: string, value: string) => void, rendered: () => Promise<void>) {
  const root = served()
  if (!root) return
  const controls = [...root.querySelectorAll<HTMLInputElement | HTMLTextAreaElement>('[data-key]')]
  const focused = controls.find((c) => c === document.activeElement)
  const at = focused && (focused.type === 'text' || focused.tagName === 'TEXTAREA') ? focused.selectionStart : null
  for (const c of controls) if (c.value) set(c.dataset.key!, c.value)
  const key = focused?.dataset.key
  const scrolled = window.scrollY
  root.remove()
  document.getElementById('app')?.removeAttribute('hidden')
  await rendered()
  window.scrollTo(0, scrolled)
  if (!key) return
  const control = document.getElementById(key) as HTMLInputElement | HTMLTextAreaElement | null
  control?.focus({ preventScroll: true })
  if (at !== null) control?.setSelectionRange(at, at)
}

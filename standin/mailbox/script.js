// New messages appear by themselves; nothing else on the page moves, and what is focused stays so.
const list = document.getElementById('messages')
const count = (of) => of.querySelectorAll('tbody tr').length
setInterval(async () => {
  try {
    const text = await (await fetch(location.href)).text()
    const now = new DOMParser().parseFromString(text, 'text/html').getElementById('messages')
    const more = count(now) - count(list)
    if (more === 0 || list.contains(document.activeElement)) return
    list.replaceChildren(...now.childNodes)
    document.getElementById('said').textContent = more === 1 ? '1 new message' : `${more} new messages`
  } catch {
    // The next look tells.
  }
}, 3000)

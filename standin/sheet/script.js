// What is new appears by itself; nothing else on the page moves, and what is focused stays so.
const list = document.getElementById('arrived')
const count = (of) => of.querySelectorAll('tbody tr').length
setInterval(async () => {
  try {
    const text = await (await fetch(location.href)).text()
    const now = new DOMParser().parseFromString(text, 'text/html').getElementById('arrived')
    const more = count(now) - count(list)
    if (more === 0 || list.contains(document.activeElement)) return
    list.replaceChildren(...now.childNodes)
    document.getElementById('said').textContent = more === 1 ? '1 has come' : `${more} have come`
  } catch {
    // The next look tells.
  }
}, 3000)

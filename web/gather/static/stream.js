// The ranked list fills in while a gathering runs. A browser has six
// connections to us, so the stream is open only while something is under way and
// the page is seen.
;(() => {
  const place = () => document.querySelector('[data-stream]')
  const bar = () => document.getElementById('gather-bar')
  let stream = null
  const close = () => {
    stream?.close()
    stream = null
  }
  const refresh = () => place() && htmx.ajax('GET', place().dataset.list, { target: '#list', swap: 'outerHTML' })

  // What the steps have, in the head. Not by htmx, which lets one request for the whole page wait for another, and drops a third.
  const steps = async () => {
    const page = await fetch(location.pathname)
      .then(r => r.text())
      .catch(() => '')
    const fresh = new DOMParser().parseFromString(page, 'text/html').querySelector('.places')
    const old = document.querySelector('.places')
    if (fresh && old && !old.contains(document.activeElement)) old.replaceWith(fresh)
  }

  // Rows that have changed take the place of those with their ids; what a person
  // does with the list (sorting, filtering, picking, the row with the focus) stays.
  const rows = html => {
    const parsed = document.createElement('template')
    parsed.innerHTML = html
    for (const fresh of [...parsed.content.querySelectorAll('#gather-bar, tr[id]')]) {
      const old = document.getElementById(fresh.id)
      if (!old) continue
      const focused = old === document.activeElement || old.contains(document.activeElement)
      fresh.hidden = old.hidden
      for (const mark of ['current', 'picked']) fresh.classList.toggle(mark, old.classList.contains(mark))
      old.replaceWith(fresh)
      htmx.process(fresh)
      if (focused) fresh.focus({ preventScroll: true })
    }
    document.dispatchEvent(new CustomEvent('corpulan:rows'))
  }
  const open = () => {
    if (stream || document.hidden || !place() || !bar()?.hasAttribute('data-running')) return
    stream = new EventSource(`${place().dataset.stream}?since=${bar().dataset.change}`)
    stream.addEventListener('rows', e => rows(e.data))
    stream.addEventListener('list', e => htmx.swap('#list', e.data, { swapStyle: 'outerHTML' }))
    stream.addEventListener('end', () => {
      close()
      refresh()
      steps()
      document.body.dispatchEvent(new CustomEvent('corpulan:gathered'))
    })
  }
  // An answer that was asked for earlier and comes later than what the page shows is dropped.
  document.addEventListener('htmx:beforeSwap', e => {
    if (e.target.id !== 'list' || !bar()) return
    const of = /id="gather-bar"[^>]*data-change="(\d+)"|data-change="(\d+)"[^>]*id="gather-bar"/.exec(
      e.detail.serverResponse ?? ''
    )
    if (of && Number(of[1] ?? of[2]) < Number(bar().dataset.change)) e.detail.shouldSwap = false
  })
  document.addEventListener('DOMContentLoaded', open)
  for (const event of ['htmx:afterSettle', 'htmx:oobAfterSwap'])
    document.addEventListener(event, () => {
      if (!bar()?.hasAttribute('data-running')) close()
      open()
    })
  document.addEventListener('visibilitychange', () => (document.hidden ? close() : refresh()))
  addEventListener('pagehide', close)
})()

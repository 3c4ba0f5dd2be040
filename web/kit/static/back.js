// Back closes what was opened on a page (a pane, a section's form, a sort) before it leaves the page.
// Each thing that is opened stands above the page in the browser's history; one that is closed by other
// means leaves its entry there to the next that is opened, and Back passes over it.
globalThis.backCloses = (() => {
  const opened = [] // the latest last: {name, isOpen, close}
  const layer = state => state?.layer ?? 0 // so many entries above the page
  let here = history.state
  let hash = location.hash
  const open = () => opened.filter(x => x.isOpen())
  addEventListener('popstate', e => {
    const from = here
    here = e.state
    if (location.hash !== hash) {
      hash = location.hash // a jump within the page
      return
    }
    if (layer(here) >= layer(from) && !from?.htmx) return // forward
    const over = open().slice(layer(here)).reverse()
    for (const x of over) x.close()
    if (over.length) e.stopImmediatePropagation()
    else if (here?.htmx)
      return // htmx sees to it
    else if (from?.htmx) location.reload()
    else history.back()
  })
  // An address that htmx puts into the history takes the entry of what is closed.
  document.addEventListener('htmx:beforeHistoryUpdate', e => {
    if (e.detail.history.type === 'push' && layer(here) > open().length) e.detail.history.type = 'replace'
  })
  for (const event of ['htmx:pushedIntoHistory', 'htmx:replacedInHistory'])
    document.addEventListener(event, () => (here = history.state))
  return (name, isOpen, close) => {
    const before = open().filter(x => x.name !== name)
    opened.splice(0, opened.length, ...before, { name, isOpen, close })
    if (layer(history.state) >= opened.length) return
    here = { layer: opened.length }
    history.pushState(here, '')
  }
})()

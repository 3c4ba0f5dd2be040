// Demand and slates: what htmx does not do by itself.
;(() => {
  // A slate whose studies are gathering asks for itself; not while somebody types in it, nor
  // while a choice is open.
  document.addEventListener('htmx:beforeRequest', e => {
    if (
      e.detail.elt.id === 'slate' &&
      e.detail.requestConfig.verb === 'get' &&
      document.activeElement?.matches('#slate input, #slate select')
    )
      e.preventDefault()
  })
  // Enter in the name of a group keeps the name; it is not the first button's.
  document.addEventListener('keydown', e => {
    if (e.key !== 'Enter' || !e.target.matches('.group-hand input:not([type=checkbox])')) return
    e.preventDefault()
    e.target.form.querySelector(`button[value="${e.target.name === 'to' ? 'move' : 'rename'}"]`).click()
  })
})()

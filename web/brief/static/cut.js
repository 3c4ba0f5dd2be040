// Cuttings: a button beside a sentence, or words that are selected in a captured text, are kept
// with their source. The server finds the words in the capture; what is not there is not kept.
;(() => {
  const study = () => document.body.dataset.study
  const send = values =>
    htmx.ajax('POST', `/studies/${study()}/cuttings`, {
      source: document.body,
      target: '#notices',
      swap: 'none',
      values
    })
  document.addEventListener('click', e => {
    const button = e.target.closest('[data-cut]')
    if (!button) return
    if (button.dataset.cutKind) {
      send({ kind: button.dataset.cutKind, key: button.dataset.cut })
      return
    }
    const row = button.closest('[data-cut-row]')
    const text = [...row.querySelectorAll('[data-cut-text]')]
      .map(t => (t.matches('[data-cut-block]') ? t.innerText : t.textContent))
      .join('')
    send({ rank: button.dataset.cut, text })
  })
  // The drawer: its search has the focus when it is opened, and it follows the document.
  document.addEventListener('htmx:afterSwap', e => {
    const search = document.querySelector('#pane:not([hidden]) .drawer-search')
    if (!search) return
    if (e.target.id === 'pane' && e.detail.requestConfig?.elt?.closest('.tools-end')) search.elements.q.focus()
    if (e.target.id === 'document')
      htmx.ajax('GET', `${search.getAttribute('action')}?q=${encodeURIComponent(search.elements.q.defaultValue)}`, {
        target: '#pane'
      })
  })
  // What is selected within one captured text.
  const selected = () => {
    const s = getSelection()
    if (!s || s.isCollapsed) return null
    const from = s.anchorNode?.parentElement?.closest('[data-cuttable]'),
      to = s.focusNode?.parentElement?.closest('[data-cuttable]')
    const words = s.toString().trim()
    return from && from === to && words ? { result: from.dataset.cuttable, text: words } : null
  }
  document.addEventListener('selectionchange', () => {
    for (const b of document.querySelectorAll('[data-cut-selection]')) b.disabled = !selected()
  })
  document.addEventListener('mousedown', e => {
    if (e.target.closest('[data-cut-selection]')) e.preventDefault()
  }) // the selection stays
  const cutSelection = () => {
    const s = selected()
    if (s) send(s)
    return !!s
  }
  document.addEventListener('click', e => {
    if (e.target.closest('[data-cut-selection]')) cutSelection()
  })
  document.addEventListener('keydown', e => {
    if (e.key !== 'c' || e.ctrlKey || e.metaKey || e.altKey || e.target.matches('input, textarea, select')) return
    if (cutSelection()) e.preventDefault()
  })
})()

// What the pages do beyond htmx: the pane, the filter as one types, counts, notices.
(() => {
  document.addEventListener('htmx:afterSwap', e => {
    if (e.target.id === 'pane') {
      e.target.hidden = false
      document.body.classList.add('with-pane')
    }
    if (e.target.matches?.('.field-answer')) {
      const form = e.target.closest('form')
      const saved = e.target.querySelector('[data-saved]')
      const theirs = e.target.querySelector('[data-theirs]')
      if (saved) {
        form.elements.was.value = form.dataset.sent
        const state = document.getElementById('saved-state')
        if (state) state.textContent = `revision ${saved.dataset.saved}`
      } else if (theirs) form.elements.was.value = theirs.textContent
    }
  })
  document.addEventListener('htmx:configRequest', e => {
    const form = e.target.closest?.('[data-field]')
    if (form) form.dataset.sent = form.elements.value.value
  })
  // Nothing typed is lost when the server cannot be reached.
  document.addEventListener('htmx:sendError', e => {
    const answer = e.target.closest?.('[data-field]')?.querySelector('.field-answer')
    const text = 'The server cannot be reached. What you typed is still here; it is saved with your next change.'
    if (answer) answer.textContent = text
    else document.getElementById('notices').textContent = text
  })
  window.addEventListener('beforeunload', e => {
    const unsaved = [...document.querySelectorAll('[data-field]')].some(f => f.elements.value.value !== f.elements.was.value)
    if (unsaved) e.preventDefault()
  })

  // What the filter says, kept over a swap of the list it stands in.
  let filtered = new URLSearchParams(location.search).get('filter') ?? ''
  const filterRows = () => {
    const want = filtered.trim().toLowerCase()
    document.querySelectorAll('.findings-table tbody [data-row], .ranked tbody [data-row]').forEach(row => {
      row.hidden = want !== '' && !row.textContent.toLowerCase().includes(want)
    })
  }
  const filterAgain = () => {
    const field = document.querySelector('[data-filter]')
    if (field && field.value !== filtered && document.activeElement !== field) field.value = filtered
    if (filtered) filterRows()
  }
  document.addEventListener('DOMContentLoaded', filterAgain)
  document.addEventListener('htmx:afterSettle', filterAgain)

  const fit = area => { area.style.height = 'auto'; area.style.height = `${area.scrollHeight}px` }
  const fitAll = () => document.querySelectorAll('.field textarea').forEach(fit)
  document.addEventListener('DOMContentLoaded', fitAll)
  document.addEventListener('htmx:afterSettle', fitAll)
  document.fonts?.ready.then(fitAll)
  document.addEventListener('input', e => {
    if (e.target.matches('.field textarea')) {
      fit(e.target)
      const count = e.target.closest('form').querySelector('[data-count]')
      if (count) {
        const n = [...e.target.value].length, most = Number(e.target.dataset.most)
        count.textContent = `${n} of ${most} characters${n > most ? ': too long' : ''}`
        count.classList.toggle('over', n > most)
      }
    }
    if (e.target.matches('[data-filter]')) {
      const want = e.target.value.trim().toLowerCase()
      filtered = e.target.value
      filterRows()
      const url = new URL(location)
      want ? url.searchParams.set('filter', e.target.value.trim()) : url.searchParams.delete('filter')
      history.replaceState(null, '', url)
    }
  })
  // A form that was taken is emptied; one that was refused keeps what was typed.
  document.addEventListener('htmx:afterRequest', e => {
    if (!e.target.matches?.('[data-clear]') || !e.detail.successful) return
    e.target.reset()
    const modal = e.target.closest('.modal')
    if (modal) bootstrap.Modal.getInstance(modal)?.hide()
  })
  // Files may be dropped on the form.
  for (const event of ['dragover', 'drop']) {
    document.addEventListener(event, e => {
      const form = e.target.closest?.('[data-drop]')
      if (!form || !e.dataTransfer?.types.includes('Files')) return
      e.preventDefault()
      if (event === 'drop') {
        form.elements.file.files = e.dataTransfer.files
        form.requestSubmit()
      }
    })
  }
  // A single-line field is left with Enter, which saves it.
  document.addEventListener('keydown', e => {
    if (e.key === 'Enter' && !e.shiftKey && e.target.matches('.field textarea[rows="1"]')) { e.preventDefault(); e.target.blur() }
  })
  document.addEventListener('click', e => {
    if (e.target.closest('[data-dismiss]')) document.getElementById('notices').replaceChildren()
    const filler = e.target.closest('[data-fill]')
    if (filler) {
      const field = document.querySelector(filler.dataset.fill)
      field.value = filler.dataset.value
      field.focus()
    }
    const page = e.target.closest('[data-hand-in]')
    if (page) {
      const form = document.querySelector('#hand-in form')
      form.setAttribute('action', page.dataset.handIn)
      form.setAttribute('hx-post', page.dataset.handIn)
      htmx.process(form)
      document.getElementById('hand-in-address').textContent = page.dataset.address
      bootstrap.Modal.getOrCreateInstance('#hand-in').show()
    }
    if (e.target.closest('#paper')) {
      const root = document.documentElement
      root.dataset.bsTheme = root.dataset.bsTheme === 'dark' ? 'light' : 'dark'
      try { localStorage.setItem('paper', root.dataset.bsTheme) } catch { /* kept for this page only */ }
    }
  })
})()

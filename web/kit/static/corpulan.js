// What the pages do beyond htmx: the pane, the filter as one types, counts, notices.
;(() => {
  // What opened the pane is not to lie under it.
  const keepInSight = (opener, pane) => {
    const row = opener && !pane.contains(opener) && (opener.closest('[data-row], tr, li') ?? opener)
    if (!row) return
    const under = row.getBoundingClientRect().bottom - pane.getBoundingClientRect().top
    if (under > 0 && getComputedStyle(pane).position === 'fixed') scrollBy({ top: under + 12, behavior: 'instant' })
  }
  document.addEventListener('htmx:afterSwap', e => {
    if (e.target.id === 'pane') {
      e.target.hidden = false
      document.body.classList.add('with-pane')
      keepInSight(e.detail.requestConfig?.elt, e.target)
    }
    if (e.target.id === 'list') offerLeft()
  })
  // Where the page stands, for answers that bring it up to date.
  document.addEventListener('htmx:configRequest', e => {
    e.detail.headers['X-Place'] = document.body.dataset.place
    const shown = document.querySelectorAll('#findings tbody [data-row]').length
    if (shown && e.detail.verb !== 'get') e.detail.headers['X-Shown'] = shown
    const bar = document.getElementById('gather-bar')
    if (bar) e.detail.headers['X-Change'] = bar.dataset.change
  })
  document.addEventListener('htmx:sendError', e => {
    if (e.target.closest?.('[data-field]')) return
    document.getElementById('notices').textContent = tell(
      'The server cannot be reached. Nothing you typed is lost; try again in a moment.'
    )
  })

  const fill = (field, value) => {
    field.value = value
    field.dispatchEvent(new Event('input', { bubbles: true }))
    return field
  }
  // What the filter says, kept over a swap of the list it stands in.
  let filtered = new URLSearchParams(location.search).get('filter') ?? ''
  const filterRows = () => {
    const want = filtered.trim().toLowerCase()
    document.querySelectorAll('.ranked tbody [data-row]').forEach(row => {
      row.hidden = want !== '' && !row.textContent.toLowerCase().includes(want)
    })
  }
  const filterAgain = () => {
    const field = document.querySelector('[data-filter]')
    if (field && field.value !== filtered && document.activeElement !== field) field.value = filtered
    if (filtered) filterRows()
  }
  // Rows that are cards on a phone say what their cells are: by the heads of their columns.
  const across = '.cover-table, .standing-table, .compared, .figures, .sections'
  const name = () => {
    for (const table of document.querySelectorAll('table.rows')) {
      const head = table.querySelector('thead tr')
      if (!head || table.matches(across)) continue
      table.classList.add('as-cards')
      const heads = [...head.children].map(th =>
        th.querySelector('.visually-hidden, input') ? '' : th.textContent.trim()
      )
      for (const row of table.querySelectorAll('tbody tr:not([data-named])')) {
        row.dataset.named = ''
        for (const [i, td] of [...row.children].entries()) {
          if (
            heads[i] &&
            !td.dataset.of &&
            !td.matches('.finding, .page-cell, .address-cell, .act, .rank, .named') &&
            !td.querySelector('.presence')
          )
            td.dataset.of = heads[i]
        }
      }
    }
  }
  document.addEventListener('DOMContentLoaded', name)
  document.addEventListener('htmx:afterSettle', name)
  document.addEventListener('htmx:oobAfterSwap', name)
  document.addEventListener('DOMContentLoaded', filterAgain)
  document.addEventListener('htmx:afterSettle', filterAgain)

  document.addEventListener('corpulan:rows', filterAgain)
  document.addEventListener('htmx:oobAfterSwap', filterAgain)
  document.addEventListener('input', e => {
    if (e.target.matches('[data-filter]')) {
      const want = e.target.value.trim().toLowerCase()
      filtered = e.target.value
      filterRows()
      const url = new URL(location)
      want ? url.searchParams.set('filter', e.target.value.trim()) : url.searchParams.delete('filter')
      history.replaceState(history.state, '', url)
    }
  })
  // A form that was taken is emptied; one that was refused keeps what was typed.
  document.addEventListener('htmx:afterRequest', e => {
    if (!e.target.matches?.('[data-clear]') || !e.detail.successful) return
    e.target.reset()
    const modal = e.target.closest('.modal')
    if (e.target.matches('[data-left]')) document.getElementById('left').replaceChildren()
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
  // Files whose page could not be found: one dialog for all of them, which sends
  // just those once more. An empty choice leaves a file out.
  let handed = []
  document.addEventListener('htmx:beforeRequest', e => {
    if (e.target.matches?.('[data-files]')) handed = [...e.target.elements.file.files]
  })
  const offerLeft = () => {
    const selects = [...document.querySelectorAll('#left select')]
    const modal = document.getElementById('left-files')
    if (!modal || !selects.length || modal.classList.contains('show')) return
    bootstrap.Modal.getOrCreateInstance(modal).show()
  }
  document.addEventListener('change', e => {
    if (!e.target.matches('#left select')) return
    const chosen = new DataTransfer()
    for (const s of document.querySelectorAll('#left select')) {
      const file = s.value && handed.find(f => `to:${f.name}` === s.name)
      if (file) chosen.items.add(file)
    }
    document.querySelector('[data-left] [name=file]').files = chosen.files
  })
  document.addEventListener(
    'submit',
    e => {
      if (!e.target.matches('[data-left]') || e.target.elements.file.files.length) return
      e.preventDefault()
      e.stopImmediatePropagation()
      bootstrap.Modal.getInstance('#left-files')?.hide()
    },
    true
  )
  // A menu shuts by Esc, and by a press beside it.
  const menus = '.head-more[open], .menu[open]'
  document.addEventListener('keydown', e => {
    const menu = e.key === 'Escape' && document.querySelector(menus)
    if (!menu) return
    menu.open = false
    menu.querySelector('summary').focus()
  })
  // What went well is said and goes; what went wrong stays until it was read. u takes back all the same; where
  // there are no keys, what can be undone stays as well.
  const readIn = 9000
  let leaves
  const leave = e => {
    if (e && e.target.id !== 'notices' && e.detail?.target?.id !== 'notices') return
    const box = document.getElementById('notices')
    clearTimeout(leaves)
    if (!box?.firstElementChild || box.querySelector('.bad')) return
    if (box.querySelector('[data-undo]') && matchMedia('(hover: none)').matches) return // there are no keys to undo it by
    leaves = setTimeout(() => {
      if (box.matches(':hover, :focus-within')) leave()
      else box.replaceChildren()
    }, readIn)
  }
  document.addEventListener('htmx:afterSwap', leave)
  document.addEventListener('htmx:oobAfterSwap', leave)
  document.addEventListener('click', e => {
    if (e.target.closest('[data-dismiss]')) document.getElementById('notices').replaceChildren()
    const filler = e.target.closest('[data-fill]')
    if (filler) fill(document.querySelector(filler.dataset.fill), filler.dataset.value).focus()
    const seen = e.target.closest('[data-accept]') && document.querySelector('[data-fill="#filter"]')
    const field = seen && document.querySelector(seen.dataset.fill)
    if (field && field.value === seen.dataset.value) fill(field, '') // what is accepted says otherwise, and would be out of sight
    const page = e.target.closest('[data-hand-in]')
    if (page) {
      const form = document.querySelector('#hand-in form')
      form.setAttribute('action', page.dataset.handIn)
      form.setAttribute('hx-post', page.dataset.handIn)
      htmx.process(form)
      document.getElementById('hand-in-address').textContent = page.dataset.address
      bootstrap.Modal.getOrCreateInstance('#hand-in').show()
    }
    for (const menu of document.querySelectorAll(menus)) if (!menu.contains(e.target)) menu.open = false
    if (e.target.closest('#paper')) {
      const root = document.documentElement
      root.dataset.bsTheme = root.dataset.bsTheme === 'dark' ? 'light' : 'dark'
      try {
        localStorage.setItem('paper', root.dataset.bsTheme)
      } catch {
        /* kept for this page only */
      }
    }
  })
})()

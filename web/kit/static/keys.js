// The keyboard: one row of a [data-rows] list is current; keys act on it, and
// only while the focus is in the list and a person has gone there (by a click, by
// Tab, by j or k) since they last were in a field: a row that gets the focus back
// when a field is left, or when the list is drawn anew, is not meant by anybody.
// For a second after a letter was typed into a field no key acts at all, wherever
// the focus has gone: what was meant as text never changes anything.
;(() => {
  const rows = () => [...document.querySelectorAll('[data-rows] [data-row]')].filter(r => r.offsetParent !== null)
  let current = null // the data-row of the current row, which survives a swap
  let place = 0 // where it stood, for when it is gone
  let gone = false // whether a person has gone to the list since they were in a field
  let ours = false // the focus is moved by us, and by nobody else
  const focusOn = row => {
    ours = true
    row?.focus({ preventScroll: true })
    ours = false
  }

  const show = (row, focus = true, scroll = focus) => {
    document.querySelectorAll('[data-row].current').forEach(r => r.classList.remove('current'))
    if (!row) return
    row.classList.add('current')
    current = row.dataset.row
    place = rows().indexOf(row)
    if (focus) focusOn(row)
    if (scroll) row.scrollIntoView({ block: 'nearest' })
  }
  const find = () => rows().find(r => r.dataset.row === current)
  const step = by => {
    const all = rows()
    if (!all.length) return
    gone = true
    const at = all.indexOf(find())
    if (by > 0 && at === all.length - 1) document.querySelector('[data-more]')?.click()
    show(all[Math.min(all.length - 1, Math.max(0, at < 0 ? (by > 0 ? 0 : all.length - 1) : at + by))])
  }
  const press = key => {
    const row = find()
    const button = row && row.querySelector(`[data-key="${key}"]`)
    if (button) button.click()
    return !!button
  }
  const open = () => {
    const link = find()?.querySelector('[data-open]')
    if (link) link.click()
    return !!link
  }
  const go = letter => {
    const link = document.querySelector(`[data-go="${letter}"]`)
    if (link) location.href = link.href
    return !!link
  }
  const closePane = () => {
    const pane = document.getElementById('pane')
    if (!pane || pane.hidden) return false
    pane.hidden = true
    document.body.classList.remove('with-pane')
    focusOn(find())
    return true
  }

  document.addEventListener('htmx:afterSwap', e => {
    const pane = e.target
    if (pane.id === 'pane') backCloses('pane', () => pane.isConnected && !pane.hidden, closePane)
  })

  // Pages picked for one action, by their numbers, so that a swap does not lose them.
  const picked = new Set()
  let from = null // where a shift-click begins
  const showPicked = () => {
    for (const row of document.querySelectorAll('[data-result]'))
      row.classList.toggle('picked', picked.has(row.dataset.result))
    const note = document.querySelector('[data-picked]')
    if (note) {
      note.hidden = picked.size === 0
      note.textContent = tell('{1} picked; space keeps them or sets them aside, Esc lets go', picked.size)
    }
  }
  const pick = (row, toggle) => {
    const box = row?.querySelector('[data-pick]')
    if (box) {
      box.checked = toggle ? !box.checked : true
      countBoxes()
    }
    if (!row?.dataset.result) return
    if (toggle && picked.has(row.dataset.result)) picked.delete(row.dataset.result)
    else picked.add(row.dataset.result)
    showPicked()
  }
  // Findings are picked by their boxes; one press decides about all of them.
  const boxes = () => [...document.querySelectorAll('[data-pick]:checked')]
  const countBoxes = () => {
    const n = boxes().length
    for (const b of document.querySelectorAll('[data-many]')) b.disabled = n === 0
    const note = document.querySelector('[data-picked-count]')
    if (note) {
      note.hidden = n === 0
      note.textContent = tell('{1} picked', n)
    }
    for (const b of document.querySelectorAll('[data-pick]'))
      b.closest('[data-row]').classList.toggle('picked', b.checked)
  }
  // A list that is only drawn anew (a result that came, a word in the filter) keeps its picks; what
  // acted on them, and the way to another list, let go of them.
  const named = box => `${box.name}=${box.value}`
  let held = []
  document.addEventListener('htmx:beforeSwap', e => {
    const { verb, elt } = e.detail?.requestConfig ?? {}
    held = verb === 'get' && !elt?.matches('a') ? boxes().map(named) : []
  })
  document.addEventListener('htmx:afterSwap', () => {
    for (const b of document.querySelectorAll('[data-pick]')) b.checked ||= held.includes(named(b))
    held = []
  })
  const many = key => {
    const button = boxes().length && document.querySelector(`[data-many="${key}"]`)
    if (button) button.click()
    return !!button
  }
  document.addEventListener('change', e => {
    if (e.target.matches('[data-pick-all]'))
      for (const b of document.querySelectorAll('[data-pick]')) b.checked = e.target.checked
    if (e.target.matches('[data-pick], [data-pick-all]')) countBoxes()
  })
  // One action on all: set them aside if any is kept, else keep them.
  const keepPicked = () => {
    const table = document.querySelector('[data-sortable]')
    if (!picked.size || !table) return false
    const anyKept = [...picked].some(
      id => !document.querySelector(`[data-result="${id}"]`)?.classList.contains('aside')
    )
    htmx.ajax('POST', `/studies/${table.dataset.study}/kept`, {
      target: '#list',
      swap: 'outerHTML',
      values: { id: [...picked].join(','), kept: String(!anyKept) }
    })
    picked.clear()
    return true
  }

  const quiet = 1000 // milliseconds
  let typed = -quiet // when a key was last pressed that was meant as text
  const takesText = e =>
    e.matches?.(
      'input:not([type=hidden], [type=checkbox], [type=radio], [type=file], [type=button], [type=submit]), textarea, [contenteditable]'
    )
  // Undo needs no list: what it takes back stands in the notice, and can be made again.
  const turn = what => {
    const study = document.body.dataset.study
    const at = study ? `/studies/${study}` : document.body.dataset.plan
    // Asked by the page itself: what asks may be drawn anew before the answer comes.
    if (at) htmx.ajax('POST', `${at}/${what}`, { source: document.body, target: '#notices', swap: 'none' })
    else document.querySelector('[data-undo]')?.click()
  }

  let going = 0
  document.addEventListener('keydown', e => {
    const typing = takesText(e.target) || e.target.matches('select')
    const text = e.key.length === 1 || e.key === 'Enter' || e.key === 'Backspace'
    if (takesText(e.target) && text) typed = performance.now()
    if (e.key === 'Escape') {
      if (document.querySelector('.modal.show')) return
      if (typing) {
        e.target.blur()
        return
      }
      if (picked.size) {
        picked.clear()
        showPicked()
        return
      }
      if (boxes().length) {
        for (const b of document.querySelectorAll('[data-pick], [data-pick-all]')) b.checked = false
        countBoxes()
        return
      }
      if (closePane()) e.preventDefault()
      return
    }
    if (typing || e.ctrlKey || e.metaKey || e.altKey || document.querySelector('.modal.show')) return
    if (performance.now() - typed < quiet) {
      if (text && !'jk'.includes(e.key)) typed = performance.now() // the sentence goes on
      return
    }
    const inList = gone && !!document.activeElement?.closest('[data-rows]')
    if (going && Date.now() - going < 1200) {
      going = 0
      if (go(e.key)) e.preventDefault()
      return
    }
    // A space on a button or a link is the button's own.
    if (e.key === ' ' && e.target.matches('button, a, summary')) return
    const did = {
      j: () => (step(1), true),
      k: () => (step(-1), true),
      ...(inList && {
        J: () => (pick(find()), step(1), pick(find()), true),
        K: () => (pick(find()), step(-1), pick(find()), true),
        x: () => (pick(find(), true), true),
        ' ': () => keepPicked() || press('space'),
        A: () => {
          const b = document.querySelector('[data-accept]')
          if (b) b.click()
          return !!b
        },
        a: () => many('a') || press('a'),
        d: () => many('d') || press('d'),
        e: () => press('e'),
        r: () => press('r'),
        s: () => press('s'),
        p: () => press('p'),
        o: open,
        b: () => {
          const all = document.querySelector('[data-begin-all]')
          if (all) all.click()
          return !!all
        }
      }),
      u: () => (turn('undo'), true),
      U: () => (turn('redo'), true),
      '/': () => {
        const f = document.querySelector('#filter') ?? document.querySelector('#keyword')
        if (f) {
          f.focus()
          f.select()
        }
        return !!f
      },
      '?': () => {
        bootstrap.Modal.getOrCreateInstance('#keys').show()
        return true
      },
      g: () => {
        going = Date.now()
        return true
      }
    }[e.key]?.()
    if (did) e.preventDefault()
  })
  document.addEventListener('focusin', e => {
    if (takesText(e.target)) gone = false
    else if (!ours && e.target.closest('[data-rows]')) gone = true
    const row = e.target.closest('[data-row]')
    if (row && row.dataset.row !== current) show(row, false)
  })
  document.addEventListener('click', e => {
    if (e.target.closest('[data-close-pane]')) closePane()
    if (e.target.closest('[data-rows]') && !takesText(e.target)) gone = true
    const row = e.target.closest('[data-result]')
    if (row && !e.target.closest('a, button, input')) {
      if (e.shiftKey && from) {
        const all = rows(),
          a = all.findIndex(r => r.dataset.result === from),
          b = all.indexOf(row)
        if (a >= 0) all.slice(Math.min(a, b), Math.max(a, b) + 1).forEach(r => pick(r))
        getSelection().removeAllRanges()
      }
      from = row.dataset.result
      show(row)
    }
    const header = e.target.closest('[data-sort]')
    if (header) sortBy(header)
  })
  // Sorting by a column; the second press turns it round. It is kept over a swap.
  let order = null
  const sortBy = header => {
    const column = header.closest('th').cellIndex
    order = { column, number: header.dataset.sort === 'number', down: order?.column === column && !order.down }
    sortRows()
    backCloses('sort', () => order !== null, unsort)
  }
  const unsort = () => {
    // the list is of ranks, and that is the order it comes in
    order = { column: document.querySelector('[data-sort]').closest('th').cellIndex, number: true, down: false }
    sortRows()
    order = null
    document.querySelector('[aria-sort]')?.removeAttribute('aria-sort')
  }
  const sortRows = () => {
    const table = document.querySelector('[data-sortable]')
    if (!table || !order) return
    const value = row => {
      const t = row.cells[order.column].textContent.trim()
      return order.number ? (t ? parseFloat(t.replaceAll(',', '')) : Infinity) : t.toLowerCase()
    }
    const list = [...table.tBodies[0].rows].map(row => [value(row), row])
    list.sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0) * (order.down ? -1 : 1))
    table.tBodies[0].append(...list.map(([, row]) => row))
    for (const th of table.tHead.rows[0].cells) th.removeAttribute('aria-sort')
    table.tHead.rows[0].cells[order.column].setAttribute('aria-sort', order.down ? 'descending' : 'ascending')
  }

  // After a swap the current row is found again, or the one that took its place.
  const again = () => {
    if (order && !document.querySelector('[aria-sort]')) sortRows()
    showPicked()
    countBoxes()
    if (
      current === null ||
      (document.activeElement &&
        document.activeElement !== document.body &&
        !document.activeElement.closest('[data-rows], .bar, .notices'))
    )
      return
    const row = find() ?? rows()[Math.min(place, rows().length - 1)]
    if (row && (!row.classList.contains('current') || !row.contains(document.activeElement)))
      show(row, gone && !document.querySelector('.pane:not([hidden]) :focus'), false)
  }
  for (const event of ['htmx:afterSwap', 'htmx:afterSettle', 'htmx:oobAfterSwap', 'corpulan:rows'])
    document.addEventListener(event, again)
})()

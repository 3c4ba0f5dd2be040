// The fields of the brief: saved as one types, and never lost. What was typed
// and not yet saved is kept in the browser until it is; where somebody else has
// changed the same field, nothing is saved until the person decides.
;(() => {
  const forms = () => [...document.querySelectorAll('form[data-field]')]
  const value = form => form.elements.value.value
  const dirty = form => value(form) !== form.elements.was.value
  const state = (form, text) => {
    form.querySelector('[data-state]').textContent = text
  }
  const answer = form => form.querySelector('.field-answer')
  const save = form => htmx.trigger(form, 'submit')
  const formOf = e => e.target.closest?.('form[data-field]') ?? e.detail?.elt?.closest?.('form[data-field]')

  // What is kept in the browser: the text, what it was typed over, when, and in which tab.
  const study = () => document.body.dataset.study
  const othersQuiet = 3000 // milliseconds after which another tab types no more
  const tab = (() => {
    const fresh = `${Date.now()} ${Math.random()}`
    try {
      if (!sessionStorage.getItem('tab')) sessionStorage.setItem('tab', fresh)
      return sessionStorage.getItem('tab')
    } catch {
      return fresh // storage may be forbidden
    }
  })()
  const drawer = form => `unsaved ${study()} ${form.dataset.field}`
  const stow = form => {
    try {
      if (dirty(form))
        localStorage.setItem(
          drawer(form),
          JSON.stringify({
            text: value(form),
            was: form.elements.was.value,
            typed: form.elements.typed.value,
            at: Date.now(),
            tab
          })
        )
      else localStorage.removeItem(drawer(form))
    } catch {
      /* storage may be forbidden; then the page alone keeps it */
    }
  }
  const bringBack = form => {
    let kept
    try {
      kept = JSON.parse(localStorage.getItem(drawer(form)))
    } catch {
      return
    }
    if (!kept || dirty(form)) return
    const since = Date.now() - kept.at
    if (kept.tab !== tab && since < othersQuiet) {
      setTimeout(() => form.isConnected && bringBack(form), othersQuiet - since)
      return
    }
    if (kept.text === form.elements.was.value) {
      try {
        localStorage.removeItem(drawer(form))
      } catch {
        /* as above */
      }
      return
    }
    form.elements.value.value = kept.text
    form.elements.was.value = kept.was
    form.elements.typed.value = kept.typed
    fit(form.elements.value)
    count(form)
    for (let box = form.closest('details'); box; box = box.parentElement.closest('details')) box.open = true
    state(form, tell('brought back'))
    save(form)
  }

  // Heights and counts.
  const sizes = CSS.supports('field-sizing', 'content') // then the browser sees to it, in print too
  const fit = area => {
    if (sizes || !area.matches('textarea')) return
    area.style.height = 'auto'
    area.style.height = `${area.scrollHeight}px`
  }
  const fitAll = () => forms().forEach(f => fit(f.elements.value))
  const wide = (text, size) => {
    // as results are shown: Arial, or a font of its metrics
    const c = document.createElement('canvas').getContext('2d')
    c.font = `${size}px Arial, "Liberation Sans", sans-serif`
    return Math.round(c.measureText(text).width)
  }
  const count = form => {
    const shown = form.querySelector('[data-count]')
    if (!shown) return
    const n = [...value(form)].length,
      most = Number(form.elements.value.dataset.most)
    const size = form.elements.value.dataset.size
    shown.textContent = `${tell('{1} of {2}', n, most)}${n > most ? tell(': too long') : ''}${size ? ` · ${wide(value(form), size)} px` : ''}`
    shown.classList.toggle('over', n > most)
  }
  document.addEventListener('DOMContentLoaded', () => {
    fitAll()
    forms().forEach(bringBack)
  })
  document.fonts?.ready.then(fitAll)
  addEventListener('resize', fitAll)
  document.addEventListener('input', e => {
    const form = formOf(e)
    if (!form) return
    if (e.target.matches('[data-line]') && e.target.value.includes('\n')) {
      // pasted
      const at = e.target.selectionStart
      e.target.value = e.target.value.replace(/\s*\n\s*/g, ' ')
      e.target.setSelectionRange(at, at)
    }
    fit(e.target)
    count(form)
    stow(form)
    state(form, '')
  })
  // Enter is a new line; in a field of one line it saves.
  document.addEventListener('keydown', e => {
    if (e.key !== 'Enter' || !e.target.matches?.('textarea[data-line]')) return
    e.preventDefault()
    save(e.target.form)
  })

  // Saving. A form in conflict sends nothing but what the person decided.
  document.addEventListener('htmx:beforeRequest', e => {
    const form = formOf(e)
    if (form && form.dataset.conflict && !e.target.matches('[data-restore]')) e.preventDefault()
  })
  document.addEventListener('htmx:configRequest', e => {
    const form = formOf(e)
    if (form) form.dataset.sent = value(form)
  })
  document.addEventListener('htmx:afterSwap', e => {
    if (e.target.id === 'document') {
      unfold() // what lies in a fold that is shut takes no focus
      restore()
      return
    }
    if (!e.target.matches?.('.field-answer')) return
    const form = formOf(e)
    const saved = e.target.querySelector('[data-saved]')
    if (e.target.querySelector('[data-conflict]')) {
      form.dataset.conflict = 'open'
      state(form, tell('not saved'))
    } else if (e.target.querySelector('.problem')) state(form, tell('not saved'))
    if (!saved) return
    form.elements.was.value = form.dataset.sent
    form.elements.typed.value = 'true'
    stow(form)
    state(form, dirty(form) ? '' : 'saved')
    form.querySelector('[data-why]')?.remove()
    const back = form.querySelector('[data-restore]')
    if (back) back.hidden = false
    const revision = document.getElementById('saved-state')
    if (revision) revision.textContent = tell('revision {1}', saved.dataset.saved)
  })
  document.addEventListener('click', e => {
    const choice = e.target.closest('[data-take]')
    if (!choice) return
    const form = choice.closest('form'),
      box = choice.closest('[data-conflict]')
    const theirs = box.querySelector('[data-theirs]').textContent
    form.elements.was.value = theirs
    form.elements.typed.value = box.dataset.theirsTyped
    delete form.dataset.conflict
    answer(form).replaceChildren()
    if (choice.dataset.take === 'both') {
      form.elements.value.value = [theirs, value(form)]
        .filter(Boolean)
        .join(form.elements.value.matches('[data-line]') ? ' ' : '\n')
      fit(form.elements.value)
      count(form)
      stow(form)
    }
    if (choice.dataset.take !== 'theirs') {
      save(form)
      return
    }
    form.elements.value.value = theirs
    fit(form.elements.value)
    count(form)
    stow(form)
    state(form, 'theirs')
    form.elements.value.focus()
  })

  // The server cannot be reached, or not save: the text stays, and is tried again.
  const away = () =>
    tell('The server cannot be reached. What you typed is kept in this browser, and saved as soon as it can be.')
  const full = () =>
    tell("The server's disk is full. What you typed is kept in this browser, and saved as soon as there is room.")
  let trying = null
  const again = () => {
    clearTimeout(trying)
    trying = setTimeout(
      () =>
        forms()
          .filter(f => dirty(f) && !f.dataset.conflict)
          .forEach(save),
      3000
    )
  }
  for (const event of ['htmx:sendError', 'htmx:timeout', 'htmx:responseError']) {
    document.addEventListener(event, e => {
      const form = formOf(e)
      if (!form || (e.detail.xhr?.status >= 400 && e.detail.xhr.status < 500)) return
      state(form, tell('not saved'))
      answer(form).textContent = e.detail.xhr?.status === 507 ? full() : away()
      again()
    })
  }
  document.addEventListener('htmx:afterRequest', e => {
    const form = formOf(e)
    if (form && e.detail.successful && [away(), full()].includes(answer(form).textContent))
      answer(form).replaceChildren()
  })
  addEventListener('beforeunload', e => {
    if (forms().some(dirty)) e.preventDefault()
  })

  // When the document is drawn anew, what is being typed stays where it is: the
  // text, what it was typed over, and the caret.
  let typing = []
  document.addEventListener('htmx:beforeSwap', e => {
    if (e.target.id !== 'document') return
    typing = forms()
      .map(f => {
        const area = f.elements.value,
          focused = area === document.activeElement
        if (e.detail.requestConfig?.elt?.closest?.('form') === f) return null // it gives its text back
        return dirty(f) || focused
          ? {
              name: f.dataset.field,
              text: area.value,
              dirty: dirty(f),
              was: f.elements.was.value,
              typed: f.elements.typed.value,
              conflict: f.dataset.conflict,
              answer: answer(f).innerHTML,
              focused,
              from: area.selectionStart ?? null,
              to: area.selectionEnd ?? null
            }
          : null
      })
      .filter(Boolean)
  })
  const restore = () => {
    unfold() // what is folded takes no focus
    for (const t of typing) {
      const form = forms().find(f => f.dataset.field === t.name)
      if (!form) continue
      if (t.dirty) {
        form.elements.value.value = t.text
        form.elements.was.value = t.was
        form.elements.typed.value = t.typed
        if (t.conflict) {
          form.dataset.conflict = t.conflict
          answer(form).innerHTML = t.answer
        }
        count(form)
      }
      if (t.focused) {
        form.elements.value.focus({ preventScroll: true })
        if (t.from !== null) form.elements.value.setSelectionRange?.(t.from, t.to)
      }
      if (t.dirty && !t.conflict) save(form)
    }
    typing = []
    fitAll()
    const revision = document.getElementById('saved-state'),
      now = document.getElementById('document')?.dataset.revision
    if (revision && now !== '0') revision.textContent = tell('revision {1}', now)
  }

  // Where one acts, nothing moves: what was under the hand stands where it stood when the document is drawn anew.
  const names = ['data-row', 'data-section', 'data-section-folded', 'data-field', 'id']
  const nameOf = el => {
    const within = el.parentElement?.closest('[data-section]')?.dataset.section // a question stands in a section, and elsewhere too
    for (const n of names)
      if (el.getAttribute(n))
        return `${within ? `[data-section="${CSS.escape(within)}"] ` : ''}[${n}="${CSS.escape(el.getAttribute(n))}"]`
  }
  let hand = null // what was pressed last
  for (const event of ['pointerdown', 'focusin'])
    document.addEventListener(event, e => e.target.closest?.('#document') && (hand = e.target), true)
  let anchors = []
  document.addEventListener('htmx:beforeSwap', e => {
    if (e.target.id !== 'document') return
    anchors = []
    const add = el => {
      const name = el && nameOf(el)
      if (name) anchors.push([name, el.getBoundingClientRect().top])
    }
    // The place itself, those it stands in, and, where it goes, its neighbours in sight.
    for (let el = hand?.isConnected ? hand : null; el && el.id !== 'document'; el = el.parentElement) add(el)
    const at = hand?.isConnected ? hand.getBoundingClientRect().top : window.innerHeight / 2
    ;[
      ...e.target.querySelectorAll(
        names
          .slice(0, 4)
          .map(n => `[${n}]`)
          .join()
      )
    ]
      .filter(el => !el.closest('.brief-contents') && el.getBoundingClientRect().height)
      .map(el => [Math.abs(el.getBoundingClientRect().top - at), el])
      .filter(([away]) => away < window.innerHeight)
      .sort(([a], [b]) => a - b)
      .forEach(([, el]) => add(el))
  })
  document.addEventListener('htmx:afterSwap', e => {
    if (e.target.id !== 'document') return
    for (const [name, top] of anchors) {
      const el = [...document.querySelectorAll(`#document ${name}`)].find(
        x => !x.closest('.brief-contents') && x.getBoundingClientRect().height
      )
      if (!el) continue
      window.scrollBy({ top: el.getBoundingClientRect().top - top, behavior: 'instant' })
      break
    }
    anchors = []
  })

  // The dossier is drawn along where it is open.
  document.addEventListener('htmx:configRequest', e => {
    if (document.getElementById('dossier')?.open && e.detail.headers) e.detail.headers['X-Dossier'] = 'yes'
  })

  // What is folded out stays so.
  const stays = box => `open ${study()} ${box.dataset.stays}`
  const unfold = () => {
    if (window.innerWidth < 1100) document.querySelector('.brief-contents details')?.removeAttribute('open')
    for (const box of document.querySelectorAll('details[data-stays]')) {
      try {
        const kept = sessionStorage.getItem(stays(box))
        if (kept) box.open = kept === 'yes'
      } catch {
        return // storage may be forbidden
      }
    }
  }
  document.addEventListener(
    'toggle',
    e => {
      if (!e.target.matches?.('details[data-stays]')) return
      try {
        sessionStorage.setItem(stays(e.target), e.target.open ? 'yes' : 'no')
      } catch {
        /* as above */
      }
    },
    true
  )
  // A field of the dossier in which something unsaved was typed is asked for with it.
  const unsaved = box => {
    try {
      return box.dataset.fields.split(' ').some(name => localStorage.getItem(`unsaved ${study()} ${name}`) !== null)
    } catch {
      return false // storage may be forbidden
    }
  }
  document.addEventListener('DOMContentLoaded', () => {
    unfold()
    for (const box of document.querySelectorAll('details[data-fields]')) if (unsaved(box)) box.open = true
  })
  // The contents follow what is read.
  const follow = () => {
    const links = [...document.querySelectorAll('.brief-contents a')]
    let now = null
    for (const a of links) {
      const to = document.getElementById(decodeURIComponent(a.hash.slice(1)))
      if (to && to.getBoundingClientRect().top < window.innerHeight / 3) now = a
    }
    for (const a of links) a === now ? a.setAttribute('aria-current', 'location') : a.removeAttribute('aria-current')
  }
  let following = 0
  addEventListener('scroll', () => {
    cancelAnimationFrame(following)
    following = requestAnimationFrame(follow)
  })
  document.addEventListener('DOMContentLoaded', follow)

  // A section that is opened to be edited is closed again by Back.
  document.addEventListener(
    'toggle',
    e => {
      const box = e.target
      if (!box.matches?.('details[data-edit]') || !box.open) return
      backCloses(
        `edit ${box.dataset.edit}`,
        () => box.isConnected && box.open,
        () => (box.open = false)
      )
    },
    true
  )

  // Lines that are sent by a press: what stands in one and was not sent outlives a list drawn
  // anew, a lost connection and a closed browser.
  const slot = input => `typing ${study()} ${input.dataset.keep}`
  const refill = root => {
    // What was typed into the forms of a section, which come when they are asked for.
    for (const box of root.querySelectorAll('details[data-edit]:not([open])')) {
      const kept = what => {
        try {
          return localStorage.getItem(`typing ${study()} ${what} ${box.dataset.edit}`)
        } catch {
          return null
        }
      }
      if (['heading', 'words', 'bring', 'section after'].some(what => kept(what) !== null)) box.open = true
    }
    for (const input of root.querySelectorAll('[data-keep]')) {
      let kept = null
      try {
        kept = localStorage.getItem(slot(input))
      } catch {
        return
      }
      if (kept === null || kept === input.value) continue
      input.value = kept
      const box = input.closest('details')
      if (box) box.open = true
    }
  }
  document.addEventListener('input', e => {
    if (!e.target.dataset?.keep) return
    try {
      if (e.target.value === e.target.defaultValue) localStorage.removeItem(slot(e.target))
      else localStorage.setItem(slot(e.target), e.target.value)
    } catch {
      /* storage may be forbidden */
    }
  })
  document.addEventListener('htmx:beforeOnLoad', e => {
    // what came through is not kept
    const status = e.detail.xhr?.status ?? 0
    if (status < 200 || status >= 300) return
    for (const input of e.detail.requestConfig?.elt?.querySelectorAll?.('[data-keep]') ?? []) {
      try {
        localStorage.removeItem(slot(input))
      } catch {
        /* as above */
      }
    }
  })
  // What was sent by a plain form stands on the page by now, and is kept no longer.
  const forgetSent = () => {
    for (const sent of document.querySelectorAll('[data-sent]')) {
      const name = `typing ${study()} ${sent.dataset.sent}`
      try {
        if (localStorage.getItem(name)?.trim() === sent.textContent.trim()) localStorage.removeItem(name)
      } catch {
        return
      }
    }
  }
  document.addEventListener('DOMContentLoaded', () => {
    forgetSent()
    refill(document)
  })
  document.addEventListener('htmx:afterSwap', e => {
    refill(document)
    if (!e.target.matches?.('#pane, .dossier-body')) return
    for (const form of e.target.querySelectorAll('form[data-field]')) {
      fit(form.elements.value)
      bringBack(form)
    }
  })
})()

// The Field place: sections of one theme light up together, a line says what is
// pointed at, and the arrow keys go from section to section.
;(() => {
  const chart = () => document.querySelector('.ribbons')
  const lit = theme => {
    const place = document.querySelector('.field-place')
    if (!place) return
    place.classList.toggle('lighting', !!theme)
    place.querySelectorAll('.lit').forEach(e => e.classList.remove('lit'))
    if (theme)
      place
        .querySelectorAll(`.sec[data-theme="${theme}"], [data-light="${theme}"]`)
        .forEach(e => e.classList.add('lit'))
  }
  let pinned = null // the theme that stays lit
  const point = e => {
    const section = e.target.closest?.('.ribbons [data-tip]')
    const legend = e.target.closest?.('[data-light]')
    if (section) document.querySelector('[data-tip-line]').textContent = section.dataset.tip
    lit(section?.dataset.theme ?? legend?.dataset.light ?? pinned)
  }
  document.addEventListener('pointerover', point)
  document.addEventListener('focusin', point)

  const shown = () => document.querySelector('[data-shown]')
  let opened = null
  // What is open stands in the address, so that it can be shared.
  const remember = (name, value) => {
    const url = new URL(location)
    value === null ? url.searchParams.delete(name) : url.searchParams.set(name, value)
    history.replaceState(history.state, '', url)
  }
  const open = link => {
    opened = link.closest('.ribbons') ? link : opened
    chart()
      ?.querySelectorAll('.open')
      .forEach(e => e.classList.remove('open'))
    if (link.closest('.ribbons')) link.classList.add('open')
    htmx.ajax('GET', link.getAttribute('href'), { target: shown(), swap: 'innerHTML' })
    const [, page, section] = link.getAttribute('href').match(/pages\/(\d+)(?:\/sections\/(\d+))?/)
    remember('open', section === undefined ? page : `${page}.${section}`)
  }
  const close = () => {
    if (!shown()?.childElementCount) return false
    shown().replaceChildren()
    remember('open', null)
    document.querySelector('[data-legend]').hidden = false
    chart()
      ?.querySelectorAll('.open')
      .forEach(e => e.classList.remove('open'))
    opened?.focus()
    return true
  }
  document.addEventListener('htmx:afterSwap', e => {
    if (!e.target.matches('[data-shown]')) return
    document.querySelector('[data-legend]').hidden = true
    e.target.closest('.beside').scrollTop = 0
  })
  document.addEventListener('click', e => {
    const link = e.target.closest('[data-beside]')
    if (link && shown() && !e.ctrlKey && !e.metaKey && !e.shiftKey) {
      e.preventDefault()
      open(link)
      return
    }
    if (e.target.closest('[data-close-shown]')) close()
    const theme = e.target.closest('[data-light]')
    if (theme) {
      pinned = pinned === theme.dataset.light ? null : theme.dataset.light
      document
        .querySelectorAll('[data-light]')
        .forEach(b => b.setAttribute('aria-pressed', String(b.dataset.light === pinned)))
      lit(pinned)
    }
  })

  document.addEventListener('change', e => {
    if (e.target.matches('[data-submit]') && e.target.reportValidity()) e.target.form.requestSubmit()
  })

  // Up and down go through a page, left and right to where the next page is then.
  const top = e => e.getBBox().y
  const go = (from, key) => {
    const pages = [...chart().querySelectorAll('.page')].map(p => [...p.querySelectorAll('.page-head, .sec')])
    const at = pages.findIndex(p => p.includes(from))
    if (at < 0) return null
    const i = pages[at].indexOf(from)
    if (key === 'ArrowUp') return pages[at][Math.max(i - 1, 0)]
    if (key === 'ArrowDown') return pages[at][Math.min(i + 1, pages[at].length - 1)]
    const next = pages[at + (key === 'ArrowLeft' ? -1 : 1)]
    if (!next) return null
    const y = top(from) + 1
    return i === 0 ? next[0] : (next.slice(1).findLast(s => top(s) <= y) ?? next[1] ?? next[0])
  }
  document.addEventListener(
    'keydown',
    e => {
      if (e.key === 'Escape' && !document.querySelector('.modal.show') && close()) {
        e.preventDefault()
        e.stopPropagation()
        return
      }
      const from = e.target.closest?.('.ribbons [data-tip]')
      if (!from || e.ctrlKey || e.metaKey || e.altKey) return
      if (e.key === 'Enter' || e.key === 'o') {
        e.preventDefault()
        e.stopPropagation()
        open(from)
        return
      }
      if (!e.key.startsWith('Arrow')) return
      e.preventDefault()
      const to = go(from, e.key)
      if (!to) return
      from.setAttribute('tabindex', '-1')
      to.setAttribute('tabindex', '0')
      to.focus({ preventScroll: true })
      to.scrollIntoView({ block: 'nearest' })
    },
    true
  )
})()

// What a mark means where one points, taps or comes by keyboard: the page and
// the count of a slug in a presence row, and the explanation of an abbreviation.
;(() => {
  let tip
  const say = (text, x, y) => {
    if (!tip) {
      tip = document.createElement('div')
      tip.className = 'mark-tip'
      tip.setAttribute('role', 'status')
      document.body.append(tip)
    }
    tip.textContent = text
    tip.hidden = !text
    if (!text) return
    const w = tip.offsetWidth
    tip.style.left = `${Math.max(8, Math.min(x - w / 2, innerWidth - w - 8))}px`
    tip.style.top = `${y > 60 ? y - tip.offsetHeight - 10 : y + 18}px`
  }
  const hide = () => {
    if (tip) tip.hidden = true
  }
  const slug = e => {
    const row = e.target.closest?.('.presence')
    if (!row) return false
    const counts = row.dataset.n.split(' ')
    const box = row.getBoundingClientRect()
    const i = Math.min(counts.length - 1, Math.max(0, Math.floor(((e.clientX - box.left) / box.width) * counts.length)))
    const page = row.closest('[data-sources]')?.dataset.sources.split('\n')[i] ?? `page ${i + 1}`
    say(`${page}: ${counts[i] === '0' ? 'none' : `${counts[i]} ${row.dataset.unit}`}`, e.clientX, box.top)
    return true
  }
  const meaning = e => {
    const short = e.target.closest?.('abbr')
    if (!short) return false
    if (short.title) {
      short.dataset.means = short.title
      short.removeAttribute('title')
    }
    const box = short.getBoundingClientRect()
    say(short.dataset.means, box.left + box.width / 2, box.top)
    return true
  }
  const show = e => {
    if (!slug(e) && !meaning(e)) hide()
  }
  document.addEventListener('pointermove', show)
  document.addEventListener('click', show)
  document.addEventListener('focusin', e => {
    if (!meaning(e)) hide()
  })
  document.addEventListener('keydown', e => {
    if (e.key === 'Escape') hide()
  })
  document.addEventListener('scroll', hide, true)
  const reachable = () =>
    document.querySelectorAll('abbr[title]:not([tabindex])').forEach(a => {
      a.tabIndex = 0
    })
  document.addEventListener('DOMContentLoaded', reachable)
  document.addEventListener('htmx:afterSettle', reachable)
})()

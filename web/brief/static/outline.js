// The outline by hand: sections are dragged (SortableJS), or moved by Alt and the arrow keys
// while one is current. The server moves them and draws the outline anew.
;(() => {
  const outline = () => document.querySelector('[data-outline]')
  const send = values =>
    htmx.ajax('POST', `/studies/${outline().dataset.outline}/outline`, {
      source: document.body, // the document may be drawn anew before the answer comes
      target: '#document',
      swap: 'none',
      values
    })
  // The outline stands twice: in the document, and short in the contents, where all of it is in sight.
  const begin = () => {
    if (!window.Sortable) return
    document.querySelectorAll('[data-outline]').forEach(sortable)
  }
  const sortable = (root, number) => {
    if (root.dataset.ready) return
    root.dataset.ready = 'yes'
    for (const list of [root, ...root.querySelectorAll('ol[data-parent]')]) {
      Sortable.create(list, {
        group: `outline ${number}`,
        handle: '.grip',
        draggable: '[data-section]',
        animation: 0,
        forceFallback: true,
        fallbackOnBody: true,
        swapThreshold: 0.6,
        emptyInsertThreshold: 8,
        onStart: e => {
          // only headings are shown; the one that is held stays where it is
          const top = e.item.getBoundingClientRect().top
          root.classList.add('dragging')
          scrollBy({ top: e.item.getBoundingClientRect().top - top, behavior: 'instant' })
        },
        onEnd: e => {
          root.classList.remove('dragging')
          if (e.from === e.to && e.oldDraggableIndex === e.newDraggableIndex) return
          send({
            do: 'put',
            key: e.item.dataset.section,
            parent: e.to.dataset.parent,
            before: e.item.nextElementSibling?.dataset.section ?? ''
          })
        }
      })
    }
  }
  document.addEventListener('DOMContentLoaded', begin)
  document.addEventListener('htmx:afterSettle', begin)
  document.addEventListener('htmx:afterSwap', begin)
  // The document that is drawn anew by itself waits for who drags; it is asked for again.
  document.addEventListener('htmx:beforeSwap', e => {
    if (e.detail.requestConfig.elt.matches('.counting') && document.querySelector('.dragging[data-outline]'))
      e.detail.shouldSwap = false
  })
  // Questions, terms and cuttings are pulled into a section, of the document or of its contents. What is
  // under the hand is one line; the section that would take it is marked.
  let pulled = null
  const over = e => (pulled ? e.target.closest?.('[data-section]') : null)
  const mark = section => {
    for (const el of document.querySelectorAll('.takes')) if (el !== section) el.classList.remove('takes')
    section?.classList.add('takes')
  }
  document.addEventListener('dragstart', e => {
    const pull = e.target.closest?.('[data-pull]')
    if (!pull) return
    pulled = pull.dataset.pull
    e.dataTransfer.effectAllowed = 'move'
    e.dataTransfer.setData('text/plain', pull.parentElement.textContent.trim())
    e.dataTransfer.setDragImage(pull.parentElement, 0, 0)
  })
  document.addEventListener('dragover', e => {
    const section = over(e)
    mark(section)
    if (section) e.preventDefault()
  })
  document.addEventListener('dragend', () => {
    pulled = null
    mark(null)
  })
  document.addEventListener('drop', e => {
    const section = over(e)
    if (!section) return
    e.preventDefault()
    const [kind, ...key] = pulled.split(' ')
    const into = section.dataset.section
    if (kind === 'cutting')
      htmx.ajax('POST', `/studies/${outline().dataset.outline}/cuttings/${key.join(' ')}`, {
        source: document.body,
        target: '#document',
        swap: 'none',
        values: { section: into }
      })
    else send({ do: 'bring', key: into, item: pulled })
    pulled = null
    mark(null)
  })
  document.addEventListener('keydown', e => {
    const does = { ArrowUp: 'up', ArrowDown: 'down', ArrowRight: 'in', ArrowLeft: 'out' }[e.key]
    if (!does || !e.altKey || e.ctrlKey || e.metaKey || e.shiftKey || e.target.matches('input, textarea, select'))
      return
    const section = document.activeElement?.closest('[data-section]')
    if (!section) return
    e.preventDefault()
    send({ do: does, key: section.dataset.section })
  })
})()

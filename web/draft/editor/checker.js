// The language check's side of the page: it asks the worker, and lists what it found.
import { textblocks, textOf } from './schema.js'

const pause = 700 // ms after the last key
const shown = 200 // findings listed

// Words that somebody with a link says are right: kept in their browser.
const rightKey = 'draft right words'
const rightWords = () => {
  try {
    return JSON.parse(localStorage.getItem(rightKey)) ?? []
  } catch {
    return []
  }
}

export const checker = ({ boot, view, marked }) => {
  let worker,
    timer,
    asked = 0,
    findings = null,
    state = boot.dictionary ? 'loading' : 'none',
    sent
  if (boot.dictionary) {
    worker = new Worker(boot.worker)
    worker.postMessage({
      type: 'start',
      language: boot.language,
      dictionary: boot.dictionary,
      known: [...boot.known, ...rightWords()]
    })
    worker.onmessage = e => {
      if (e.data.type === 'ready') {
        state = 'ready'
        check()
      }
      if (e.data.type === 'failed') {
        state = 'failed'
        show()
      }
      if (e.data.type === 'found' && e.data.id === asked) {
        findings = e.data.findings
        if (view.state.doc.eq(sent)) marked(findings)
        show()
      }
    }
    worker.onerror = () => {
      state = 'failed'
      show()
    }
  }
  const check = () => {
    if (!worker) return
    sent = view.state.doc
    const blocks = textblocks(sent).map(({ node }) => {
      if (node.type.name === 'code_block') return ''
      let text = textOf(node)
      node.forEach((ch, at) => {
        if (ch.isText && ch.marks.some(m => m.type.name === 'code'))
          text = text.slice(0, at) + ' '.repeat(ch.nodeSize) + text.slice(at + ch.nodeSize)
      })
      return text
    })
    worker.postMessage({ type: 'check', id: ++asked, blocks })
  }
  const later = () => {
    clearTimeout(timer)
    timer = setTimeout(check, pause)
  }

  const el = (tag, text, props = {}) => Object.assign(document.createElement(tag), { textContent: text }, props)
  const show = () => {
    const box = document.getElementById('language-findings')
    if (!box) return
    box.replaceChildren()
    if (state === 'loading') {
      box.append(el('p', tell('The dictionary is being loaded …'), { className: 'quiet' }))
      return
    }
    if (state === 'failed') {
      box.append(el('p', tell('The language check does not run in this browser.')))
      return
    }
    if (!worker || !findings) return
    document.body.dataset.checked = String(asked)
    if (!findings.length) {
      box.append(el('p', tell('Nothing was found.')))
      return
    }
    const ul = el('ul', '', { className: 'findings' })
    for (const f of findings.slice(0, shown)) {
      const li = el('li', '')
      const go = el('button', f.word, { type: 'button', className: 'bare' })
      go.addEventListener('click', () => {
        const b = textblocks(view.state.doc)[f.block]
        if (!b) return
        view.dispatch(
          view.state.tr
            .setSelection(
              view.state.selection.constructor.create(
                view.state.doc,
                b.from + f.from,
                Math.min(b.from + f.to, b.from + b.node.content.size)
              )
            )
            .scrollIntoView()
        )
        view.focus()
      })
      li.append(go, ' ', el('span', tell(f.says), { className: 'quiet' }))
      for (const s of f.suggest ?? []) {
        const b = el('button', s, { type: 'button', className: 'btn-line' })
        Object.assign(b.dataset, { fix: s, block: f.block, from: f.from, to: f.to, word: f.word })
        li.append(' ', b)
      }
      if (f.kind === 'spelling') {
        const b = el('button', tell('it is right'), { type: 'button', className: 'btn-line quiet' })
        b.dataset.right = f.word
        b.setAttribute('aria-label', `${f.word}: ${b.textContent}`)
        li.append(' ', b)
      }
      ul.append(li)
    }
    box.append(
      el(
        'p',
        findings.length > shown
          ? `${findings.length} findings, the first ${shown}:`
          : `${findings.length} ${findings.length === 1 ? 'finding' : 'findings'}`,
        { className: 'quiet' }
      ),
      ul
    )
  }
  const fix = (a, view) => {
    const { fix, block, from, to, word } = a.dataset
    const b = textblocks(view.state.doc)[Number(block)]
    if (!b || textOf(b.node).slice(Number(from), Number(to)) !== word) return // the text has changed since
    view.dispatch(view.state.tr.insertText(fix, b.from + Number(from), b.from + Number(to)))
  }
  const right = word => {
    if (boot.teach) fetch(`${boot.base}/right`, { method: 'POST', body: new URLSearchParams({ word }) }).catch(() => {})
    else
      try {
        localStorage.setItem(rightKey, JSON.stringify([...new Set([...rightWords(), word])].slice(-2000)))
      } catch {
        /* for now, then */
      }
    worker.postMessage({ type: 'known', known: [word] })
    check()
  }
  return { later, show, fix, right }
}

// The place where a draft is written: the text, the bar over it, and what stands beside it.
import { gapCursor } from 'prosemirror-gapcursor'
import { closeHistory, history } from 'prosemirror-history'
import { Plugin, TextSelection } from 'prosemirror-state'
import { tableEditing } from 'prosemirror-tables'
import { Decoration, DecorationSet, EditorView } from 'prosemirror-view'
import { checker } from './checker.js'
import { all, marks, setMarks } from './marks.js'
import { plainHTML, plainText } from './paste.js'
import { imageView, schema, textblocks } from './schema.js'
import { Sync } from './sync.js'
import { askImage, askLink, commands, isInTable, keys, markActive, rules, styleOf } from './toolbar.js'

const boot = JSON.parse(document.getElementById('draft-boot').textContent)
const base = boot.base
const $ = (q, within = document) => within.querySelector(q)
const $$ = (q, within = document) => [...within.querySelectorAll(q)]

// ---- what is said ----------------------------------------------------------------------

const line = $('#draft-line')
const clock = () => new Date().toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' })
const says = {
  writing: () => tell('writing …'),
  saving: () => tell('saving …'),
  saved: () => tell('saved {1}', clock()),
  alone: () => tell('No connection. Your text is kept in this browser, and is sent when there is one again.'),
  'alone-unkept': () => tell('No connection, and this browser keeps nothing: leave this page open, or copy your text.'),
  shut: () =>
    tell(
      'This text cannot be written any more by this link. What you typed last is kept in this browser; copy it from here.'
    ),
  large: () => tell('The text is too long to be saved: at most 4 MB. It is kept in this browser.'),
  full: () => tell("The server's disk is full. Your text is kept in this browser, and is sent when there is room."),
  refused: () =>
    tell('The text could not be saved. It is kept in this browser, and is tried again with the next change.'),
  others: who => tell('{1} writes here too · saved {2}', who || tell('somebody else'), clock()),
  apart: () => tell('The text had moved on too far: what was unsent is kept as a version.'),
  brought: () => tell('saved {1}, with text that an earlier page had not sent', clock())
}
let said = ''
const say = (what, who) => {
  const text = says[what](who)
  if (what === 'saved' && /earlier page|writes here|as a version/.test(said) && Date.now() - say.at < 6000) return
  said = line.textContent = text
  line.classList.toggle('trouble', ['alone', 'alone-unkept', 'shut', 'large', 'full', 'refused'].includes(what))
  say.at = Date.now()
}
const notice = text => {
  const n = $('#notices')
  if (n) {
    n.innerHTML = ''
    const p = document.createElement('div')
    p.className = 'notice'
    p.textContent = text
    n.append(p)
    setTimeout(() => p.remove(), 8000)
  } else line.textContent = text
}

// ---- the editor ------------------------------------------------------------------------

const placeholder = new Plugin({
  props: {
    decorations(state) {
      const first = state.doc.firstChild
      if (state.doc.childCount > 1 || first.content.size || !first.isTextblock) return null
      return DecorationSet.create(state.doc, [
        Decoration.node(0, first.nodeSize, {
          class: 'draft-empty',
          'data-says': tell('Write here. The outline of the brief comes in with the button above, or Ctrl+Alt+O.')
        })
      ])
    }
  }
})

const bar = $('#draft-bar')
const outOfText = { link: askLink, keep: () => keepVersion() }
const outline = schema.nodeFromJSON(boot.outline)
const plugins = [
  rules,
  ...keys(outline, outOfText),
  history(),
  gapCursor(),
  tableEditing(),
  placeholder,
  marks(found => showSays(found)),
  new Plugin({ view: () => ({ update: view => showBarSoon(view) }) })
]
const sync = new Sync({ base, boot, plugins, say })

const view = new EditorView($('#draft-text'), {
  state: sync.state,
  attributes: {
    role: 'textbox',
    'aria-multiline': 'true',
    'aria-label': tell('The draft'),
    lang: boot.language,
    spellcheck: 'false',
    class: 'draft-prose'
  },
  nodeViews: { image: imageView },
  transformPastedHTML: plainHTML,
  transformPastedText: plainText,
  handleClickOn: (v, pos, node, at, e) => {
    if ((e.ctrlKey || e.metaKey) && e.target.closest('a')) {
      window.open(e.target.closest('a').href, '_blank', 'noopener,noreferrer')
      return true
    }
    return false
  },
  dispatchTransaction(tr) {
    view.updateState(view.state.apply(tr))
    if (!tr.docChanged) return
    if (!tr.getMeta('collab$')) sync.changed()
    showHead()
    measure()
  }
})
sync.attach(view)
window.corpulanDraft = view // for those who look at the page with their own tools

// Below the last block one can always go on, whatever that is.
$('#draft-text').addEventListener('mousedown', e => {
  const last = view.state.doc.lastChild
  if (e.target !== view.dom || last.isTextblock || e.clientY < view.dom.lastElementChild.getBoundingClientRect().bottom)
    return
  e.preventDefault()
  const tr = view.state.tr.insert(view.state.doc.content.size, schema.nodes.paragraph.create())
  view.dispatch(tr.setSelection(TextSelection.atEnd(tr.doc)))
  view.focus()
})

// ---- title and description -----------------------------------------------------------------

const head = $('#draft-head')
const showHead = () => {
  for (const f of $$('[name]', head)) {
    if (document.activeElement !== f && f.value !== view.state.doc.attrs[f.name]) f.value = view.state.doc.attrs[f.name]
    const n = [...f.value].length
    $(`[data-count="${f.name}"]`, head).textContent =
      tell('{1} of {2}', n, f.dataset.most) + (n > Number(f.dataset.most) ? tell(': too long') : '')
  }
}
head.addEventListener('input', e => {
  if (!e.target.name) return
  view.dispatch(view.state.tr.setDocAttribute(e.target.name, e.target.value.replace(/\s*\n\s*/g, ' ')))
})

// ---- the bar -----------------------------------------------------------------------------

const does = commands(outline)
const showBar = v => {
  for (const b of $$('[data-does]', bar)) {
    const name = b.dataset.does
    if (does[name]) b.disabled = !does[name](v.state)
    if (name === 'strong' || name === 'em') b.setAttribute('aria-pressed', markActive(v.state, schema.marks[name]))
    if (name === 'link') b.setAttribute('aria-pressed', markActive(v.state, schema.marks.link))
  }
  $('#draft-style').value = styleOf(v.state)
  $('#draft-table').hidden = !isInTable(v.state)
}
let drawing // the bar is drawn once a frame, however many keys come in it
const showBarSoon = v => {
  drawing ??= requestAnimationFrame(() => {
    drawing = null
    showBar(v)
  })
}
const press = e => {
  const b = e.target.closest('[data-does]')
  if (!b) return
  const name = b.dataset.does
  view.dispatch(closeHistory(view.state.tr)) // a button is a step of its own
  if (name === 'link') return askLink(view)
  if (name === 'image') return askImage(view)
  if (name === 'keep') return keepVersion()
  does[name]?.(view.state, view.dispatch, view)
  view.focus()
}
bar.addEventListener('click', press)
$('#draft-table').addEventListener('click', press)
$('#draft-score').addEventListener('click', press)
$('#draft-style').addEventListener('change', e => {
  does[e.target.value](view.state, view.dispatch)
  view.focus()
})
$('#draft-marks').addEventListener('change', () => {
  for (const box of $$('#draft-marks [name]'))
    view.dom.parentElement.classList.toggle(`without-${box.name}`, !box.checked)
  try {
    localStorage.setItem(
      'draft marks',
      JSON.stringify(Object.fromEntries($$('#draft-marks [name]').map(b => [b.name, b.checked])))
    )
  } catch {
    /* not kept then */
  }
})
try {
  const chosen = JSON.parse(localStorage.getItem('draft marks')) ?? {}
  for (const box of $$('#draft-marks [name]')) box.checked = chosen[box.name] ?? box.checked
} catch {
  /* those stay that the page has */
}
$('#draft-marks').dispatchEvent(new Event('change'))

// The menus shut when one goes on elsewhere.
const shutMenus = but => {
  for (const d of $$('.draft-menu[open]')) if (d !== but) d.open = false
}
document.addEventListener('mousedown', e => shutMenus(e.target.closest('.draft-menu')))
document.addEventListener('keydown', e => {
  const menu = e.key === 'Escape' && e.target.closest('.draft-menu[open]')
  if (menu) {
    menu.open = false
    $('summary', menu).focus()
  }
})

// ---- whole texts in ------------------------------------------------------------------------

const got = async path => {
  const answer = await fetch(base + path)
  if (!answer.ok) throw new Error((await answer.text()).trim() || `The server says ${answer.status}.`)
  return answer.json()
}
const post = async (path, body, headers = { 'Content-Type': 'application/json' }) => {
  const answer = await fetch(base + path, { method: 'POST', body, headers })
  if (!answer.ok) throw new Error((await answer.text()).trim() || `The server says ${answer.status}.`)
  return answer
}
const keepVersion = async name => {
  try {
    await post('/versions', JSON.stringify({ said: name ?? '', doc: view.state.doc.toJSON() }))
    notice(name ? tell('Kept: {1}', name) : tell('Kept as a version.'))
    measure(0)
  } catch (e) {
    notice(tell('The version could not be kept: {1}', e.message))
  }
}
const replaceAll = (json, said, kept) => {
  const doc = schema.nodeFromJSON(json)
  let tr = view.state.tr.replaceWith(0, view.state.doc.content.size, doc.content)
  for (const a of ['title', 'description']) if (doc.attrs[a]) tr = tr.setDocAttribute(a, doc.attrs[a])
  view.dispatch(tr.setSelection(TextSelection.atStart(tr.doc)).scrollIntoView())
  notice(`${said} ${kept ? tell('What stood here before is a version; ') : ''}${tell('Ctrl+Z takes it back.')}`)
  view.focus()
}
const bring = async (get, said, before) => {
  try {
    view.dispatch(closeHistory(view.state.tr))
    const json = await get()
    const kept = view.state.doc.textContent.trim() !== ''
    if (kept) await post('/versions', JSON.stringify({ said: before, doc: view.state.doc.toJSON() }))
    replaceAll(json, said, kept)
  } catch (e) {
    notice(e.message)
  }
}
$('#draft-file')?.addEventListener('change', e => {
  const file = e.target.files[0]
  if (!file) return
  const data = new FormData()
  data.set('file', file)
  bring(
    async () => await (await post('/import', data, {})).json(),
    tell('{1} was taken in.', file.name),
    `Before ${file.name}`
  ).finally(() => {
    e.target.value = ''
  })
})

// ---- beside the text -----------------------------------------------------------------------

const beside = $('#beside')
let tab = boot.beside,
  show = boot.show,
  running,
  timer,
  asked = 0
const setHTML = (el, html) => {
  if (el.dataset.html === html) return
  el.dataset.html = html
  const open = new Set($$('details[open][id]', el).map(d => d.id)),
    shut = new Set($$('details[id]:not([open])', el).map(d => d.id))
  const focus = el.contains(document.activeElement) && document.activeElement.id
  const filled = Object.fromEntries($$('[data-filled][id]', el).map(d => [d.id, d.innerHTML]))
  el.innerHTML = html
  for (const d of $$('details[id]', el)) {
    if (open.has(d.id)) d.open = true
    else if (shut.has(d.id)) d.open = false
  }
  for (const d of $$('[data-fill][id]', el))
    if (filled[d.id]) {
      d.innerHTML = filled[d.id]
      d.dataset.filled = '1'
    }
  if (focus) document.getElementById(focus)?.focus()
}
const measure = (wait = 150) => {
  clearTimeout(timer)
  timer = setTimeout(ask, wait)
  checks.later()
}
const ask = async () => {
  running?.abort()
  running = new AbortController()
  const doc = view.state.doc,
    nr = ++asked
  try {
    const answer = await fetch(`${base}/fit?${new URLSearchParams({ beside: tab, show })}`, {
      method: 'POST',
      body: JSON.stringify(doc.toJSON()),
      headers: { 'Content-Type': 'application/json' },
      signal: running.signal
    })
    if (!answer.ok) throw new Error((await answer.text()).trim())
    const drawn = await answer.json()
    if (nr !== asked) return
    setHTML($('#draft-score'), drawn.score)
    $('#bar-fit').textContent = $('.score-figure strong').textContent
    $('#draft-score').classList.remove('stale')
    const scroll = beside.scrollTop
    setHTML($('#beside-panel'), drawn.panel)
    beside.scrollTop = scroll
    checks.show()
    if (view.state.doc.eq(doc)) setMarks(view, 'fit', drawn.marks)
    document.body.dataset.measured = String(nr)
  } catch (e) {
    if (e.name !== 'AbortError') $('#draft-score').classList.add('stale')
  }
}
// What the writer says of a question: it is where the cursor stands, or what was found does not answer it.
const judge = async ({ judge, question, passage }) => {
  const { from, to, empty, $from } = view.state.selection
  const here = empty ? $from.parent.textContent : view.state.doc.textBetween(from, to, '\n', ' ')
  const text = { yes: here, no: passage, back: '' }[judge]
  if (judge === 'yes' && !here.trim()) return notice(tell('Put the cursor into the paragraph that answers it.'))
  try {
    await post('/judge', new URLSearchParams({ question, answers: judge, text }), {})
    ask()
  } catch (e) {
    notice(e.message)
  }
}
const choose = (to, filter) => {
  tab = to
  show = filter
  for (const a of $$('#beside-tabs a'))
    a.dataset.tab === tab ? a.setAttribute('aria-current', 'page') : a.removeAttribute('aria-current')
  const at = new URL(location)
  at.searchParams.set('beside', tab)
  show ? at.searchParams.set('show', show) : at.searchParams.delete('show')
  window.history.replaceState(window.history.state, '', at)
  beside.scrollTop = 0
  ask()
}

// To a place in the text: the next one of a term, the beginning of a section.
const to = (from, until) => {
  view.dispatch(view.state.tr.setSelection(TextSelection.create(view.state.doc, from, until)).scrollIntoView())
  view.focus()
}
const goTo = a => {
  const { key, kind, block } = a.dataset
  if (key) {
    const places = all(view.state, m => m.key === key && (!kind || m.kind === kind))
    const next = places.find(d => d.from > view.state.selection.from) ?? places[0]
    if (next) return to(next.from, next.to)
  }
  const b = block !== undefined && textblocks(view.state.doc)[Number(block)]
  if (b) to(b.from, b.from + b.node.content.size)
}
const insertCutting = id => {
  const c = JSON.parse(document.getElementById(`cutting-${id}`).textContent)
  const { nodes, marks: m } = schema
  const source = nodes.paragraph.create(
    null,
    c.url ? [schema.text(c.title || c.url, [m.link.create({ href: c.url })])] : null
  )
  const quote = nodes.blockquote.create({ cite: c.url ?? '' }, [
    nodes.paragraph.create(null, schema.text(c.text)),
    ...(c.url ? [source] : [])
  ])
  const $at = view.state.selection.$to
  view.dispatch(view.state.tr.insert($at.depth ? $at.after(1) : view.state.doc.content.size, quote).scrollIntoView())
  view.focus()
}

document.addEventListener('click', async e => {
  const a = e.target.closest(
    '#beside a[data-tab], #beside [data-go], #beside [data-restore], #beside [data-own], #beside [data-cutting], #beside [data-judge], #draft-score [data-tab], [data-fix], [data-right]'
  )
  if (!a || e.ctrlKey || e.metaKey || e.shiftKey) return
  e.preventDefault()
  if (a.dataset.tab) return choose(a.dataset.tab, a.dataset.show ?? '')
  if (a.dataset.cutting) return insertCutting(a.dataset.cutting)
  if (a.dataset.judge) return judge(a.dataset)
  if (a.dataset.fix !== undefined) return checks.fix(a, view)
  if (a.dataset.right !== undefined) return checks.right(a.dataset.right)
  if (a.dataset.restore)
    return bring(
      () => got(`/versions/${a.dataset.restore}`),
      tell('The version was brought back.'),
      'Before an older version was brought back'
    )
  if (a.dataset.own)
    return bring(
      async () => (await post('/own', new URLSearchParams({ of: a.dataset.own }), {})).json(),
      tell('The page was taken in.'),
      'Before a page of ours was taken in'
    )
  goTo(a)
})
document.addEventListener('submit', e => {
  if (!e.target.matches('#keep-version')) return
  e.preventDefault()
  keepVersion(e.target.elements.said.value.trim())
})
document.addEventListener(
  'toggle',
  async e => {
    const d = e.target
    if (!d.open || !d.dataset?.load) return
    const into = $('[data-fill]', d)
    if (into.dataset.filled) return
    try {
      into.innerHTML = await (await fetch(d.dataset.load)).text()
      into.dataset.filled = '1'
    } catch {
      into.textContent = tell('This could not be loaded; try again.')
    }
  },
  true
)

// What the marks under the cursor say, for those who do not hover.
const strip = $('#mark-says')
const showSays = found => {
  strip.replaceChildren()
  for (const m of found.filter(m => m.says).slice(0, 3)) {
    const p = document.createElement('p')
    p.textContent = m.says
    for (const s of m.suggest ?? []) {
      const b = document.createElement('button')
      b.type = 'button'
      b.className = 'btn-line'
      b.textContent = s
      b.addEventListener('click', () => {
        view.dispatch(view.state.tr.insertText(s, m.start, m.end))
        view.focus()
        showSays([])
      })
      p.append(' ', b)
    }
    strip.append(p)
  }
}

const checks = checker({ boot, view, marked: list => setMarks(view, 'language', list) })
showHead()
showBar(view)
ask()
checks.later()

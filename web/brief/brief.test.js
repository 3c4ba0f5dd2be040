// What is typed into a brief: node's own test runner runs it, in a DOM of happy-dom's.
import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { beforeEach, test } from 'node:test'
import { Window } from 'happy-dom'

const script = readFileSync(new URL('static/brief.js', import.meta.url), 'utf8')
const page = `<div id="document" data-revision="3">
    <form data-field="title"><textarea name="value" data-line>Winter tyres</textarea>
      <input type="hidden" name="was" value="Winter tyres"><input type="hidden" name="typed" value="false">
      <span data-state></span><div class="field-answer"></div></form>
    <input data-keep="point one">
  </div><span id="saved-state"></span>`
let window, document, saved, kept

// open loads the page as a browser would, with what it kept from before.
const open = (body = page, session = new Map([['tab', 'this one']])) => {
  window = new Window({ url: 'http://here/studies/7/brief' })
  document = window.document
  document.body.dataset.study = '7'
  document.body.innerHTML = body
  saved = []
  const storage = {
    getItem: k => kept.get(k) ?? null,
    setItem: (k, v) => kept.set(k, String(v)),
    removeItem: k => kept.delete(k)
  }
  const htmx = { trigger: form => saved.push(form.elements.value.value) }
  const tabs = { getItem: k => session.get(k) ?? null, setItem: (k, v) => session.set(k, v) }
  new Function(
    'window',
    'document',
    'addEventListener',
    'localStorage',
    'sessionStorage',
    'htmx',
    'tell',
    'CSS',
    script
  )(window, document, window.addEventListener.bind(window), storage, tabs, htmx, t => t, {
    supports: () => true,
    escape: s => s
  })
  document.dispatchEvent(new window.Event('DOMContentLoaded'))
}
const form = () => document.querySelector('form')
const area = () => form().elements.value
const tell = (target, name, detail = {}) => {
  const e = new window.CustomEvent(name, { bubbles: true, cancelable: true, detail })
  target.dispatchEvent(e)
  return e
}
const type = text => {
  area().value = text
  tell(area(), 'input')
}
const answer = html => {
  const box = form().querySelector('.field-answer')
  box.innerHTML = html
  tell(box, 'htmx:afterSwap', { elt: form() })
}

beforeEach(() => {
  kept = new Map()
  open()
})

test('what is typed is kept in the browser until it is saved', () => {
  type('Tyres for ice')
  assert.equal(JSON.parse(kept.get('unsaved 7 title')).text, 'Tyres for ice')
  tell(form(), 'htmx:configRequest', { elt: form() })
  answer('<span data-saved="4"></span>')
  assert.equal(kept.size, 0)
  assert.equal(form().elements.was.value, 'Tyres for ice')
})

test('what was typed while a save was under way is kept on', () => {
  type('Tyres for ice')
  tell(form(), 'htmx:configRequest', { elt: form() })
  type('Tyres for ice and snow')
  answer('<span data-saved="4"></span>')
  assert.equal(JSON.parse(kept.get('unsaved 7 title')).text, 'Tyres for ice and snow')
})

test('a page opened again brings back what was not saved, and saves it', () => {
  kept.set(
    'unsaved 7 title',
    JSON.stringify({ text: 'Studs', was: 'Winter tyres', typed: 'false', at: Date.now() - 60_000 })
  )
  open()
  assert.equal(area().value, 'Studs')
  assert.deepEqual(saved, ['Studs'])
})

test('a page that is loaded anew while one types has what was typed', () => {
  const session = new Map([['tab', 'this one']])
  open(page, session)
  type('Studs')
  open(page, session)
  assert.equal(area().value, 'Studs')
  assert.deepEqual(saved, ['Studs'])
})

test('what another tab types is left to it until it types no more', t => {
  t.mock.timers.enable({ apis: ['setTimeout', 'Date'], now: 1_000_000 })
  kept.set(
    'unsaved 7 title',
    JSON.stringify({ text: 'Studs', was: 'Winter tyres', typed: 'false', at: Date.now(), tab: 'another' })
  )
  open()
  assert.equal(area().value, 'Winter tyres')
  assert.deepEqual(saved, [])
  t.mock.timers.tick(3000)
  assert.equal(area().value, 'Studs')
  assert.deepEqual(saved, ['Studs'])
})

test('while somebody else has changed the field nothing is sent until a person decides', () => {
  type('Studs')
  answer(
    '<div data-conflict data-theirs-typed="true"><b data-theirs>Chains</b><button data-take="both">Both</button></div>'
  )
  assert.equal(tell(form(), 'htmx:beforeRequest', { elt: form() }).defaultPrevented, true)
  document.querySelector('[data-take]').click()
  assert.deepEqual(saved, ['Chains Studs'])
  assert.equal(tell(form(), 'htmx:beforeRequest', { elt: form() }).defaultPrevented, false)
})

test('a document drawn anew leaves what is being typed', () => {
  type('Studs')
  const doc = document.getElementById('document')
  tell(doc, 'htmx:beforeSwap')
  area().value = 'Winter tyres'
  form().elements.was.value = 'Winter tyres'
  tell(doc, 'htmx:afterSwap')
  assert.equal(area().value, 'Studs')
  assert.deepEqual(saved, ['Studs'])
})

test('what is brought back into a folded field is in sight', () => {
  const folded = page.replace('<form', '<details data-stays="more"><form').replace('</form>', '</form></details>')
  kept.set(
    'unsaved 7 title',
    JSON.stringify({ text: 'Studs', was: 'Winter tyres', typed: 'false', at: 0, tab: 'this one' })
  )
  open(folded)
  assert.equal(area().value, 'Studs')
  assert.equal(document.querySelector('details').open, true)
})

test('a field in a fold that is open keeps the focus when the document is drawn anew', () => {
  const folded = page.replace('<form', '<details data-stays="more"><form').replace('</form>', '</form></details>')
  open(folded, new Map([['open 7 more', 'yes']]))
  assert.equal(document.querySelector('details').open, true)
  area().focus()
  const doc = document.getElementById('document')
  tell(doc, 'htmx:beforeSwap')
  doc.innerHTML = doc.innerHTML.replace(' open=""', '') // as the server draws it
  assert.equal(document.querySelector('details').open, false)
  let unfolded = null
  area().focus = () => (unfolded = document.querySelector('details').open)
  tell(doc, 'htmx:afterSwap')
  assert.equal(unfolded, true)
})

test('what was typed in the dossier is asked for with it, and brought back when it comes', () => {
  const shut = `${page}<details data-stays="dossier" data-fields="media goal"><summary></summary>
    <div class="dossier-body"></div></details>`
  const box = () => document.querySelector('details')
  open(shut)
  assert.equal(box().open, false)
  kept.set(
    'unsaved 7 media',
    JSON.stringify({ text: 'A photo', was: '2 images', typed: 'false', at: 0, tab: 'this one' })
  )
  open(shut)
  assert.equal(box().open, true)
  const body = document.querySelector('.dossier-body')
  body.innerHTML = form()
    .outerHTML.replace('data-field="title"', 'data-field="media"')
    .replaceAll('Winter tyres', '2 images')
  tell(body, 'htmx:afterSwap')
  assert.equal(body.querySelector('textarea').value, 'A photo')
  assert.deepEqual(saved, ['A photo'])
})

test('line breaks pasted into a field of one line are spaces', () => {
  type('Studs\n  or chains')
  assert.equal(area().value, 'Studs or chains')
})

test('a line that is sent by a press outlives the page until it came through', () => {
  const line = document.querySelector('[data-keep]')
  line.value = 'Say how many studs'
  tell(line, 'input')
  open()
  assert.equal(document.querySelector('[data-keep]').value, 'Say how many studs')
  tell(document.body, 'htmx:beforeOnLoad', { xhr: { status: 500 }, requestConfig: { elt: document.body } })
  assert.equal(kept.size, 1)
  tell(document.body, 'htmx:beforeOnLoad', { xhr: { status: 200 }, requestConfig: { elt: document.body } })
  assert.equal(kept.size, 0)
})

test('a form that is dirty asks before the page is left', () => {
  const leaves = () => {
    const e = new window.Event('beforeunload', { cancelable: true })
    window.dispatchEvent(e)
    return !e.defaultPrevented
  }
  assert.equal(leaves(), true)
  type('Studs')
  assert.equal(leaves(), false)
})

test('a document that is drawn anew by itself waits for who drags a section', () => {
  open('<span class="counting"></span><ol class="outline" data-outline="7"></ol>')
  const outline = readFileSync(new URL('static/outline.js', import.meta.url), 'utf8')
  new Function('window', 'document', outline)(window, document)
  const counting = document.querySelector('.counting')
  const drawn = elt => {
    const e = tell(counting, 'htmx:beforeSwap', { shouldSwap: true, requestConfig: { elt } })
    return e.detail.shouldSwap
  }
  assert.equal(drawn(counting), true)
  document.querySelector('.outline').classList.add('dragging')
  assert.equal(drawn(counting), false)
  assert.equal(drawn(document.body), true, 'what the person asked for')
})

test('a question is pulled into a section, a cutting too; what is let go elsewhere stays', () => {
  open(`<ol class="outline" data-outline="7"><li data-section="tyres"><p>Tyres</p></li><li data-section="lights"></li></ol>
    <li><span data-pull="question how many bars"></span>How many bars?</li><li><span data-pull="cutting 5"></span></li>`)
  const sent = []
  const htmx = { ajax: (method, path, { values }) => sent.push([path, values]) }
  const outline = readFileSync(new URL('static/outline.js', import.meta.url), 'utf8')
  new Function('window', 'document', 'htmx', outline)(window, document, htmx)
  const [question, cutting] = document.querySelectorAll('[data-pull]')
  const drag = (el, name) => {
    const e = new window.Event(name, { bubbles: true, cancelable: true })
    e.dataTransfer = { setData() {}, setDragImage() {} }
    el.dispatchEvent(e)
    return e
  }
  const tyres = document.querySelector('[data-section]')
  assert.equal(drag(tyres, 'dragover').defaultPrevented, false, 'nothing is pulled')
  drag(question, 'dragstart')
  assert.equal(drag(tyres.firstChild, 'dragover').defaultPrevented, true)
  assert.equal(tyres.classList.contains('takes'), true)
  drag(tyres.firstChild, 'drop')
  assert.equal(tyres.classList.contains('takes'), false)
  drag(cutting, 'dragstart')
  drag(document.querySelector('[data-section=lights]'), 'drop')
  drag(question, 'dragstart')
  drag(document.body, 'drop')
  drag(question, 'dragend')
  drag(tyres, 'drop')
  assert.deepEqual(sent, [
    ['/studies/7/outline', { do: 'bring', key: 'tyres', item: 'question how many bars' }],
    ['/studies/7/cuttings/5', { section: 'lights' }]
  ])
})

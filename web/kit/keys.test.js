// The keyboard, on a page with one list: node's own test runner runs it, in a DOM of happy-dom's.
import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { beforeEach, test } from 'node:test'
import { Window } from 'happy-dom'

const script = readFileSync(new URL('static/keys.js', import.meta.url), 'utf8')
let window, document, pressed, clock

const key = (target, k, more = {}) =>
  target.dispatchEvent(new window.KeyboardEvent('keydown', { key: k, bubbles: true, cancelable: true, ...more }))
const here = () => document.activeElement ?? document.body

beforeEach(() => {
  window = new Window({ url: 'http://here/studies/7/evidence' })
  document = window.document
  document.body.dataset.study = '7'
  document.body.innerHTML = `<a href="/studies/7/brief" data-go="b">Brief</a><input id="filter"><textarea id="note"></textarea>
    <table data-rows><tbody>${['one', 'two'].map(n => `<tr data-row="${n}" tabindex="-1"><td><button data-key="d" data-of="${n}">drop</button></td></tr>`).join('')}</tbody></table>`
  pressed = []
  for (const b of document.querySelectorAll('button')) b.addEventListener('click', () => pressed.push(b.dataset.of))
  Object.defineProperty(window.HTMLElement.prototype, 'offsetParent', {
    get() {
      return document.body
    },
    configurable: true
  })
  window.HTMLElement.prototype.scrollIntoView = () => {}
  clock = 10_000
  const performance = { now: () => clock }
  new Function('window', 'document', 'performance', 'location', 'htmx', 'tell', 'getSelection', 'bootstrap', script)(
    window,
    document,
    performance,
    window.location,
    { ajax: (...a) => pressed.push(a[1]) },
    t => t,
    () => window.getSelection(),
    {}
  )
})

test('j goes into the list, and a letter then acts on its row', () => {
  key(document.body, 'd')
  assert.deepEqual(pressed, [], 'no row has been gone to')
  key(document.body, 'j')
  key(here(), 'd')
  key(here(), 'j')
  key(here(), 'd')
  assert.deepEqual(pressed, ['one', 'two'])
})

test('no letter acts while somebody types, nor for a second after', () => {
  key(document.body, 'j')
  const note = document.querySelector('#note')
  note.focus()
  key(note, 'd')
  note.blur()
  document.querySelector('[data-row=one]').focus()
  clock += 500
  key(here(), 'd')
  assert.deepEqual(pressed, [])
  clock += 1500
  key(here(), 'd')
  assert.deepEqual(pressed, ['one'])
})

test('a row that a field was left in is not gone to: its list drawn anew, no letter acts on it', () => {
  const cell = document.querySelector('[data-row=one] td')
  cell.insertAdjacentHTML('beforeend', '<textarea></textarea>')
  const note = cell.querySelector('textarea')
  note.focus()
  key(note, 'x')
  key(note, 'Escape')
  clock += 5000
  document.dispatchEvent(new window.Event('htmx:afterSwap'))
  key(here(), 'd')
  assert.deepEqual(pressed, [])
  key(here(), 'j')
  key(here(), 'd')
  assert.equal(pressed.length, 1, 'j goes to it')
})

test('nor is one that a pane gives the focus back to when it is closed', () => {
  document.body.insertAdjacentHTML('beforeend', '<div id="pane"><input></div>')
  key(document.body, 'j')
  const input = document.querySelector('#pane input')
  input.focus()
  key(input, 'x')
  key(input, 'Escape')
  key(here(), 'Escape')
  clock += 5000
  key(here(), 'd')
  assert.deepEqual(pressed, [])
  document.querySelector('[data-row=two]').click()
  document.querySelector('[data-row=two]').focus()
  key(here(), 'd')
  assert.deepEqual(pressed, ['two'], 'a click goes to it')
})

test('with a key held that belongs to the browser no letter acts', () => {
  key(document.body, 'j')
  key(here(), 'd', { ctrlKey: true })
  assert.deepEqual(pressed, [])
})

test('u takes back what was done in the study', () => {
  key(document.body, 'u')
  assert.deepEqual(pressed, ['/studies/7/undo'])
})

test('slash goes to the filter', () => {
  key(document.body, '/')
  assert.equal(document.activeElement.id, 'filter')
})

test('a list drawn anew keeps what was picked in it; one that was acted on does not', () => {
  const draw = picked => {
    document.querySelector('tbody').innerHTML = ['one', 'two']
      .map(
        n =>
          `<tr data-row="${n}"><td><input type="checkbox" name="group" value="${n}" data-pick${n === picked ? ' checked' : ''}></td></tr>`
      )
      .join('')
  }
  const swap = (verb, tag) => {
    const elt = document.createElement(tag)
    document.dispatchEvent(new window.CustomEvent('htmx:beforeSwap', { detail: { requestConfig: { verb, elt } } }))
    draw()
    document.dispatchEvent(new window.Event('htmx:afterSwap'))
    return [...document.querySelectorAll('[data-pick]:checked')].map(b => b.value)
  }
  draw('two')
  assert.deepEqual(swap('get', 'div'), ['two'])
  assert.deepEqual(swap('get', 'input'), ['two'], 'and again')
  assert.deepEqual(swap('get', 'a'), [], 'a link leads to another list')
  draw('two')
  assert.deepEqual(swap('post', 'form'), [])
})

// What the pages do beyond htmx: node's own test runner runs it, in a DOM of happy-dom's.
import assert from 'node:assert/strict'
import { readFileSync } from 'node:fs'
import { test } from 'node:test'
import { Window } from 'happy-dom'

const script = readFileSync(new URL('static/corpulan.js', import.meta.url), 'utf8')
const open = (body, touch = false) => {
  const window = new Window({ url: 'http://here/studies/7/evidence' })
  window.document.body.innerHTML = body
  new Function('window', 'document', 'location', 'htmx', 'tell', 'addEventListener', 'matchMedia', script)(
    window,
    window.document,
    window.location,
    {},
    t => t,
    window.addEventListener.bind(window),
    () => ({ matches: touch })
  )
  const fire = (el, name) => el.dispatchEvent(new window.CustomEvent(name, { bubbles: true, detail: {} }))
  return { document: window.document, fire }
}

test('what went well leaves after a while, what went wrong stays', t => {
  t.mock.timers.enable({ apis: ['setTimeout'] })
  const { document, fire } = open('<div id="notices"></div><div id="findings"></div>')
  const box = document.getElementById('notices')
  box.innerHTML = '<div class="notice">Adopted: studs</div>'
  fire(box, 'htmx:afterSwap')
  t.mock.timers.tick(8000)
  fire(document.getElementById('findings'), 'htmx:afterSwap') // another swap does not keep it
  assert.equal(box.children.length, 1)
  t.mock.timers.tick(1500)
  assert.equal(box.children.length, 0)
  box.innerHTML = '<div class="notice bad">Not saved</div>'
  fire(box, 'htmx:afterSwap')
  t.mock.timers.tick(60_000)
  assert.equal(box.children.length, 1)
})

test('a menu shuts by Esc and by a press beside it', () => {
  const { document } = open('<details class="menu"><summary>More</summary><div><a>one</a></div></details><p>text</p>')
  const menu = document.querySelector('.menu')
  const press = el => el.dispatchEvent(new document.defaultView.Event('click', { bubbles: true }))
  menu.open = true
  press(menu.querySelector('a'))
  assert.equal(menu.open, true)
  press(document.querySelector('p'))
  assert.equal(menu.open, false)
  menu.open = true
  document.dispatchEvent(new document.defaultView.KeyboardEvent('keydown', { key: 'Escape' }))
  assert.equal(menu.open, false)
})

test('by touch what can be undone stays', t => {
  t.mock.timers.enable({ apis: ['setTimeout'] })
  const { document, fire } = open('<div id="notices"><div class="notice"><button data-undo></button></div></div>', true)
  const box = document.getElementById('notices')
  fire(box, 'htmx:afterSwap')
  t.mock.timers.tick(60_000)
  assert.equal(box.children.length, 1)
})

test('cells of rows say what they are, by the heads of their columns', () => {
  const { document, fire } = open(`<table class="rows"><thead><tr><th>Rank</th><th>Page</th><th>Words</th>
    <th><span class="visually-hidden">Act</span></th></tr></thead><tbody><tr><td class="rank">1</td>
    <td class="page-cell">A guide</td><td>800</td><td class="act"></td></tr></tbody></table>
    <table class="rows cover-table"><thead><tr><th>Theme</th></tr></thead><tbody><tr><td>Tyres</td></tr></tbody></table>`)
  fire(document, 'DOMContentLoaded')
  const named = [...document.querySelectorAll('td')].map(td => td.dataset.of ?? '')
  assert.deepEqual(named, ['', '', 'Words', '', ''], 'a table that compares across stays one')
})

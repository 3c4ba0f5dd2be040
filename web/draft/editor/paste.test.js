// What is pasted, in a DOM of happy-dom's: node's own test runner runs it, `make test-js`.
import assert from 'node:assert/strict'
import { test } from 'node:test'
import { Window } from 'happy-dom'
import { plainHTML, plainText } from './paste.js'

const window = new Window()
globalThis.DOMParser = window.DOMParser

test('bold and italics as word processors write them are elements', () => {
  assert.equal(
    plainHTML('<p><span style="font-weight:700">Bold</span> and <span style="font-style:italic">slanted</span></p>'),
    '<p><span><strong>Bold</strong></span> and <span><em>slanted</em></span></p>'
  )
  assert.equal(plainHTML('<b style="font-weight:normal"><p>not bold</p></b>').includes('<b'), false)
})

test('paragraphs with a sign before them are lists', () => {
  const item = (level, sign, text) =>
    `<p class="MsoListParagraph" style="mso-list:l0 level${level} lfo1"><span style="mso-list:Ignore">${sign}</span>${text}</p>`
  assert.equal(
    plainHTML(item(1, '·', 'tyres') + item(2, '1.', 'studs') + item(1, '·', 'lights')),
    '<ul><li>tyres<ol><li>studs</li></ol></li><li>lights</li></ul>'
  )
})

test('nothing that runs or phones home is left', () => {
  const html = plainHTML(
    '<p onclick="x()" class="a">Ride<script>steal()</script><img src="http://a.example/i.png" onerror=steal() style="x"></p><style>p{}</style>'
  )
  assert.equal(html, '<p>Ride<img src="http://a.example/i.png"></p>')
})

test('what is plain stays as it is, and so does what was made plain', () => {
  const plain = '<h2>Tyres</h2><p>Studs <strong>grip</strong>, <a href="https://a.example/">they say</a>.</p>'
  assert.equal(plainHTML(plain), plain)
  assert.equal(plainHTML(plainHTML('<p class="MsoTitle">Winter</p>')), '<h1>Winter</h1>')
})

test('control characters are no text', () => assert.equal(plainText('a\0b\x1fc\td\n'), 'a b c\td\n'))

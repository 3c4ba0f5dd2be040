// Several writers over a server of a few lines, which keeps steps in their order as ours does, and
// over a connection that comes and goes.
import assert from 'node:assert/strict'
import { beforeEach, test } from 'node:test'
import { Step } from 'prosemirror-transform'
import { schema } from './schema.js'
import { Sync, newClient } from './sync.js'

const stored = new Map()
globalThis.localStorage = {
  get length() {
    return stored.size
  },
  key: i => [...stored.keys()][i],
  getItem: k => stored.get(k) ?? null,
  setItem: (k, v) => stored.set(k, v),
  removeItem: k => stored.delete(k)
}
let server
const json = (status, body) => ({ ok: status < 300, status, json: async () => structuredClone(body) })
globalThis.fetch = async (url, options = {}) => {
  if (server.busy) return json(429, {})
  if (server.down) throw new TypeError('no connection')
  const [, what] = url.split('/draft/')
  if (what.startsWith('state')) {
    const since = Number(new URLSearchParams(what.split('?')[1]).get('since') ?? -1)
    if (since < 0) return json(200, { version: server.steps.length, doc: server.doc.toJSON(), steps: [] })
    return json(200, { version: server.steps.length, steps: server.steps.slice(since), author: 'Somebody' })
  }
  const body = JSON.parse(options.body)
  if (body.version !== server.steps.length)
    return json(409, { version: server.steps.length, steps: server.steps.slice(body.version), author: 'Somebody' })
  for (const step of body.steps) {
    server.doc = Step.fromJSON(schema, step).apply(server.doc).doc
    server.steps.push({ client: body.client, step })
  }
  if (server.losesAnswer) {
    server.losesAnswer = false
    throw new TypeError('the answer was lost')
  }
  return json(200, {})
}

const writer = () => {
  const said = []
  const sync = new Sync({
    base: '/draft',
    boot: { version: server.steps.length, doc: server.doc.toJSON() },
    plugins: [],
    say: what => said.push(what)
  })
  sync.base = 'http://here/draft'
  const view = {
    state: sync.state,
    dispatch(tr) {
      this.state = this.state.apply(tr)
    },
    updateState(state) {
      this.state = state
    }
  }
  sync.view = view
  const type = (text, at = view.state.doc.content.size - 1) => {
    view.dispatch(view.state.tr.insertText(text, at))
    sync.stow()
  }
  return { sync, type, said, text: () => view.state.doc.textContent }
}

beforeEach(() => {
  stored.clear()
  server = { doc: schema.nodeFromJSON({ type: 'doc', content: [{ type: 'paragraph' }] }), steps: [], down: false }
})

test('two who write at once have the same text, and nobody loses a word', async () => {
  const a = writer(),
    b = writer()
  a.type('Ours. ')
  b.type('Theirs. ')
  await a.sync.send()
  await b.sync.send()
  await a.sync.listen(true)
  assert.equal(a.text(), b.text())
  assert.equal(server.doc.textContent, a.text())
  assert.match(a.text(), /Ours\. /)
  assert.match(a.text(), /Theirs\. /)
  assert.equal(a.said.at(-1), 'others')
})

for (const [why, fault] of [
  ['without a connection', 'down'],
  ['where it was written too often', 'busy']
])
  test(`${why} typing is kept in the browser, and sent when it can be`, async () => {
    const a = writer()
    server[fault] = true
    a.type('Kept.')
    await a.sync.send()
    clearTimeout(a.sync.later)
    assert.equal(a.said.at(-1), 'alone')
    assert.equal(stored.size, 1)
    server[fault] = false
    await a.sync.send()
    assert.equal(server.doc.textContent, 'Kept.')
    assert.equal(stored.size, 0)
    assert.equal(a.said.at(-1), 'saved')
  })

test('what arrived though its answer was lost is not there twice', async () => {
  const a = writer()
  a.type('Once.')
  server.losesAnswer = true
  await a.sync.send()
  clearTimeout(a.sync.later)
  await a.sync.send()
  assert.equal(server.doc.textContent, 'Once.')
  assert.equal(a.text(), 'Once.')
})

test('a page that was closed leaves its words to the next', async () => {
  const a = writer()
  server.down = true
  a.type('Left behind.')
  a.sync.stow(true)
  server.down = false
  const b = writer()
  b.sync.key = 'draft /draft other'
  b.sync.base = '/draft'
  const real = globalThis.fetch
  globalThis.fetch = (url, o) => real('http://here' + url, o)
  await b.sync.bringIn()
  globalThis.fetch = real
  assert.equal(server.doc.textContent, 'Left behind.')
  assert.equal(b.text(), 'Left behind.')
  assert.equal(stored.size, 0)
})

test('writers are told apart', () => assert.notEqual(newClient(), newClient()))

// One text, many writers, and a connection that comes and goes. What was typed and is not yet
// with the server is kept in the browser; it is sent on top of what others have written
// meanwhile (prosemirror-collab), and nothing is overwritten.
import { collab, getVersion, receiveTransaction, sendableSteps } from 'prosemirror-collab'
import { EditorState } from 'prosemirror-state'
import { Step } from 'prosemirror-transform'
import { schema } from './schema.js'

export const newClient = () =>
  [...crypto.getRandomValues(new Uint8Array(12))].map(b => b.toString(16).padStart(2, '0')).join('')

const quiet = 500 // ms after the last key
const longest = 3000 // ms that typing is not sent
const asks = 2500 // ms between questions for what others wrote
const alive = 8000 // ms after which a tab that says nothing is gone
const atOnce = 1000 // steps sent together: every key is one, and an hour without a connection has many
const light = 200 // steps that are written to the browser with every key; more of them once a moment
const moment = 500 // ms

// ---- what the browser keeps ------------------------------------------------------------

const prefix = base => `draft ${base} `
const put = (key, value) => {
  try {
    value ? localStorage.setItem(key, JSON.stringify(value)) : localStorage.removeItem(key)
    return true
  } catch {
    return false
  }
}
const get = key => {
  try {
    return JSON.parse(localStorage.getItem(key))
  } catch {
    return null
  }
}

// What pages have left behind that were closed, or say nothing any more.
const leftBehind = (base, mine) => {
  const list = []
  try {
    for (let i = 0; i < localStorage.length; i++) {
      const key = localStorage.key(i)
      if (!key.startsWith(prefix(base)) || key === mine) continue
      const kept = get(key)
      if (kept && !kept.refused && (kept.closed || Date.now() - kept.at > alive)) list.push([key, kept])
    }
  } catch {
    /* storage may be forbidden */
  }
  return list
}

// The state that unsent steps lead to, on top of the version they were made on.
const stateOf = (kept, plugins) => {
  let state = EditorState.create({
    schema,
    doc: schema.nodeFromJSON(kept.base),
    plugins: [collab({ version: kept.version, clientID: kept.client }), ...plugins]
  })
  for (const s of kept.steps) state = state.apply(state.tr.step(Step.fromJSON(schema, s)))
  return state
}

const ask = async (url, options) => {
  const controller = new AbortController()
  const timer = setTimeout(() => controller.abort(), 20000)
  try {
    return await fetch(url, { ...options, signal: controller.signal, headers: { 'Content-Type': 'application/json' } })
  } finally {
    clearTimeout(timer)
  }
}

const receive = (state, steps) =>
  receiveTransaction(
    state,
    steps.map(s => Step.fromJSON(schema, s.step)),
    steps.map(s => s.client),
    { mapSelectionBackward: true }
  )

// The first of the unsent steps, and the text they lead to from the confirmed one.
const some = (send, confirmed, now, client) => {
  const steps = send.steps.slice(0, atOnce)
  let doc = now
  if (steps.length < send.steps.length) {
    doc = confirmed
    for (const s of steps) doc = s.apply(doc).doc
  }
  return { doc, body: { version: send.version, client, steps: steps.map(s => s.toJSON()) } }
}

// ---- the editor's side ----------------------------------------------------------------

export class Sync {
  constructor({ base, boot, plugins, say }) {
    this.base = base
    this.plugins = plugins
    this.say = say
    // Each page that is loaded is a writer of its own, a copied tab too.
    this.client = newClient()
    this.key = prefix(base) + this.client
    this.state = this.fresh(boot)
  }

  fresh(from) {
    this.confirmed = schema.nodeFromJSON(from.doc)
    return EditorState.create({
      schema,
      doc: this.confirmed,
      plugins: [collab({ version: from.version, clientID: this.client }), ...this.plugins]
    })
  }

  attach(view) {
    this.view = view
    addEventListener('online', () => this.send())
    addEventListener('pagehide', () => this.stow(true))
    addEventListener('pageshow', e => {
      if (e.persisted) this.stow()
    })
    document.addEventListener('visibilitychange', () => {
      if (document.visibilityState === 'visible') this.listen()
      else {
        this.stow()
        this.send()
      }
    })
    setInterval(() => {
      this.stow()
      if (document.visibilityState === 'visible') this.listen()
    }, asks)
    this.bringIn()
  }

  // Called with every change of the text by this editor.
  changed() {
    this.since ??= Date.now()
    clearTimeout(this.later)
    this.later = setTimeout(() => this.send(), Math.max(0, Math.min(quiet, this.since + longest - Date.now())))
    this.stowSoon()
    if (!this.trouble) this.say('writing')
  }

  // Unsent steps, in the browser: with every key, and where there are many once a moment, since
  // all are written each time.
  stowSoon() {
    if ((sendableSteps(this.view.state)?.steps.length ?? 0) <= light) return this.stow()
    this.soon ??= setTimeout(() => this.stow(), moment)
  }

  stow(closed = false) {
    clearTimeout(this.soon)
    this.soon = null
    const send = sendableSteps(this.view.state)
    const kept = send && {
      base: this.confirmed.toJSON(),
      version: send.version,
      client: this.client,
      steps: send.steps.map(s => s.toJSON()),
      at: Date.now(),
      closed
    }
    this.kept = put(this.key, kept)
  }

  async send() {
    if (this.sending) {
      this.again = true
      return
    }
    this.sending = true
    clearTimeout(this.later)
    try {
      for (let n = 0; n < 100; n++) {
        this.again = false
        const send = sendableSteps(this.view.state)
        this.since = null
        if (!send) {
          this.trouble = null
          this.say('saved')
          break
        }
        this.say('saving')
        const { doc, body } = some(send, this.confirmed, this.view.state.doc, this.client)
        const answer = await ask(`${this.base}/steps`, { method: 'POST', body: JSON.stringify(body) })
        if (answer.ok) {
          const ours = body.steps.map(step => ({ client: this.client, step }))
          this.confirmed = doc
          this.view.dispatch(receive(this.view.state, ours))
        } else if (answer.status === 409) {
          await this.take(await answer.json())
        } else if (answer.status === 429) {
          throw new Error('too often') // sent again in a while, as without a connection
        } else {
          this.trouble = answer.status
          const alone = this.kept ? 'alone' : 'alone-unkept'
          this.say({ 403: 'shut', 404: 'shut', 413: 'large', 503: alone, 507: 'full' }[answer.status] ?? 'refused')
          if (answer.status >= 500) this.retry()
          return
        }
        this.stow()
      }
      this.delay = 0
    } catch {
      this.trouble = 'connection'
      this.say(this.kept ? 'alone' : 'alone-unkept')
      this.retry()
    } finally {
      this.sending = false
      if (this.again && !this.trouble) this.send()
    }
  }

  retry() {
    this.delay = Math.min((this.delay || 1000) * 2, 30000)
    clearTimeout(this.later)
    this.later = setTimeout(() => this.send(), this.delay)
  }

  // Steps of others, and those of ours that had arrived after all.
  async take(news) {
    if (news.gone) {
      await this.lost()
      return
    }
    if (!news.steps?.length) return
    try {
      const before = getVersion(this.view.state)
      if (before + news.steps.length !== news.version) return // an answer to an older question
      for (const s of news.steps)
        this.confirmed = Step.fromJSON(schema, s.step).apply(this.confirmed).doc ?? this.confirmed
      this.view.dispatch(receive(this.view.state, news.steps))
      if (news.steps.some(s => s.client !== this.client)) this.say('others', news.author)
    } catch (e) {
      await this.lost()
    }
  }

  async listen(only = false) {
    if (this.sending || this.asking) return
    this.asking = true
    try {
      const answer = await ask(`${this.base}/state?since=${getVersion(this.view.state)}`)
      if (answer.ok && !this.sending) await this.take(await answer.json())
      if (answer.ok && this.trouble === 'connection') this.send()
    } catch {
      /* send says so when there is something to send */
    } finally {
      this.asking = false
    }
    if (!only) await this.bringIn()
  }

  // The draft has moved on too far for our steps: our text becomes a version of its own.
  async lost() {
    const unsent = sendableSteps(this.view.state)
    const now = await (await ask(`${this.base}/state`)).json()
    let kept
    while (unsent && kept !== this.view.state.doc) {
      // what is typed meanwhile, too
      kept = this.view.state.doc
      const answer = await ask(`${this.base}/versions`, {
        method: 'POST',
        body: JSON.stringify({ said: 'Unsent text of a browser', doc: kept.toJSON() })
      })
      if (!answer.ok) throw new Error('not kept')
    }
    this.client = newClient()
    this.view.updateState(this.fresh(now))
    this.stow()
    if (unsent) this.say('apart')
  }

  // What a tab that is gone had not sent: sent in its name.
  async bringIn() {
    let brought = false
    for (const [key, kept] of leftBehind(this.base, this.key)) {
      let state, confirmed
      try {
        state = stateOf(kept, [])
        confirmed = schema.nodeFromJSON(kept.base)
      } catch {
        continue
      }
      try {
        for (let n = 0; n < 100; n++) {
          const news = await (await ask(`${this.base}/state?since=${getVersion(state)}`)).json()
          if (news.gone) {
            const answer = await ask(`${this.base}/versions`, {
              method: 'POST',
              body: JSON.stringify({ said: 'Unsent text of a browser', doc: state.doc.toJSON() })
            })
            if (answer.ok) put(key, null)
            break
          }
          for (const s of news.steps) confirmed = Step.fromJSON(schema, s.step).apply(confirmed).doc
          if (news.steps.length) state = state.apply(receive(state, news.steps))
          const send = sendableSteps(state)
          if (!send) {
            put(key, null)
            break
          }
          const answer = await ask(`${this.base}/steps`, {
            method: 'POST',
            body: JSON.stringify(some(send, confirmed, state.doc, kept.client).body)
          })
          if (answer.ok) brought = true
          if (answer.ok || answer.status === 409) continue // those that were taken come back as confirmed
          if (answer.status === 413 || answer.status === 422) put(key, { ...kept, refused: true }) // it stays, and is not asked for again
          break
        }
      } catch {
        break
      }
    }
    if (brought) {
      await this.listen(true)
      this.say('brought')
    }
  }
}

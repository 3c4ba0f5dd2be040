// The language check, in a worker: spelling by Hunspell's own code and the dictionaries of its
// format; repeated words and articles by retext's plugins. It goes on without a
// connection once it is loaded.
import { createHunspellFromStrings } from 'hunspell-wasm'
import retextEnglish from 'retext-english'
import retextIndefiniteArticle from 'retext-indefinite-article'
import retextLatin from 'retext-latin'
import retextRepeatedWords from 'retext-repeated-words'
import { unified } from 'unified'
import { VFile } from 'vfile'

let hunspell, grammar, language, segmenter
const known = new Set(),
  cache = new Map(),
  suggested = new Map()
const low = w => w.toLocaleLowerCase(language)

const unpacked = async url => {
  const answer = await fetch(url)
  if (!answer.ok) throw new Error(url)
  return new Response(answer.body.pipeThrough(new DecompressionStream('gzip'))).text()
}

// Words that stand twice in good sentences of the language.
const twice = {
  de: ['die', 'der', 'das', 'sie'],
  fr: ['nous', 'vous'],
  nl: ['die', 'dat', 'u'],
  sv: ['som', 'den'],
  it: ['piano', 'via'],
  es: [],
  pt: []
}

const rules = {
  'retext-repeated-words': (m, text) => ({ kind: 'repeated', says: 'stands twice', suggest: [text.split(/\s+/)[0]] }),
  'retext-indefinite-article': m => ({
    kind: 'article',
    says: `is it “${m.expected?.[0] ?? ''}”?`,
    suggest: m.expected ?? []
  })
}

const start = async m => {
  language = m.language
  segmenter = new Intl.Segmenter(language, { granularity: 'word' })
  for (const w of m.known) known.add(low(w))
  const plugins = unified()
    .use(language === 'en' ? retextEnglish : retextLatin)
    .use(retextRepeatedWords)
  if (language === 'en') plugins.use(retextIndefiniteArticle)
  plugins.use(function () {
    this.compiler = () => ''
  })
  if (m.dictionary) {
    const [aff, dic] = await Promise.all([unpacked(m.dictionary.aff), unpacked(m.dictionary.dic)])
    hunspell = await createHunspellFromStrings(aff, dic)
  }
  grammar = plugins // last: what is asked before the dictionary is there is asked again then
}

const spelled = w => {
  if (known.has(low(w))) return true
  let ok = cache.get(w)
  if (ok === undefined) cache.set(w, (ok = hunspell.testSpelling(w.replaceAll('’', "'")) || hunspell.testSpelling(w)))
  return ok
}

const check = (text, block, found) => {
  if (hunspell) {
    // Addresses and what has a digit or is set in capitals are no words of a dictionary.
    const plain = text.replace(/(https?:\/\/|www\.)\S+|\S+@\S+/g, s => ' '.repeat(s.length))
    for (const s of segmenter.segment(plain)) {
      const w = s.segment
      if (!s.isWordLike || w.length < 2 || /\d|_/.test(w) || /^\p{Lu}{2,6}s?$/u.test(w) || spelled(w)) continue
      if (/^[^']+'s$|^[^’]+’s$/.test(w) && spelled(w.slice(0, -2))) continue
      found.push({
        block,
        from: s.index,
        to: s.index + w.length,
        kind: 'spelling',
        word: w,
        says: 'is not in the dictionary',
        suggest: suggested.get(w) ?? []
      })
    }
  }
  const file = new VFile(text)
  grammar.runSync(grammar.parse(file), file)
  for (const m of file.messages) {
    const make = rules[m.source]
    if (!make || m.place?.start?.offset === undefined) continue
    const from = m.place.start.offset,
      to = m.place.end.offset,
      word = text.slice(from, to)
    if (m.source === 'retext-repeated-words' && (twice[language] ?? []).includes(low(word.split(/\s+/)[0]))) continue
    found.push({ block, from, to, word, ...make(m, word) })
  }
}

const once = new Map() // findings of a block, by its text
let wanted = 0
onmessage = async e => {
  const m = e.data
  try {
    if (m.type === 'start') {
      await start(m)
      postMessage({ type: 'ready' })
    }
    if (m.type === 'known') {
      for (const w of m.known) known.add(low(w))
      once.clear()
    }
    if (m.type === 'check' && grammar) {
      wanted = m.id
      const all = () => {
        const found = []
        m.blocks.forEach((text, i) => {
          if (!text.trim()) return
          let own = once.get(text)
          if (!own) {
            own = []
            check(text, 0, own)
            if (once.size > 5000) once.clear()
            once.set(text, own)
          }
          for (const f of own)
            found.push({ ...f, block: i, suggest: f.kind === 'spelling' ? (suggested.get(f.word) ?? []) : f.suggest })
        })
        return found
      }
      const found = all()
      postMessage({ type: 'found', id: m.id, findings: found })
      // Suggestions take up to half a second a word: afterwards, and only for some.
      const words = [...new Set(found.filter(f => f.kind === 'spelling').map(f => f.word))]
        .filter(w => !suggested.has(w))
        .slice(0, 25)
      for (const w of words) {
        await new Promise(r => setTimeout(r))
        if (wanted !== m.id) return
        suggested.set(w, hunspell.getSpellingSuggestions(w).slice(0, 4))
      }
      if (words.length) postMessage({ type: 'found', id: m.id, findings: all() })
    }
  } catch (err) {
    postMessage({ type: 'failed', why: String(err) })
  }
}

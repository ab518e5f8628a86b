// Makes the functions that say the texts of texts/<language>.json: for the interface in
// TypeScript (src/lib/text/gen, one file a section, so that a view loads its own), for the
// program in Go (internal/texts). A message is ICU's, with {x}, plural and select; its
// arguments have types, which say how they are written. The other languages are checked
// against English: the same keys, the same arguments. en-XA is no language: this makes it
// from English, to show what is not a text yet and what does not fit.
//
//   node scripts/texts.mjs <repository>   writes below there
import { parse, TYPE } from '@formatjs/icu-messageformat-parser'
import fs from 'node:fs'
import path from 'node:path'
import { pseudo } from './pseudo.mjs'

const root = process.argv[2]
const note = 'Made by scripts/texts.sh from texts/*.json. Not to be edited: run it again.'
const english = JSON.parse(fs.readFileSync(path.join(root, 'texts/en.json'), 'utf8'))
const contract = JSON.parse(fs.readFileSync(path.join(root, 'docs/formats/openapi.json'), 'utf8'))

// --- Types of arguments ---------------------------------------------------------------

// How a value is written by format.ts and by internal/texts; `unit`: in the reader's.
const kinds = {
  mass: { ts: 'number', go: 'Grams', unit: true },
  weight: { ts: 'number', go: 'ScaleGrams', unit: true },
  length: { ts: 'number', go: 'Millimetres', unit: true },
  volume: { ts: 'number', go: 'Millilitres' },
  span: { ts: 'number', go: 'Span' },
  clock: { ts: 'number', go: 'Clock' },
  percent: { ts: 'number', go: 'Percent' },
  share: { ts: 'number', go: 'Share' },
  whole: { ts: 'number', go: 'WholePercent' },
  number: { ts: 'number', go: 'Number' },
  count: { ts: 'number', go: 'Count' },
  date: { ts: 'string', go: 'Date' },
  name: { ts: 'string', go: 'Name' },
  choice: { ts: 'string', go: 'Name' },
  list: { ts: 'string[]', go: 'List' },
  and: { ts: 'string[]', go: 'And' },
  semicolons: { ts: 'string[]', go: 'Semicolons' },
}
// Of reasons only: what the reader of one knows by id.
const spoken = ['party', 'move', 'item', 'ban', 'sum']

// "pattern.within?" is a name of the table `pattern`, in lower case, that may be absent;
// "wear*" are several, "theJoint*and" several with an "and".
function readType(type, where) {
  const [, base, table, mark] = /^([a-zA-Z]+)(?:\.([a-zA-Z]+))?(\*and|\*|\?)?$/.exec(type) ?? []
  if (!base) throw new Error(`${where}: no such type: ${type}`)
  const own = base in kinds || spoken.includes(base)
  if (!own && !english.names[base]) throw new Error(`${where}: no table of names is called ${base}`)
  if (base === 'sum' && !english.names[table])
    throw new Error(`${where}: a sum needs a table of names, as sum.blockKind`)
  if (table && base !== 'sum' && table !== 'within') throw new Error(`${where}: no such form of a name: ${table}`)
  return {
    base,
    table,
    named: !own,
    within: table === 'within',
    many: mark?.startsWith('*'),
    and: mark === '*and',
    optional: mark === '?',
  }
}

// --- Messages -------------------------------------------------------------------------

const isMessage = (v) => typeof v === 'string' || (typeof v.text === 'string' && typeof v.args === 'object')
const isTable = (v) => typeof v === 'object' && typeof v.texts === 'object'

function read(key, v) {
  const args = Object.entries(typeof v === 'string' ? {} : v.args).map(([name, type]) => ({
    name,
    type,
    ...readType(type, key),
  }))
  const ast = parse(typeof v === 'string' ? v : v.text, { ignoreTag: true, captureLocation: false })
  const used = new Set()
  check(ast)
  for (const a of args) if (!used.has(a.name)) throw new Error(`${key}: {${a.name}} is not in the text`)
  return { key, args, ast }

  function check(nodes) {
    for (const n of nodes) {
      if (n.type === TYPE.literal || n.type === TYPE.pound) continue
      if (![TYPE.argument, TYPE.plural, TYPE.select].includes(n.type))
        throw new Error(`${key}: {x}, plural and select are what a text may have`)
      const arg = args.find((a) => a.name === n.value)
      if (!arg) throw new Error(`${key}: {${n.value}} has no type`)
      used.add(n.value)
      if (n.type === TYPE.argument) continue
      if (!n.options.other && !(n.type === TYPE.select && n.options.none))
        throw new Error(`${key}: {${n.value}} wants a text for "other"`)
      if (n.type === TYPE.plural && (n.offset || n.pluralType !== 'cardinal'))
        throw new Error(`${key}: a plural without offset, please`)
      for (const o of Object.values(n.options)) check(o.value)
    }
  }
}

// Every message by its key, in order: "today.form.body"; names of values are messages too.
function flatten(o, at = '') {
  return Object.entries(o).flatMap(([k, v]) => {
    const key = at ? `${at}.${k}` : k
    if (isMessage(v)) return [read(key, v)]
    if (isTable(v)) return Object.entries(v.texts).map(([x, text]) => read(`${key}.${x}`, text))
    return flatten(v, key)
  })
}

// A symbol and a proper name stay as they are.
const kept = (key) => key === 'common.secondsUnit' || key === 'common.name'

function pseudoOf(m) {
  const nodes = (list) =>
    list.map((n) => {
      if (n.type === TYPE.literal) return { ...n, value: pseudo(n.value) }
      if (n.options)
        return {
          ...n,
          options: Object.fromEntries(Object.entries(n.options).map(([k, o]) => [k, { value: nodes(o.value) }])),
        }
      return n
    })
  return kept(m.key) ? m : { ...m, ast: nodes(m.ast) }
}

const messages = flatten(english)
const languages = { en: messages, 'en-XA': messages.map(pseudoOf) }

// --- Values of the contract -----------------------------------------------------------

// Values that no screen says: program to program, or drawn.
const unspoken = {
  'Anchor.state': 'read by the clock of Run, which says what follows from it',
  'Box.kind': 'drawn',
  'Line.part': 'drawn',
  'Call.kind': 'sounded, and said with the names of moves',
  'Effect.kind': 'rule of the clock',
  'Effect.next': 'rule of the clock',
  'Effect.place': 'rule of the clock',
  'Effect.state': 'rule of the clock',
  'Effect.wait': 'rule of the clock',
  'Press.kind': 'rule of the clock',
  'File.format': 'mark of a file',
  'StudioFile.format': 'mark of a file',
  'Load.kind': 'said by what it is made of',
  'MoveCard.family': 'said by its pattern',
  'Variant.family': 'said by its pattern',
  'MoveCard.sides': 'said in the dose',
  'Variant.sides': 'said in the dose',
  'Entry.first': 'as the sides of an event are',
  'MoveCard.thigh': 'weighed by the balance',
  'Variant.thigh': 'weighed by the balance',
  'Place.massUnit': 'a symbol',
  'Quantity.unit': 'a symbol',
  'ReadQuantity.unit': 'a symbol',
  'StudioFileQuantity.unit': 'a symbol',
  'ReadQuantity.kind': 'what is asked',
  'ScaleReading.state': 'said by the scale itself',
  'Term.kind': 'how a term is written',
  'Ask.kind': 'how a value is typed',
  'HeldLimit.from': 'said with what it is from',
  'PersonInput.massUnit': 'a symbol',
  'PersonInput.weaker': 'as the sides of an event are',
  'RecordEntry.kind': 'said by what it is of',
  'StudioFilePersonFile.format': 'mark of a file',
}

function enums() {
  const found = new Map()
  for (const [name, schema] of Object.entries(contract.components.schemas)) {
    for (const [field, p] of Object.entries(schema.properties ?? {})) {
      if (p.enum) found.set(`${name}.${field}`, p.enum)
      if (p.items?.enum) found.set(`${name}.${field}[]`, p.items.enum)
    }
  }
  return found
}

// Every table with its key, wherever it stands.
function everyTable(o, at = '') {
  return Object.entries(o).flatMap(([k, v]) => {
    const key = at ? `${at}.${k}` : k
    if (isTable(v)) return [[key, v]]
    return typeof v === 'string' || isMessage(v) ? [] : everyTable(v, key)
  })
}

function checkEnums() {
  const all = enums()
  const key = (values) => [...values].sort().join(',')
  const said = new Set([key(Object.keys(english.why.code))])
  for (const [name, table] of everyTable(english)) {
    if (!table.enum) continue
    const values = new Set(table.enum.flatMap((path) => all.get(path) ?? [`nothing is at ${path}`]))
    const have = new Set(Object.keys(table.texts))
    const missing = [...values].filter((x) => !have.has(x))
    const over = table.more ? [] : [...have].filter((x) => !values.has(x))
    if (missing.length + over.length > 0)
      throw new Error(`${name}: without a text: ${missing}; not in the contract: ${over}`)
    for (const path of table.enum) said.add(key(all.get(path)))
  }
  const silent = new Set()
  for (const path of Object.keys(unspoken)) {
    if (!all.has(path)) throw new Error(`${path} is not in the contract any more`)
    silent.add(key(all.get(path)))
  }
  for (const [path, values] of all) {
    if (!said.has(key(values)) && !silent.has(key(values))) throw new Error(`${path} has no table of names: ${values}`)
  }
}
checkEnums()

// --- TypeScript -----------------------------------------------------------------------

const lit = (s) => s.replace(/[\\`]|\$\{/g, (c) => `\\${c}`)
const prop = (k) => (/^[a-zA-Z_][a-zA-Z0-9_]*$/.test(k) ? k : `'${k}'`)
const quote = (s) => `'${s.replace(/[\\']/g, (c) => `\\${c}`)}'`
const arg = (name) => (name === 'in' ? 'inside' : name)

// How a message's text is put together: `say` writes an argument, `raw` gives its value.
function tsText(m, language, say, raw) {
  function body(nodes, pound) {
    if (nodes.every((n) => n.type === TYPE.literal)) return quote(nodes.map((n) => n.value).join(''))
    if (nodes.length === 1) return expression(nodes[0], pound)
    return (
      '`' +
      nodes.map((n) => (n.type === TYPE.literal ? lit(n.value) : '${' + expression(n, pound) + '}')).join('') +
      '`'
    )
  }
  function expression(n, pound) {
    if (n.type === TYPE.literal) return quote(n.value)
    if (n.type === TYPE.pound) return pound
    const a = m.args.find((x) => x.name === n.value)
    if (n.type === TYPE.argument) return say(a)
    const { other, none, ...rest } = n.options
    let out = other ? body(other.value, n.type === TYPE.plural ? say(a) : pound) : "''"
    for (const [k, o] of Object.entries(rest).reverse()) {
      const text = body(o.value, n.type === TYPE.plural ? say(a) : pound)
      const test =
        n.type === TYPE.select
          ? `${raw(a)} === ${quote(k)}`
          : k.startsWith('=')
            ? `${raw(a)} === ${k.slice(1)}`
            : `f.plural(${quote(language)}, ${raw(a)}) === ${quote(k)}`
      out = `${test} ? ${text} : ${out}`
    }
    if (none) out = `${raw(a, true)} ? ${body(none.value, pound)} : ${out}`
    return `(${out})`
  }
  return body(m.ast, undefined)
}

function tsMessage(m, language) {
  if (m.args.length === 0) return tsText(m, language)
  const table = (a) => (m.key.startsWith('names.') ? a.base : `names.${a.base}`)
  const say = (a) => {
    const x = arg(a.name)
    if (a.named) {
      const named = (v) => (english.names[a.base].enum ? `${table(a)}[${v}]` : `(${table(a)}[${v}] ?? ${v})`)
      const one = (v) => (a.within ? `f.within(${named(v)})` : named(v))
      return a.many ? `f.${a.and ? 'and' : 'list'}(j, ${x}.map((x) => ${one('x')}))` : one(x)
    }
    if (['list', 'and', 'semicolons'].includes(a.base)) return `f.${a.base}(j, ${x})`
    if (['name', 'choice'].includes(a.base)) return a.optional ? `${x} ?? ''` : x
    if (a.base === 'count') return `f.number(${x}${a.optional ? ' ?? 0' : ''})`
    if (a.base === 'date') return `day(${x})`
    return `f.${a.base}(${x}${a.optional ? ' ?? 0' : ''}${kinds[a.base].unit ? ', u' : ''})`
  }
  const raw = (a, asNone) => (asNone ? `f.none(${arg(a.name)})` : arg(a.name))
  const params = m.args.map((a) => {
    const type = a.named ? (english.names[a.base].enum ? `keyof typeof ${table(a)}` : 'string') : kinds[a.base].ts
    return `${arg(a.name)}: ${a.many ? `(${type})[]` : type}${a.optional ? ' | undefined' : ''}`
  })
  if (m.args.some((a) => kinds[a.base]?.unit)) params.unshift('u: f.MassUnit')
  return `(${params.join(', ')}): string => ${tsText(m, language, say, raw)}`
}

// A reason's arguments are its terms.
function tsReason(m, language) {
  if (m.args.length === 0) return `() => ${tsText(m, language)}`
  const others = m.args.map((a) => quote(a.name)).join(', ')
  const say = (a) => {
    const n = quote(a.name)
    if (a.base === 'sum') return `x.sum(names.${a.table}, [${others}])`
    if (a.many) return `x.all(names.${a.base}, ${n}, ${a.and ? 'f.and' : 'f.list'})`
    if (a.named) return a.within ? `f.within(x.name(names.${a.base}, ${n}))` : `x.name(names.${a.base}, ${n})`
    if (['name', 'choice'].includes(a.base)) return `x.id(${n})`
    return `x.${a.base}(${n})`
  }
  const raw = (a, asNone) => {
    if (asNone) return a.base === 'sum' ? `${say(a)} === ''` : `!x.has(${quote(a.name)})`
    return ['name', 'choice'].includes(a.base) ? `x.id(${quote(a.name)})` : `x.n(${quote(a.name)})`
  }
  return `(x: Terms): string => ${tsText(m, language, say, raw)}`
}

function tsSection(section, language) {
  const by = new Map(languages[language].map((m) => [m.key, m]))
  const consts = []
  function tree(o, at, indent) {
    return Object.entries(o)
      .map(([k, v]) => {
        const key = `${at}.${k}`
        const m = by.get(key)
        let value
        if (m) value = at.startsWith('why.code') ? tsReason(m, language) : tsMessage(m, language)
        else if (isTable(v))
          value = `{\n${Object.keys(v.texts)
            .map((x) => `${indent}  ${prop(x)}: ${tsMessage(by.get(`${key}.${x}`), language)},\n`)
            .join('')}${indent}}`
        else value = `{\n${tree(v, key, `${indent}  `)}${indent}}`
        // Tables stand by themselves where names use other names.
        if (section === 'names' && at === 'names') {
          // One whose values the contract does not list may be asked for any.
          consts.push(`const ${k}${isTable(v) && !v.enum ? ': Record<string, string>' : ''} = ${value}`)
          return `  ${k},\n`
        }
        return `${indent}${prop(k)}: ${value},\n`
      })
      .join('')
  }
  const body = tree(english[section], section, section === 'names' ? '' : '  ')
  const text = `${consts.join('\n')}\n\nexport const ${section} = {\n${body}}\n`
  const head = [`// ${note}`]
  if (/\bf\./.test(text)) head.push("import * as f from '../../format'")
  if (/\(x: Terms\)/.test(text)) head.push("import type { Terms } from '../../terms'")
  if (section !== 'names' && /\bnames\./.test(text)) head.push("import { names } from './names'")
  if (/\bday\(/.test(text)) head.push("import { day } from '../../dates'")
  if (/\(j, /.test(text)) head.push("import { join as j } from './join'")
  return `${head.join('\n')}\n${text.replace(/^\n+/, '\n')}`
}

const text = path.join(root, 'ui/src/lib/text')
fs.rmSync(path.join(text, 'gen'), { recursive: true, force: true })
for (const language of Object.keys(languages)) {
  fs.mkdirSync(path.join(text, 'gen', language), { recursive: true })
  for (const section of Object.keys(english))
    fs.writeFileSync(path.join(text, 'gen', language, `${section}.ts`), tsSection(section, language))
}
for (const section of Object.keys(english)) {
  fs.writeFileSync(
    path.join(text, 'gen', `${section}.ts`),
    `// ${note}
import { language } from '../language'
import { ${section} as en } from './en/${section}'

const other = import.meta.glob<{ ${section}: typeof en }>(['./*/${section}.ts', '!./en/*'], { import: '${section}' })
export const ${section} = language === 'en' ? en : ((await other[\`./\${language}/${section}.ts\`]?.()) ?? en) as typeof en
`,
  )
}

// --- Go -------------------------------------------------------------------------------

const camel = (key) =>
  key
    .split(/[.-]/)
    .map((s) => s.charAt(0).toUpperCase() + s.slice(1))
    .join('')

// A message for the program: a string, or a list of literals and arguments.
function goNodes(nodes) {
  if (nodes.every((n) => n.type === TYPE.literal)) return nodes.map((n) => n.value).join('')
  return nodes.map((n) => {
    if (n.type === TYPE.literal) return n.value
    if (n.type === TYPE.pound) return { pound: true }
    if (n.type === TYPE.argument) return { arg: n.value }
    const options = Object.fromEntries(Object.entries(n.options).map(([k, o]) => [k, goNodes(o.value)]))
    return n.type === TYPE.plural ? { arg: n.value, plural: options } : { arg: n.value, select: options }
  })
}

const rows = messages.map((m, i) => ({
  key: m.key,
  ...(m.args.length > 0 ? { args: m.args.map((a) => ({ name: a.name, type: a.type })) } : {}),
  text: Object.fromEntries(Object.entries(languages).map(([l, list]) => [l, goNodes(list[i].ast)])),
}))
fs.writeFileSync(
  path.join(root, 'internal/texts/messages.json'),
  `[\n${rows.map((r) => JSON.stringify(r)).join(',\n')}\n]\n`,
)

const goArg = (name) => (['func', 'range', 'type', 'select', 'in', 'map', 'p'].includes(name) ? `${name}Of` : name)
function goFunction(m) {
  const params = m.args.map((a) => {
    const one = a.named ? 'string' : kinds[a.base].go
    return `${goArg(a.name)} ${a.many ? '[]string' : a.optional && !a.named ? `*${one}` : one}`
  })
  const values = m.args.map((a) => `, ${goArg(a.name)}`).join('')
  return `func (p Printer) ${camel(m.key)}(${params.join(', ')}) string { return p.say("${m.key}"${values}) }\n`
}
const inTables = (key) => key.startsWith('names.') && isTable(english.names[key.split('.')[1]])
const tables = Object.keys(english.names).filter((k) => isTable(english.names[k]))
const functions = messages
  .filter((m) => !inTables(m.key) && !m.key.startsWith('why.code.') && !m.key.startsWith('join.'))
  .map(goFunction)
const ofTables = tables.map(
  (k) => `func (p Printer) Name${camel(k)}(value string) string { return p.name("${k}", value) }\n`,
)
fs.writeFileSync(
  path.join(root, 'internal/texts/messages.go'),
  `// Code generated by scripts/texts.sh from texts/*.json. DO NOT EDIT.\n\npackage texts\n\n// Each says the message of its name, the texts of a section after its name.\n\n${functions.join('')}\n// Each says a value of a table of names; one that the table does not have as it is.\n\n${ofTables.join('')}`,
)

import { readdirSync, readFileSync, statSync } from 'node:fs'
import path from 'node:path'
import { expect, test } from '@playwright/test'

const folder = path.resolve('build/client/assets')

interface BuiltRoute {
  readonly id: string
  readonly parentId?: string
  readonly module: string
  readonly clientLoaderModule?: string
  readonly imports: readonly string[]
}

/** Routes as they were built, by their ids. */
function builtRoutes(): Readonly<Record<string, BuiltRoute>> {
  // Those of earlier builds stay for windows that are open.
  const files = readdirSync(folder).filter((name) => /^manifest-.*\.js$/.test(name))
  const built = (name: string) => statSync(path.join(folder, name)).mtimeMs
  const file = files.reduce((newest, name) => (built(name) > built(newest) ? name : newest))
  const text = readFileSync(path.join(folder, file), 'utf8')
  const json = text.slice(text.indexOf('{'), text.lastIndexOf('}') + 1)
  return (JSON.parse(json) as { routes: Record<string, BuiltRoute> }).routes
}

/** Scripts that a route waits for before it shows anything: its own, those above it, and all that they import at once. */
function scriptsOf(id: string): string[] {
  const routes = builtRoutes()
  const todo: string[] = []
  for (let route: BuiltRoute | undefined = routes[id]; route; route = routes[route.parentId ?? ''])
    todo.push(route.module, ...route.imports, route.clientLoaderModule ?? route.module)
  const met = new Set<string>()
  while (todo.length > 0) {
    const name = path.basename(todo.pop()!)
    if (met.has(name)) continue
    met.add(name)
    const text = readFileSync(path.join(folder, name), 'utf8')
    for (const [, to] of text.matchAll(/(?:from|import)\s*["']\.\/([\w.-]+\.js)["']/g)) todo.push(to!)
  }
  return [...met]
}

/** Whether a script has a parser of HTML or of CSS in it, by what only they say. */
const isParser = (name: string) =>
  /eof-in-tag|AtrulePrelude/.test(readFileSync(path.join(folder, name), 'utf8'))

test('parsers are scripts of their own', () => {
  const parsers = readdirSync(folder).filter((name) => name.endsWith('.js') && isParser(name))
  expect(parsers.length).toBeGreaterThan(1)
})

// Reading HTML and style sheets takes 100 KB, and is for when somebody writes or checks.
for (const view of ['plan', 'names', 'template', 'pages', 'checks', 'upload'])
  test(`${view} is shown before a parser of HTML or CSS has come`, () => {
    const scripts = scriptsOf(`routes/${view}`)
    expect(scripts.length).toBeGreaterThan(20)
    const packed = (name: string) => {
      const file = path.join(folder, name)
      return statSync(readdirSync(folder).includes(`${name}.br`) ? `${file}.br` : file).size
    }
    expect(scripts.reduce((sum, name) => sum + packed(name), 0)).toBeLessThan(220_000)
    const parsing = scripts.filter(isParser)
    expect(parsing).toEqual([])
  })

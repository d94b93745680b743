// npm run words: every sentence the interface can say, in one list with where it stands, for reading.
import fs from 'node:fs'
import path from 'node:path'
import ts from 'typescript'

process.chdir(new URL('..', import.meta.url).pathname)

/** Attributes whose values are read or heard. */
const spoken = new Set(['aria-label', 'title', 'placeholder', 'alt', 'label', 'name', 'words', 'word'])
/** What is a sentence and not a class, a path or a key: it has a space or begins with a capital. */
const isSaid = (text) =>
  /[A-Za-z]{2}/.test(text) &&
  (/^[“A-Z][a-z’“”…]/.test(text) || / /.test(text)) &&
  !/^[a-z0-9:\-[\]()/!.%_&>,*'=#$@]+( [a-z0-9:\-[\]()/!.%_&>,*'=#$@]+)*$/.test(text) &&
  !/^(SELECT|INSERT|UPDATE|DELETE|CREATE|WITH|LISTEN)\b/.test(text.trim())

function* filesBelow(folder) {
  for (const entry of fs.readdirSync(folder, { withFileTypes: true })) {
    const file = path.join(folder, entry.name)
    if (entry.isDirectory()) yield* filesBelow(file)
    else if (/\.tsx?$/.test(entry.name) && !/\.(test|spec)\./.test(entry.name) && !/testing/.test(file))
      yield file
  }
}

/** A template string with its holes shown as ‹…›. */
const textOf = (node) =>
  ts.isTemplateExpression(node)
    ? node.head.text + node.templateSpans.map(({ literal }) => `‹…›${literal.text}`).join('')
    : node.text

const found = []
for (const folder of ['app', 'core', 'server'])
  for (const file of filesBelow(folder)) {
    const source = ts.createSourceFile(file, fs.readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true)
    const note = (node, text) => {
      const told = text.replace(/\s+/g, ' ').trim()
      if (!isSaid(told)) return
      const { line } = source.getLineAndCharacterOfPosition(node.getStart())
      found.push(`${file}:${line + 1}\t${told}`)
    }
    const visit = (node) => {
      if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node) || ts.isTypeNode(node)) return
      if (ts.isJsxText(node)) note(node, node.text)
      else if (ts.isJsxAttribute(node) && !spoken.has(node.name.getText())) {
        if (node.initializer && ts.isJsxExpression(node.initializer) && !/class/i.test(node.name.getText()))
          ts.forEachChild(node.initializer, visit)
        return
      } else if (
        ts.isStringLiteral(node) ||
        ts.isNoSubstitutionTemplateLiteral(node) ||
        ts.isTemplateExpression(node)
      )
        note(node, textOf(node))
      ts.forEachChild(node, visit)
    }
    visit(source)
  }
console.log(found.join('\n'))

import { createHash } from 'node:crypto'
import fs from 'node:fs'
import swc from '@swc/jest'

/**
 * What modules call most of the globals. Jest runs tests in a context of their own, where each look at a global goes through the
 * context's own object and costs many times what it does where the application runs; as constants of the module they do not.
 */
const globals = [
  'Array',
  'Error',
  'JSON',
  'Map',
  'Math',
  'Number',
  'Object',
  'RegExp',
  'Set',
  'String',
  'Symbol',
  'Uint8Array',
  'WeakMap',
]

const translator = swc.createTransformer({
  jsc: { target: 'es2022', parser: { syntax: 'typescript', tsx: true } },
})

/** On the first line, so that all others keep their numbers. */
function withConstants(code) {
  const used = globals.filter(
    (name) =>
      new RegExp(`(?<![.\\w$])${name}\\b`).test(code) &&
      !new RegExp(
        `\\b(const|let|var|class|function|import|as)\\s+${name}\\b|import\\s*\\{[^}]*\\b${name}\\b`,
      ).test(code),
  )
  return used.length === 0 ? code : `const { ${used.join(', ')} } = globalThis;${code}`
}

/** What is kept of earlier runs was made by another text of this file. */
const own = fs.readFileSync(new URL(import.meta.url))
const keyed = (key) => createHash('sha256').update(own).update(key).digest('hex')
const asConstants = (made) => ({ ...made, code: withConstants(made.code) })

export default {
  ...translator,
  getCacheKey: (...given) => keyed(translator.getCacheKey(...given)),
  process: (...given) => asConstants(translator.process(...given)),
  processAsync: async (...given) => asConstants(await translator.processAsync(...given)),
}

/**
 * Loaded in each worker of Jest. Tests run in Node.js as it is, as the application does: Jest's realms read every module anew for
 * every file of tests, and each look at a global goes through them, which took half of the time.
 */
import { register } from 'node:module'
import { register as registerTypeScript } from 'tsx/esm/api'

registerTypeScript()
const globals = new URL('./globals.mjs', import.meta.url).href
const hooks = `export const resolve = (specifier, context, next) =>
  specifier === '@jest/globals' ? { url: ${JSON.stringify(globals)}, shortCircuit: true } : next(specifier, context)`
register(`data:text/javascript,${encodeURIComponent(hooks)}`)

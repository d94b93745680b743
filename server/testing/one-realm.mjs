import { types } from 'node:util'

/**
 * Jest runs tests in a realm of their own, in which an error that Node.js itself makes is no `Error`: a library that asks
 * takes it for an answer. Here any error is one, as it is where the application runs.
 */
const own = Function.prototype[Symbol.hasInstance]
Object.defineProperty(Error, Symbol.hasInstance, {
  value(thing) {
    return own.call(this, thing) || (this === Error && types.isNativeError(thing))
  },
})

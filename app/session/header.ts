/**
 * Says in whose name a window asks. The cookie that goes with it may be nobody's by now, or somebody else's who has signed
 * in beside it.
 */
export const inNameOf = 'rubricant-account'

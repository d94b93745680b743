declare const __PROGRAM__: string | undefined

/** Which build of Rubricant this is: a window that is left open may be of an earlier one than the server. */
export const program = typeof __PROGRAM__ === 'string' ? __PROGRAM__ : 'in development'

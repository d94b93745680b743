/** One file of a site has no more bytes. */
export const mostFileBytes = 200_000_000

/** Whether a file is one that a system or a program puts beside those of its user, for itself; by its path. */
export const isOfSystem = (path: string): boolean =>
  /(^|\/)(__MACOSX\/|\.DS_Store$|Thumbs\.db$|desktop\.ini$|\.git\/|\.svn\/)/i.test(path)

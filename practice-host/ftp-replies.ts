/** A refusal with its reply code (RFC 959 §4.2). */
export class Refused extends Error {
  constructor(
    readonly code: number,
    message: string,
  ) {
    super(message)
  }
}

/** What the account is told: the system's own message would show where on the disk the space is. */
export function replyFor(error: unknown): [number, string] {
  if (error instanceof Refused) return [error.code, error.message]
  switch ((error as NodeJS.ErrnoException).code) {
    case 'ENOENT':
    case 'ENOTDIR':
      return [550, 'No such file or directory']
    case 'EACCES':
    case 'EPERM':
      return [550, 'Permission denied']
    case 'ENOSPC':
      return [452, 'No space left on device']
    case 'EEXIST':
      return [550, 'It is there already']
    default:
      return [550, 'Failure']
  }
}

import { readdirSync } from 'node:fs'
import path from 'node:path'
import type { Faults } from './faults'

/** A path of the account as a path on disk; `..` cannot leave the root. */
export function diskPath(root: string, wanted: string, faults: Faults): string {
  const steps = path.posix.normalize(path.posix.join('/', wanted)).split('/').slice(1)
  const { longestName } = faults
  if (longestName !== null && steps.some((step) => step.length > longestName))
    throw Object.assign(new Error('Name too long'), { code: 'ENAMETOOLONG' })
  return faults.foldsCase
    ? steps.reduce((at, step) => path.join(at, asItIsWritten(at, step)), root)
    : path.join(root, ...steps)
}

/** A step as the entry has it that differs in case alone, as disks that do not tell case apart find it. */
function asItIsWritten(folder: string, step: string): string {
  try {
    const key = step.toLowerCase()
    return readdirSync(folder).find((name) => name.toLowerCase() === key) ?? step
  } catch {
    return step
  }
}

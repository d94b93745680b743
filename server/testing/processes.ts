import { type ChildProcess, fork } from 'node:child_process'
import path from 'node:path'

/** A process that delivers, over the same database and with the same settings as this one. */
export async function startDeliverer(env: NodeJS.ProcessEnv = {}): Promise<ChildProcess> {
  const child = fork(path.resolve('server/testing/delivering.ts'), {
    execArgv: ['--import', 'tsx'],
    env: { ...process.env, LOG_LEVEL: 'silent', NODE_OPTIONS: '', ...env },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  })
  await new Promise<void>((resolve, reject) => {
    child.once('message', () => resolve())
    child.once('exit', (code) => reject(new Error(`A process that delivers ended with ${code}`)))
  })
  return child
}

/** Ends a process as a power cut does: at once, in the middle of whatever it does. */
export const kill = (child: ChildProcess): Promise<void> =>
  new Promise((resolve) => {
    if (child.exitCode !== null || child.signalCode !== null) return resolve()
    child.once('exit', () => resolve())
    child.kill('SIGKILL')
  })

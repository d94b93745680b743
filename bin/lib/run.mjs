import { spawn } from 'node:child_process'
import net from 'node:net'

/** Runs a command to its end. Rejects with what it printed when it fails; `show` passes its output on. */
export function run(command, args, { show = false, ...options } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      stdio: ['ignore', show ? 'inherit' : 'pipe', show ? 'inherit' : 'pipe'],
      ...options,
    })
    let output = ''
    child.stdout?.on('data', (data) => (output += data))
    child.stderr?.on('data', (data) => (output += data))
    child.on('error', reject)
    child.on('close', (code, signal) => {
      if (code === 0) resolve(output)
      else
        reject(
          Object.assign(new Error(`${command} ${args.join(' ')} ended with ${signal ?? code}\n${output}`), {
            output,
            exitCode: code,
          }),
        )
    })
  })
}

/** A port on loopback that nothing listens on now. */
export function freePort() {
  return new Promise((resolve, reject) => {
    const server = net.createServer()
    server.once('error', reject)
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address()
      server.close(() => resolve(port))
    })
  })
}

/** Whether a port on loopback is free within a moment: after a quick restart the old one may still hold it. */
export async function becomesFree(port, withinMs = 5_000) {
  for (const until = Date.now() + withinMs; !(await isFree(port));) {
    if (Date.now() > until) return false
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  return true
}

/** Whether a port on loopback can be listened on. */
export function isFree(port) {
  return new Promise((resolve) => {
    const server = net.createServer()
    server.once('error', () => resolve(false))
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)))
  })
}

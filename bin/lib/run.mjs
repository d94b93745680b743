import { spawn } from 'node:child_process'
import { randomInt } from 'node:crypto'
import fs from 'node:fs'
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

/** Where ports are looked for: above all that browsers refuse (Fetch, “bad port”; the last is 10080). */
const lowestPort = 10_100
const highestPort = 65_535
/** Ports that this process was given, which may not be listened on yet. */
const given = new Set()

/**
 * A port on loopback that nothing listens on now, and that the system gives to nobody by itself: those it
 * takes for connections and for `listen(0)` may be gone again by the time a program is started on one.
 */
export async function freePort() {
  const [from, to] = ownPorts()
  for (let tries = 0; tries < 1_000; tries++) {
    const port = randomInt(from, to)
    if (given.has(port)) continue
    given.add(port)
    if (await isFree(port)) return port
  }
  throw new Error(`No port from ${from} to ${to} is free.`)
}

/** The wider stretch of ports beside those the system gives by itself, as from (included) and to (not included). */
function ownPorts() {
  const [first, last] = systemPorts()
  const below = [lowestPort, Math.max(first, lowestPort)]
  const above = [Math.min(last + 1, highestPort), highestPort + 1]
  const [from, to] = below[1] - below[0] >= above[1] - above[0] ? below : above
  // A machine that keeps none for programs has only those it shares.
  return to - from > 100 ? [from, to] : [lowestPort, highestPort + 1]
}

/** The first and last port the system gives by itself; where it does not say, what RFC 6335 (6) sets aside for it. */
function systemPorts() {
  try {
    return fs.readFileSync('/proc/sys/net/ipv4/ip_local_port_range', 'utf8').trim().split(/\s+/).map(Number)
  } catch {
    return [49_152, highestPort]
  }
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

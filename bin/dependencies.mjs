// npm run check:dependencies: what the lock file lets in. Known weaknesses are asked for with `npm audit`, where a
// registry answers that; this holds without one.
import fs from 'node:fs'
import { main, say } from './lib/say.mjs'

process.chdir(new URL('..', import.meta.url).pathname)

/** Packages that may run something when they are installed, each for a reason that was looked at. */
const mayRunAtInstall = new Set([
  '@parcel/watcher', // chooses its prebuilt binary, which ships in a package
  'esbuild', // the same
  'cpu-features', // built for ssh2, which goes without it where it cannot be
  'ssh2', // the same
])
/** Licences under which all of it may be used, changed and passed on; where one may choose, the first. */
const licences =
  /^\(?(MIT|MIT-0|ISC|Apache-2\.0|0BSD|BSD|BSD-[23]-Clause|BlueOak-1\.0\.0|CC0-1\.0|CC-BY-4\.0|MPL-2\.0|OFL-1\.1|Unlicense)( (OR|AND) (MIT|Apache-2\.0|CC0-1\.0|Zlib))*( OR [\w.-]+)?\)?$/
/**
 * What stands beside the program as it ships, in files of its own whose place others can take (LGPL 3, §4): lists of words, and
 * the decoder of photographs that a worker fetches.
 */
const besideProgram = /^(@cspell\/dict-.*|libheif-js)$/
const ofThose = /^LGPL-3\.0\+?$/

await main(async () => {
  const read = (file) => JSON.parse(fs.readFileSync(file, 'utf8'))
  const faults = []
  const { dependencies, devDependencies } = read('package.json')
  for (const [name, version] of Object.entries({ ...dependencies, ...devDependencies }))
    if (!/^\d+\.\d+\.\d+(-[\w.]+)?$/.test(version)) faults.push(`${name} is not pinned: ${version}`)
  const { packages } = read('package-lock.json')
  let count = 0
  for (const [place, one] of Object.entries(packages)) {
    if (place === '') continue
    count += 1
    const name = place.split('node_modules/').pop()
    // What another package carries in itself is held by that one's hash.
    if (!one.inBundle && !/^sha512-/.test(one.integrity ?? '')) faults.push(`${name} has no SHA-512`)
    if (one.resolved) faults.push(`${name} names where it is fetched from: ${one.resolved}`)
    if (one.hasInstallScript && !mayRunAtInstall.has(name))
      faults.push(`${name} runs something when it is installed`)
    const isBeside = besideProgram.test(name) && ofThose.test(one.license)
    if (one.license && !isBeside && !licences.test(one.license))
      faults.push(`${name} has the licence ${one.license}`)
  }
  for (const fault of faults) say(fault)
  say(`${count} packages, each held by its hash; ${faults.length} faults`)
  process.exitCode = faults.length > 0 ? 1 : 0
})

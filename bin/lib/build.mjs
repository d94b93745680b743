import { createHash } from 'node:crypto'
import fs from 'node:fs'
import path from 'node:path'
import { run } from './run.mjs'
import { say } from './say.mjs'

const sources = [
  'app',
  'core',
  'server',
  'demo/load.ts',
  'public',
  'package-lock.json',
  'package.json',
  'vite.config.ts',
  'react-router.config.ts',
  'tsconfig.json',
]

function* filesBelow(place) {
  if (!fs.statSync(place).isDirectory()) yield place
  else for (const name of fs.readdirSync(place).sort()) yield* filesBelow(path.join(place, name))
}

function sourceState() {
  const hash = createHash('sha256')
  for (const place of sources)
    for (const file of filesBelow(place)) {
      if (/\.(test|spec)\.tsx?$/.test(file)) continue
      hash.update(file).update('\0').update(fs.readFileSync(file)).update('\0')
    }
  return hash.digest('hex')
}

/** Builds the application when its sources differ from those of the last build. */
export async function ensureBuild() {
  const mark = 'build/.sources'
  const state = sourceState()
  if (fs.existsSync(mark) && fs.readFileSync(mark, 'utf8') === state) return
  say('Building …')
  fs.rmSync('build', { recursive: true, force: true })
  await run('npx', ['react-router', 'build'], { env: { ...process.env, NODE_ENV: 'production' } })
  fs.writeFileSync(mark, state)
}

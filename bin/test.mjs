// npm test: everything that has to hold, over a cluster and ports of its own.
import fs from 'node:fs'
import path from 'node:path'
import { spawn } from 'node:child_process'
import { ensureBuild, ensureThreads } from './lib/build.mjs'
import { ensureChromium } from './lib/chromium.mjs'
import { ensureNodeModules } from './lib/install.mjs'
import { main, say } from './lib/say.mjs'
import { startChild, startOwnServices } from './lib/services.mjs'

process.chdir(new URL('..', import.meta.url).pathname)

const results = 'test-results'
/** Words after `npm test --` choose among static, unit, database and e2e; without any, all are run. */
const chosen = process.argv.slice(2).filter((word) => /^(static|unit|database|e2e)$/.test(word))
const wants = (part) => chosen.length === 0 || chosen.includes(part)
/** Titles of tests that failed first and passed when they were tried again. */
const flakyTitles = (suites) =>
  suites.flatMap(({ suites: inner = [], specs = [] }) => [
    ...flakyTitles(inner),
    ...specs.filter((spec) => spec.tests.some((test) => test.status === 'flaky')).map((spec) => spec.title),
  ])
/** Passed on to the one part that is chosen: a file, or what the title has after `-g` (`-t` for Jest). */
const filter = process.argv.slice(2).filter((word) => !chosen.includes(word))
const isFiltered = chosen.length === 1 && filter.length > 0

/** Runs a step and shows its output as it comes; resolves to its exit code. */
function step(title, command, args, env = {}) {
  say(`\n── ${title}`)
  return run(command, args, { stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, ...env } })
}

function run(command, args, options, heard = () => {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, options)
    child.stdout?.on('data', heard)
    child.stderr?.on('data', heard)
    child.on('error', reject)
    child.on('close', (code) => resolve(code ?? 1))
  })
}

const readJson = (file) => (fs.existsSync(file) ? JSON.parse(fs.readFileSync(file, 'utf8')) : null)

await main(async () => {
  await ensureNodeModules()
  await ensureChromium('The end-to-end tests drive Chromium, which is not installed.')
  fs.rmSync(results, { recursive: true, force: true })
  fs.mkdirSync(results, { recursive: true })
  let passed = 0
  let failed = 0
  const count = (title, ok) => {
    if (ok) passed += 1
    else {
      failed += 1
      say(`✗ ${title} failed`)
    }
  }
  /** Runs `npm run check:…`, which either holds or does not and counts as one; what it prints is shown at its end. */
  const check = async (title, script) => {
    const printed = []
    const code = await run('npm', ['run', '--silent', script], {}, (data) => printed.push(data))
    say(`\n── ${title}\n${Buffer.concat(printed).toString().trim()}`)
    count(title, code === 0)
  }

  if (wants('static')) {
    // The types of routes come first, since Lint reads them too; then two at a time, a core each.
    await run('npx', ['react-router', 'typegen'], {})
    await Promise.all([
      check('Types', 'check:types')
        .then(() => check('Layers', 'check:layers'))
        .then(() => check('Dependencies', 'check:dependencies')),
      check('Lint', 'check:lint').then(() => check('Format', 'check:format')),
    ])
  }

  const jest = async (project, env, workers = 2) => {
    const file = path.join(results, `${project}.json`)
    const args = [
      'node_modules/jest/bin/jest.js',
      '--selectProjects',
      project,
      `--maxWorkers=${workers}`,
      '--json',
      `--outputFile=${file}`,
      ...(isFiltered ? ['--passWithNoTests', ...filter] : []),
    ]
    const code = await step(`Jest: ${project}`, 'node', args, env)
    const found = readJson(file)
    passed += found?.numPassedTests ?? 0
    // A file that could not even be loaded has no tests to count, so it counts itself.
    failed += (found?.numFailedTests ?? 0) + (found?.numRuntimeErrorTestSuites ?? 0)
    if (code !== 0 && !found?.numFailedTests && !found?.numRuntimeErrorTestSuites) failed += 1
    if (!found?.numTotalTests && !isFiltered) count(`Jest: ${project} ran no test`, false)
  }
  process.env.RUBRICANT_THREADS = await ensureThreads()
  if (wants('unit')) await jest('unit', {})

  const services = await startOwnServices('test')
  const { env, data, port } = services
  try {
    if (wants('database'))
      // Those with a database wait for hosts and leases a third of the time, so three share two cores.
      for (const [project, workers] of [
        ['database', 3],
        ['faults', 1],
      ])
        await jest(project, { ...env, LOG_LEVEL: 'silent' }, workers)

    if (wants('e2e')) {
      await ensureBuild()
      const app = await startChild('bin/server.mjs', { ...services.env, LOG_LEVEL: 'error' }, /server ready/)
      services.stops.push(app.stop)
      const code = await step(
        'Playwright',
        'npx',
        ['playwright', 'test', ...(isFiltered ? ['--no-deps', ...filter] : [])],
        {
          ...env,
          E2E_ADDRESS: `http://127.0.0.1:${port}`,
          E2E_PRACTICE_FOLDER: path.join(data, 'practice-host'),
          E2E_DATABASE_PID: path.join(data, 'postgres', 'cluster', 'postmaster.pid'),
        },
      )
      const { stats, suites } = readJson(path.join(results, 'e2e.json')) ?? {}
      const flaky = flakyTitles(suites ?? [])
      if (flaky.length > 0) say(`\n${flaky.length} passed only on a second try:\n  ${flaky.join('\n  ')}`)
      passed += (stats?.expected ?? 0) + (stats?.flaky ?? 0)
      failed += stats?.unexpected ?? 0
      if (code !== 0 && !stats?.unexpected) failed += 1
      if (!stats?.expected) count('Playwright ran no test', false)
    }
  } catch (error) {
    count(error.stack ?? String(error), false)
  } finally {
    await services.stop()
  }
  say(`\n${passed} passed, ${failed} failed`)
  process.exit(failed > 0 || passed === 0 ? 1 : 0)
})

// npm start: from a bare checkout to a running application with the demo site.
import { ensureBuild } from './lib/build.mjs'
import { ensureNodeModules } from './lib/install.mjs'
import { main, say } from './lib/say.mjs'
import { keepRunning, settings, startChild, startServices, stopOnSignals } from './lib/services.mjs'

process.chdir(new URL('..', import.meta.url).pathname)

await main(async () => {
  const options = settings()
  await ensureNodeModules()
  await ensureBuild()
  const services = await startServices(options)
  stopOnSignals(services.stop)
  const env = { LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn', ...services.env }
  const app = await keepRunning('The application', async () => {
    const one = await startChild('bin/server.mjs', env, /server ready/)
    one.child.stdout.pipe(process.stdout, { end: false })
    return one
  }).catch(async (error) => {
    await services.stop()
    throw error
  })
  services.stops.push(app.stop)
  say(
    `Practice host: http://127.0.0.1:${options.webPort}/ (SFTP on port ${options.sftpPort}, FTP on ${options.ftpPort}, with TLS from the start on ${options.ftpsPort}; letters at http://127.0.0.1:${options.webPort}/~)`,
  )
  say(`Rubricant is ready at http://127.0.0.1:${options.port}/`)
})

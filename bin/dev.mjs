// npm run dev: the application with hot reload, over the same services as npm start.
import { ensureNodeModules } from './lib/install.mjs'
import { main, say } from './lib/say.mjs'
import { settings, startServices, stopOnSignals } from './lib/services.mjs'

process.chdir(new URL('..', import.meta.url).pathname)

await main(async () => {
  const options = settings()
  await ensureNodeModules()
  const services = await startServices(options)
  stopOnSignals(services.stop)
  for (const [name, value] of Object.entries(services.env)) process.env[name] = String(value)
  const { createServer } = await import('vite')
  const { default: express } = await import('express')
  const vite = await createServer({ server: { middlewareMode: true }, appType: 'custom' })
  const load = () => vite.ssrLoadModule('./app/host.ts')
  await (await load()).prepare()
  const app = express()
  app.use(vite.middlewares)
  // Loaded for each request, so that a changed module is the one that answers.
  app.use((request, response, next) => {
    load()
      .then((host) => host.createApp(null)(request, response, next))
      .catch((error) => {
        vite.ssrFixStacktrace(error)
        next(error)
      })
  })
  const server = app.listen(options.port, '127.0.0.1', () =>
    say(`Rubricant is ready at http://127.0.0.1:${options.port}/ (with hot reload)`),
  )
  services.stops.push(async () => {
    server.closeAllConnections()
    await vite.close()
    await (await load()).shutDown(null).catch(() => {})
  })
})

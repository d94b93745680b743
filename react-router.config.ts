import type { Config } from '@react-router/dev/config'

export default {
  appDirectory: 'app',
  // Built beside what runs, and put in its place in one go (`bin/lib/build.mjs`).
  buildDirectory: process.env.RUBRICANT_BUILD ?? 'build',
  ssr: true,
  // All of them are known from the beginning: asked for as they are led to, none could be without a line.
  routeDiscovery: { mode: 'initial' },
  future: {
    v8_middleware: true,
    v8_splitRouteModules: true,
    v8_viteEnvironmentApi: true,
    v8_passThroughRequests: true,
    v8_trailingSlashAwareDataRequests: true,
  },
} satisfies Config

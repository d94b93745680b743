/// <reference types="vite/client" />
declare module 'virtual:react-router/server-build' {
  import type { ServerBuild } from 'react-router'
  const build: ServerBuild
  export = build
}
declare module '@fontsource-variable/eb-garamond'
declare module '@fontsource-variable/atkinson-hyperlegible-next'

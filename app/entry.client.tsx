import { startTransition, StrictMode } from 'react'
import { hydrateRoot } from 'react-dom/client'
import { HydratedRouter } from 'react-router/dom'
import { spelling } from '#core/naming'
import { stayWithoutLine } from './frame/stays-without-line'
import { inItsName, session } from './session/session'

stayWithoutLine()
globalThis.fetch = inItsName(globalThis.fetch.bind(globalThis), session, location.origin)

// What the server named with the whole table is named alike here from the beginning.
if (document.querySelector('[data-spelling]')) await spelling.load()

startTransition(() => {
  hydrateRoot(
    document,
    <StrictMode>
      <HydratedRouter />
    </StrictMode>,
  )
})

import Joi from 'joi'
import { findFolder, findProtocol } from '#server/deliveries'
import { log } from '#server/platform'
import { answerProblems, checkInput, readJson, destinationOwner, requireSite } from '../../../owner.server'
import { progressStream } from '../../../progress.server'
import { hostName, readDestination } from '../../../upload/upload-input.server'
import type { Route } from './+types/find-way'

const protocolInput = Joi.object<{ host: string; port: number | null }>({
  host: hostName,
  port: Joi.number().port().allow(null).empty('').default(null),
}).unknown()

const uuid = Joi.string().guid({ version: 'uuidv4' }).empty('').default(null)

/** Finds what a host speaks, or the folder there that visitors see; told as it goes, and called off by hanging up. */
export async function action({ request, params }: Route.ActionArgs) {
  const stored = await requireSite(request, params.siteId, 'deliver')
  return answerProblems(async () => {
    const asked = (await readJson(request)) as Record<string, unknown> | null
    const { what, id, ...rest } = asked ?? {}
    const onError = (error: unknown) => log.error({ err: error }, 'a way that could not be found')
    if (what === 'protocol') {
      const { host, port } = checkInput(protocolInput, rest)
      return progressStream(
        request.signal,
        (signal, tell) => findProtocol(stored.account.id, host, port, signal, tell),
        onError,
      )
    }
    // Its name is no part of the way.
    const { form, hostKey } = readDestination({ ...rest, name: rest.name || 'x' })
    const { destinationId } = checkInput(
      Joi.object<{ destinationId: string | null }>({ destinationId: uuid }),
      { destinationId: id ?? '' },
    )
    const owner = destinationOwner(stored)
    return progressStream(
      request.signal,
      (signal, tell) => findFolder(form, destinationId, owner, hostKey ?? '', signal, tell),
      onError,
    )
  })
}

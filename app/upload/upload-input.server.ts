import Joi from 'joi'
import { noKey, protocols, vouchedKey } from '#core/delivery'
import type { DestinationForm, FetchPlace, Wishes } from '#server/deliveries'
import { parseJson } from '#server/platform'
import { checkInput } from '../owner.server'

const intents = [
  'test',
  'save',
  'practice',
  'use-host',
  'key',
  'remove',
  'compare',
  'send',
  'put-back',
  'go-on',
  'pause',
  'cancel',
  'by-itself',
] as const

export const uploadIntent = Joi.object<{ intent: (typeof intents)[number]; id: string | null }>({
  intent: Joi.valid(...intents).required(),
  id: Joi.string().guid({ version: 'uuidv4' }).empty('').default(null),
})

const pathList = (text: string) => {
  const list = parseJson(text)
  const { error } = Joi.array().items(Joi.string().max(2_000)).max(100_000).required().validate(list)
  if (error) throw new Error('no list of paths')
  return list as string[]
}

const wishes = Joi.object<{
  paths: string[] | null
  strays: string[]
  removeLeftovers: boolean
  beginAt: Date | null
}>({
  paths: Joi.string().custom(pathList, 'paths').empty('').default(null),
  strays: Joi.string().custom(pathList, 'paths').empty('').default([]),
  removeLeftovers: Joi.valid('on', '').empty('').default(false),
  beginAt: Joi.date().iso().greater('now').empty('').default(null).messages({
    'date.greater': 'Choose a time that is still to come.',
  }),
})

/** What an author wants of a delivery. */
export function readWishes(form: Record<string, unknown>): Wishes {
  const { paths, removeLeftovers, ...rest } = checkInput(wishes, form)
  return { ...rest, paths: paths && new Set(paths), removeLeftovers: Boolean(removeLeftovers), goesOn: true }
}

const byItself = Joi.object<{ minutes: number | null }>({
  minutes: Joi.number().integer().min(1).max(10_080).empty('').default(null),
})

export const readByItself = (form: Record<string, unknown>): number | null =>
  checkInput(byItself, form).minutes

const line = (name: string) =>
  Joi.string()
    .trim()
    .max(300)
    .required()
    .messages({ 'string.empty': `Enter ${name}.`, 'any.required': `Enter ${name}.` })

const withScheme = 'Write the public address with http:// or https:// in front.'

export const hostName = line('the host’s name')
  .pattern(/^[A-Za-z0-9.:_-]+$/)
  .messages({ 'string.pattern.base': 'A host’s name has letters, digits, dots and hyphens only.' })

const destination = Joi.object({
  name: line('a name for the destination'),
  protocol: Joi.valid(...Object.keys(protocols)).default('sftp'),
  // Only SSH takes keys.
  signIn: Joi.when('protocol', { is: 'sftp', then: Joi.valid('password', 'made-key', 'own-key').default('password'), otherwise: Joi.any().empty(Joi.any()).default('password') }),
  privateKey: Joi.string().max(20_000).empty('').default(null),
  passphrase: Joi.string().max(1000).allow('').default(''),
  host: hostName,
  port: Joi.number().port().required().messages({ 'number.base': 'Enter the port, usually 22.', 'number.port': 'A port is a number from 1 to 65535.' }),
  account: line('the account'),
  password: Joi.string().max(1000).allow('').default(''),
  folder: Joi.string().trim().max(500).allow('').default(''),
  publicAddress: Joi.string().trim().uri({ scheme: ['http', 'https'] }).max(500).required()
    .messages({ 'string.empty': 'Enter the public address.', 'string.uri': withScheme, 'string.uriCustomScheme': withScheme }),
  hostKey: Joi.alternatives(Joi.valid(vouchedKey, noKey), Joi.string().pattern(/^SHA256:[A-Za-z0-9+/]{43}$/)).empty('').default(null),
}) // prettier-ignore

/** Checks the form of a destination; an empty password keeps the stored one. */
export function readDestination(form: Record<string, unknown>): {
  form: DestinationForm
  hostKey: string | null
} {
  const { hostKey, password, ...rest } = checkInput(destination, form)
  const publicAddress = rest.publicAddress.endsWith('/') ? rest.publicAddress : `${rest.publicAddress}/`
  return { form: { ...rest, publicAddress, password: password === '' ? null : password }, hostKey }
}

const fetched = destination
  .fork('name', (field) => field.optional())
  .fork('publicAddress', () =>
    Joi.string()
      .trim()
      .uri({ scheme: ['http', 'https'] })
      .max(500)
      .allow('')
      .default('')
      .messages({ 'string.uriCustomScheme': withScheme, 'string.uri': withScheme }),
  )

/** Checks a place that a site is fetched from, and the key that was accepted, if one was. */
export function readPlace(input: Record<string, unknown>): { place: FetchPlace; hostKey: string | null } {
  const { hostKey, name: _, like: __, publicAddress, ...rest } = checkInput(fetched, input)
  const address = publicAddress === '' || publicAddress.endsWith('/') ? publicAddress : `${publicAddress}/`
  return { place: { ...rest, publicAddress: address }, hostKey }
}

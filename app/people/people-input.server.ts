import Joi from 'joi'
import { type GivenRole, givenRoles } from '#core/site'

const intents = ['invite', 'hand-out', 'look', 'end-look', 'withdraw', 'role', 'remove', 'leave'] as const

export const peopleIntent = Joi.object<{ intent: (typeof intents)[number] }>({
  intent: Joi.valid(...intents).required(),
}).unknown()

const label = Joi.string().trim().max(100).allow('').default('')
const days = Joi.number().integer().min(1).max(365)

export const inviteInput = Joi.object<{ gives: 'writer' | 'partner'; label: string; days: number }>({
  gives: Joi.valid('writer', 'partner').required(),
  label,
  days: days.default(14),
}).unknown()

export const handOutInput = Joi.object<{ label: string; days: number }>({
  label,
  days: days.default(90),
}).unknown()

const id = Joi.string().guid({ version: 'uuidv4' }).required()

export const invitationInput = Joi.object<{ id: string }>({ id }).unknown()
export const personInput = invitationInput
export const roleInput = Joi.object<{ id: string; role: GivenRole }>({
  id,
  role: Joi.valid(...givenRoles).required(),
}).unknown()

export const lookInput = Joi.object<{ label: string; days: number }>({
  label,
  days: days.default(30),
}).unknown()

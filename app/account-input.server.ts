import Joi from 'joi'

/** Where to go after signing in: a path of ours, never another site. */
const next = Joi.string()
  .pattern(/^\/(?![/\\])[^\\\u0000-\u0020\u007f]*$/)
  .default('/sites')
  .empty('')
  .failover('/sites')
const email = Joi.string().email({ tlds: false }).max(200).lowercase().trim().required()
  .messages({ 'any.required': 'Enter your e-mail address.', 'string.empty': 'Enter your e-mail address.', 'string.email': 'This is no e-mail address.' }) // prettier-ignore

const chosen = Joi.string().min(10).max(200).required()
  .messages({ 'string.empty': 'Choose a password.', 'string.min': 'Choose a password of ten characters or more.' }) // prettier-ignore

export const nextInput = Joi.object<{ next: string }>({ next }).unknown()

export const signInInput = Joi.object<{ email: string; password: string; next: string }>({
  email,
  password: Joi.string().max(200).required().messages({ 'string.empty': 'Enter your password.' }),
  next,
})

export const signUpInput = Joi.object<{ email: string; password: string; next: string }>({
  email,
  password: chosen,
  next,
})

const again = Joi.string().max(200).required().messages({ 'string.empty': 'Enter your password.' })

export const accountIntent = Joi.object<{
  intent: 'name' | 'address' | 'password' | 'second-begin' | 'second-confirm' | 'second-end' | 'end' | 'leave'
}>({
  intent: Joi.valid(
    'name',
    'address',
    'password',
    'second-begin',
    'second-confirm',
    'second-end',
    'end',
    'leave',
  ).required(),
}).unknown()

export const passwordInput = Joi.object<{ current: string; next: string }>({
  current: again,
  next: chosen,
}).unknown()

/** Which sessions are to end: one, or all others. */
export const endInput = Joi.object<{ end: string; password: string }>({
  end: Joi.alternatives(Joi.valid('others'), Joi.string().guid({ version: 'uuidv4' })).required(),
  password: again,
}).unknown()

export const leaveInput = Joi.object<{ password: string; typed: string }>({
  password: again,
  typed: Joi.string()
    .trim()
    .lowercase()
    .max(200)
    .required()
    .messages({ 'string.empty': 'Type your e-mail address.' }),
}).unknown()

/** What others know an account by; nothing that would break a line of theirs or turn it round. */
export const nameInput = Joi.object<{ name: string }>({
  name: Joi.string()
    .trim()
    .max(60)
    .allow('')
    .pattern(/^[^\p{Cc}\p{Cf}\p{Zl}\p{Zp}]*$/u)
    .required()
    .messages({ 'string.pattern.base': 'A name has letters, spaces and signs only.', 'string.max': 'A name has at most 60 characters.' }), // prettier-ignore
}).unknown()

/** A code of a second step: six digits, or a spare one. */
const code = Joi.string().trim().max(20).required().messages({ 'string.empty': 'Type the code.' })

export const codeInput = Joi.object<{ code: string; next: string }>({ code, next }).unknown()

export const ownCodeInput = Joi.object<{ code: string }>({ code }).unknown()

export const ownPasswordInput = Joi.object<{ password: string }>({ password: again }).unknown()

export const askInput = Joi.object<{ email: string; next: string }>({ email, next }).unknown()

export const forgottenInput = Joi.object<{ email: string }>({ email }).unknown()

export const choosePasswordInput = Joi.object<{ password: string }>({ password: chosen }).unknown()

export const addressInput = Joi.object<{ email: string; password: string }>({
  email,
  password: again,
}).unknown()

import Joi from 'joi'

const id = Joi.string().guid({ version: 'uuidv4' })
const text = Joi.string().trim().min(1).max(4_000).required().messages({
  'string.empty': 'Write something first.',
  'string.max': 'A note has at most 4,000 characters.',
})

const place = Joi.object<{ tag: string; nth: number; quote: string }>({
  tag: Joi.string()
    .pattern(/^[a-z][a-z0-9-]{0,40}$/)
    .required(),
  nth: Joi.number().integer().min(0).max(1_000_000).required(),
  quote: Joi.string().max(200).allow('').default(''),
})

export interface NoteFields {
  readonly pageId: string | null
  readonly place: { readonly tag: string; readonly nth: number; readonly quote: string } | null
  readonly text: string
}

const noteFields = {
  pageId: id.allow(null).required(),
  place: place.allow(null).default(null),
  text,
}

/** What those who take part ask for. */
export type NoteRequest =
  | ({ readonly do: 'note' } & NoteFields)
  | { readonly do: 'answer'; readonly id: string; readonly text: string }
  | { readonly do: 'settle' | 'reopen' | 'remove'; readonly id: string }

export const noteRequest = Joi.object<NoteRequest>({
  do: Joi.valid('note', 'answer', 'settle', 'reopen', 'remove').required(),
})
  .when('.do', { is: 'note', then: Joi.object(noteFields) })
  .when('.do', { is: 'answer', then: Joi.object({ id: id.required(), text }) })
  .when('.do', { is: Joi.valid('settle', 'reopen', 'remove'), then: Joi.object({ id: id.required() }) })

/** What others know somebody by who has no account; nothing that would break a line or turn it round. */
const author = Joi.string()
  .trim()
  .min(1)
  .max(60)
  .pattern(/^[^\p{Cc}\p{Cf}\p{Zl}\p{Zp}]*$/u)
  .required()
  .messages({
    'string.empty': 'Say who you are, so that your note can be answered.',
    'string.pattern.base': 'A name has letters, spaces and signs only.',
  })

/** What whoever holds the address of a look asks for. */
export type VisitorRequest = { readonly author: string } & Extract<NoteRequest, { do: 'note' | 'answer' }>

export const visitorRequest = Joi.object<VisitorRequest>({
  author,
  do: Joi.valid('note', 'answer').required(),
})
  .when('.do', { is: 'note', then: Joi.object(noteFields) })
  .when('.do', { is: 'answer', then: Joi.object({ id: id.required(), text }) })

import Joi from 'joi'

/** What the server is told by its environment; read and checked once, at start. */
export interface Config {
  readonly port: number
  readonly databaseUrl: string
  /** 32 bytes that seal destination passwords and sign preview addresses. */
  readonly key: Buffer
  /** The practice host that the demo site is delivered to, and the demo account's switch. */
  readonly demo: {
    readonly sftpPort: number
    readonly publicAddress: string
    readonly account: string
    readonly password: string
  } | null
  readonly logLevel: string
  /** Whether cookies are marked Secure: true behind TLS. */
  readonly secureCookies: boolean
}

const schema = Joi.object({
  PORT: Joi.number().port().default(4600),
  DATABASE_URL: Joi.string()
    .uri({ scheme: ['postgres', 'postgresql'] })
    .required(),
  RUBRICANT_KEY: Joi.string().base64().length(44).required(),
  RUBRICANT_DEMO: Joi.boolean().default(false),
  RUBRICANT_SECURE_COOKIES: Joi.boolean().default(false),
  LOG_LEVEL: Joi.string().valid('fatal', 'error', 'warn', 'info', 'debug', 'trace', 'silent').default('info'),
  PRACTICE_SFTP_PORT: Joi.number().port().default(4622),
  PRACTICE_WEB_PORT: Joi.number().port().default(4680),
  PRACTICE_ACCOUNT: Joi.string().default('keeper'),
  PRACTICE_PASSWORD: Joi.string().when('RUBRICANT_DEMO', { is: true, then: Joi.required() }),
}).unknown()

/** Reads the configuration; throws one error that names everything wrong with it. */
export function readConfig(environment: NodeJS.ProcessEnv): Config {
  const { error, value } = schema.validate(environment, { abortEarly: false, convert: true })
  if (error) {
    // Joi's message holds the names and the rules, never a secret's value.
    const problems = error.details.map((detail) => detail.message.replace(/ with value .*/, '')).join('; ')
    throw new Error(`The server's environment is not complete: ${problems}`)
  }
  return {
    port: value.PORT,
    databaseUrl: value.DATABASE_URL,
    key: Buffer.from(value.RUBRICANT_KEY, 'base64'),
    demo: value.RUBRICANT_DEMO
      ? {
          sftpPort: value.PRACTICE_SFTP_PORT,
          publicAddress: `http://127.0.0.1:${value.PRACTICE_WEB_PORT}/`,
          account: value.PRACTICE_ACCOUNT,
          password: value.PRACTICE_PASSWORD,
        }
      : null,
    logLevel: value.LOG_LEVEL,
    secureCookies: value.RUBRICANT_SECURE_COOKIES,
  }
}

let current: Config | null = null

/** The configuration of this process. */
export function config(): Config {
  return (current ??= readConfig(process.env))
}
